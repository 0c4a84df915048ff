import fc from 'fast-check'
import { describe, expect, it } from 'vitest'
import { editLeg } from '#core/edits/lines/legs'
import { editStop } from '#core/edits/marks/stops'
import { addStop } from '#core/edits/trips/visits'
import { compile } from '#core/frame/compile'
import { frameAt } from '#core/frame/frame-at'
import { LABEL_CALLS } from '#core/labels/label-messages'
import { besideAt, labelBox, setLabel } from '#core/marks/label-layout'
import { findLabelPlaces, labelScene, NO_PLACES, PLACES, placesOf } from '#core/labels/label-scene'
import type { LabelScene } from '#core/labels/label-solver'
import { costOf, crowdedLabels, labelCosts, placeLabels } from '#core/labels/label-solver'
import { pinBox } from '#core/marks/pins'
import { PINS } from '#core/pins/catalogue'
import { lengthInside, overlapArea } from '#core/geometry/box'
import { labelSchema, PIN_SHAPES, pinSchema, SIDES } from '#core/journey/schema'
import { demo, journeyOver, movingDemo } from '../support/journeys'

const reference = { width: 1920, height: 1080 }

describe('place of a label', () => {
  it('lies clear of a pin of one’s own, which is as high as it was asked to be, about its anchor', () => {
    const picture = { image: 'd'.repeat(64), width: 300, height: 100, anchor: { x: 0.25, y: 0.5 } }
    expect(pinBox(pinSchema.parse({ shape: 'own', picture, size: 50 }))).toEqual({ left: -37.5, right: 112.5, top: -25, bottom: 25 })
    expect(() => pinSchema.parse({ shape: 'own' })).toThrow(/no picture/)
  })

  it.each(SIDES)('on the %s side lies clear of the pin', (side) => {
    for (const shape of PIN_SHAPES.filter((each) => each !== 'none' && each !== 'own'))
      for (const plate of [null, {}]) {
        const pin = pinSchema.parse({ shape, size: 80 })
        const { style } = labelSchema.parse({ style: { size: 40, plate } })
        const block = setLabel('Harrowmere', '', style, reference)
        const { left, right, top, bottom } = PINS[shape].box
        const { align, x, top: above } = besideAt(pin, side, style, block)
        // The text from its capitals to its baseline.
        const start = x - { left: 0, center: block.width / 2, right: block.width }[align]
        const text = { left: start, right: start + block.width, top: above, bottom: above + block.height }
        expect(overlapArea(text, { left: 80 * left, right: 80 * right, top: 80 * top, bottom: 80 * bottom }), shape).toBe(0)
      }
  })

  it('is aligned towards the pin', () => {
    const { style } = labelSchema.parse({})
    const block = setLabel('Harrowmere', '', style, reference)
    expect(SIDES.map((side) => besideAt(pinSchema.parse({}), side, style, block).align)).toEqual([
      'center',
      'left',
      'left',
      'left',
      'center',
      'right',
      'right',
      'right',
    ])
  })

  it('set by hand has its middle there, and a line leads to it where it is far', () => {
    const journey = editStop(journeyOver([[500, 500], [1500, 500]]), 's1', { name: 'Far', label: { place: { kind: 'free', x: 200, y: -150 } } }) // prettier-ignore
    const { label, stop } = compile(journey).marks[1]!
    const { left, right } = labelBox(label!, { ...stop.label.style, halo: null })
    expect((left + right) / 2).toBeCloseTo(200, 6)
    expect(label!.top + label!.block.height / 2).toBeCloseTo(-150, 6)
    expect(label!.leader!.to.x).toBeCloseTo(labelBox(label!, stop.label.style).left, 6)
    expect(compile(editStop(journey, 's1', { label: { leader: false } })).marks[1]!.label!.leader).toBeNull()
  })
})

describe('the length of a segment in a box', () => {
  const box = { left: 0, right: 10, top: 0, bottom: 10 }
  it.each([
    [[-5, 5, 15, 5], 10],
    [[2, 2, 5, 6], 5],
    [[-5, -5, 5, 5], Math.hypot(5, 5)],
    [[-5, 0, 5, -10], 0],
    [[11, 0, 11, 10], 0],
    [[3, 3, 3, 3], 0],
  ] as const)('%j is %d', ([ax, ay, bx, by], length) => expect(lengthInside(box, ax, ay, bx, by)).toBeCloseTo(length, 9))
})

/** Scenes of a few labels at random in a small frame, with some pins and lines. */
const place = fc.record({ x: fc.integer({ min: 40, max: 560 }), y: fc.integer({ min: 40, max: 360 }) })
const scenes: fc.Arbitrary<LabelScene> = fc
  .record({
    stops: fc.array(place, { minLength: 2, maxLength: 5 }),
    width: fc.integer({ min: 60, max: 200 }),
    line: fc.array(place, { minLength: 2, maxLength: 4 }),
    moves: fc.boolean(),
  })
  .map(({ stops, width, line, moves }) => {
    const candidates = [
      [14, -10],
      [-14 - width, -10],
      [-width / 2, -34],
      [-width / 2, 14],
      [10, -30],
      [-10 - width, 12],
    ].map(([left, top], i) => ({
      box: { left: left!, right: left! + width, top: top!, bottom: top! + 20 },
      play: { left: -30, right: 30, top: 0, bottom: 0 },
      cost: i / 10,
    }))
    const sample = (shift: number, from: number) => ({
      from,
      to: from + 5,
      places: stops.map(({ x, y }) => ({ x: x + shift, y, scale: 1 })),
      obstacles: stops.map(({ x, y }, own) => ({
        box: { left: x + shift - 8, right: x + shift + 8, top: y - 8, bottom: y + 8 },
        own,
        to: Infinity,
      })),
      lines: [
        {
          points: line.flatMap(({ x, y }) => [x + shift, y]),
          shares: line.map((_, i) => i / (line.length - 1)),
          depart: 0,
          arrive: 8,
          ink: 4,
          vehicle: null,
        },
      ],
    })
    return {
      frame: { width: 600, height: 400 },
      labels: stops.map((_, i) => ({
        stop: `s${i}`,
        appears: i,
        leads: { pin: { left: -8, right: 8, top: -8, bottom: 8 }, size: 20 },
        candidates,
      })),
      samples: moves ? [sample(0, 0), sample(25, 5)] : [sample(0, 0)],
    }
  })

function* allChoices(counts: readonly number[]): Generator<number[]> {
  if (counts.length === 0) return void (yield [])
  for (const rest of allChoices(counts.slice(1))) for (let c = 0; c < counts[0]!; c++) yield [c, ...rest]
}

describe('labels that look for their places', () => {
  const at = (left: number, top: number, width: number, cost = 0) => ({
    box: { left, right: left + width, top, bottom: top + 20 },
    play: { left: 0, right: 0, top: 0, bottom: 0 },
    cost,
  })
  const leads = { pin: { left: -8, right: 8, top: -8, bottom: 8 }, size: 20 }
  const resting = (places: LabelScene['samples'][number]['places'], obstacles: LabelScene['samples'][number]['obstacles'] = []) => [
    { from: 0, to: 5, places, obstacles, lines: [] },
  ]
  const frame = { width: 600, height: 400 }

  it('keep the lines that lead to them off other names', () => {
    // The first name lies just above the second stop; the preferred place of the second is straight above it, beyond that name.
    const first = { stop: 'a', appears: 0, leads, candidates: [at(-40, -40, 80)] }
    const second = { stop: 'b', appears: 0, leads, candidates: [at(-40, -120, 80), at(-40, 60, 80, 0.9)] }
    const places = [
      { x: 300, y: 200, scale: 1 },
      { x: 300, y: 230, scale: 1 },
    ]
    expect(placeLabels({ frame, labels: [first, second], samples: resting(places) })).toEqual([0, 1])
    const alone = { frame, labels: [first, { ...second, leads: null }], samples: resting(places) }
    expect(placeLabels(alone)).toEqual([0, 0])
  })

  it('keep those lines off one another, and off what stands in the frame', () => {
    const first = { stop: 'a', appears: 0, leads, candidates: [at(60, 60, 80), at(-140, 60, 80, 0.9)] }
    const second = { stop: 'b', appears: 0, leads, candidates: [at(-140, 60, 80)] }
    const places = [
      { x: 260, y: 200, scale: 1 },
      { x: 340, y: 200, scale: 1 },
    ]
    expect(placeLabels({ frame, labels: [first, second], samples: resting(places) })).toEqual([1, 0])
    const pin = { box: { left: 285, right: 305, top: 225, bottom: 245 }, own: null, to: Infinity }
    expect(placeLabels({ frame, labels: [first], samples: resting(places, [pin]) })).toEqual([1])
    expect(placeLabels({ frame, labels: [first], samples: resting(places) })).toEqual([0])
  })

  it('take the best there are, as trying all of them shows', () => {
    fc.assert(
      fc.property(scenes, (scene) => {
        const costs = labelCosts(scene)
        let least = Infinity
        for (const choice of allChoices(scene.labels.map(({ candidates }) => candidates.length)))
          least = Math.min(least, costOf(choice, costs))
        expect(costOf(placeLabels(scene), costs)).toBeCloseTo(least, 6)
      }),
      { numRuns: 60 },
    )
  })

  it('are never worse off than on their usual side, with a hundred stops', () => {
    fc.assert(
      fc.property(
        fc.array(fc.tuple(fc.integer({ min: 0, max: 1900 }), fc.integer({ min: 0, max: 1060 })), { minLength: 60, maxLength: 100 }),
        (spots) => {
          let journey = journeyOver(spots, {}, 200)
          journey = { ...journey, stops: journey.stops.map((stop, i) => ({ ...stop, name: `Stop number ${i}` })) }
          const scene = labelScene(compile(journey, NO_PLACES))!
          const costs = labelCosts(scene)
          expect(costOf(placeLabels(scene), costs)).toBeLessThanOrEqual(
            costOf(
              scene.labels.map(() => 0),
              costs,
            ),
          )
        },
      ),
      { numRuns: 4 },
    )
  })

  it('keep clear of one another, of pins, lines and edges in the demo', () => {
    for (const journey of [demo(), movingDemo()]) {
      const scene = labelScene(compile(journey, NO_PLACES))!
      const costs = labelCosts(scene)
      // A cost below 1 a label stands for the liking of sides alone.
      expect(costOf(placeLabels(scene), costs)).toBeLessThan(scene.labels.length * 1000)
    }
    const scene = labelScene(compile(demo(), NO_PLACES))!
    expect(costOf(placeLabels(scene), labelCosts(scene))).toBeLessThan(scene.labels.length)
  })

  it('get out of the way of a name set by hand, of the edge, and of the vehicle that rests', () => {
    let journey = journeyOver([[300, 540], [1800, 540]], { vehicle: null }, 10) // prettier-ignore
    journey = { ...journey, stops: journey.stops.map((stop) => ({ ...stop, name: 'A rather long name' })) }
    const sideOf = (j: typeof journey, id: string) => findLabelPlaces(compile(j, NO_PLACES)).get(id)!.side
    // The line leaves to the right, close under the name, so that goes above; at the frame's right edge it cannot go to the right.
    expect(sideOf(journey, 's0')).toBe('top-right')
    expect(sideOf(journey, 's1')).toMatch(/^top/)
    const other = addStop(journey, { x: 700, y: 300 }, { stop: 'x', leg: 'lx' }, { traveller: 'traveller' })
    const named = editStop(other, 'x', { name: 'In the way', label: { place: { kind: 'free', x: -200, y: 160 } } })
    expect(sideOf(named, 's0')).not.toBe('top-right')
    // A vehicle that stands there covers the sides; above it there is room.
    const driven = editLeg(journey, 'l1', { vehicle: { kind: 'catalogue', artwork: 'camper', colour: '#d8412f', size: 160 } })
    expect(sideOf(driven, 's0')).toMatch(/^(top|bottom)/)
  })

  it('are the same wherever the search is done: in a worker, from what can be sent there', () => {
    const compiled = compile(movingDemo(), NO_PLACES)
    const scene = LABEL_CALLS.place.order.parse(structuredClone(labelScene(compiled)!))
    expect(placesOf(scene, placeLabels(scene))).toEqual(findLabelPlaces(compiled))
    // What was found before plays no part.
    const elsewhere = new Map(compiled.marks.map(({ stop }) => [stop.id, PLACES[5]!]))
    expect(findLabelPlaces(compile(movingDemo(), elsewhere))).toEqual(findLabelPlaces(compiled))
  })

  it('lie in the film where the search put them', () => {
    const journey = movingDemo()
    const places = findLabelPlaces(compile(journey, NO_PLACES))
    for (const item of frameAt(compile(journey), 99).items) {
      if (item.kind !== 'label') continue
      const { stop } = compile(journey).marks.find((mark) => mark.stop.id === item.stop)!
      const { side, further } = places.get(item.stop)!
      expect(item.free.label).toMatchObject(besideAt(stop.pin, side, stop.label.style, item.label.block, further))
    }
  })

  it('are told apart by whether they overlap anything, wherever they were put', () => {
    const free = journeyOver([[400, 400], [1400, 700]], { vehicle: null }, 10) // prettier-ignore
    const told = (journey: typeof free) => {
      const scene = labelScene(compile(journey, NO_PLACES))!
      return crowdedLabels(scene, placeLabels(scene), labelCosts(scene))
    }
    expect(told(free)).toEqual([])
    // Two names at one spot are in each other's way; one that has no room between its pin and the frame's edge cannot be read.
    const put = (id: string, x: number, y: number) => editStop(named, id, { label: { place: { kind: 'free', x, y } } })
    const named = { ...free, stops: free.stops.map((stop) => ({ ...stop, name: 'A name' })) }
    const atEdge = { ...named, stops: named.stops.map((stop) => (stop.id === 's0' ? { ...stop, at: { x: 40, y: 400 } } : stop)) }
    expect(told(editStop(atEdge, 's0', { label: { place: { kind: 'side', side: 'left' } } }))).toEqual(['s0'])
    expect(told(editStop(atEdge, 's0', { label: { place: { kind: 'side', side: 'top' } } }))).toEqual([])
    expect(told(put('s0', -420, 0))).toEqual([])
    expect(told(editStop(put('s0', 0, 200), 's1', { label: { place: { kind: 'free', x: -1000, y: -100 } } }))).toEqual(['s0', 's1'])
  })

  it('do not look where all are set by hand', () => {
    const journey = demo()
    const set = journey.stops.reduce((j, { id }) => editStop(j, id, { label: { place: { kind: 'side', side: 'top' } } }), journey)
    expect(findLabelPlaces(compile(set))).toEqual(new Map())
    // Of one that is to find its place again it is looked for.
    const free = editStop(set, 'lampwick', { label: { place: { kind: 'automatic' } } })
    expect([...findLabelPlaces(compile(free)).keys()]).toEqual(['lampwick'])
  })
})
