/** What is to be seen at each moment: the promises of the model, checked at every frame of the demo and on awkward trips. */
import fc from 'fast-check'
import { describe, expect, it } from 'vitest'
import { projectionOf } from '#core/camera/projection'
import type { CompiledJourney } from '#core/trips/compiled'
import { compile } from '#core/frame/compile'
import type { Frame, InkItem, LabelItem, PinItem, VehicleItem } from '#core/frame/frame'
import { frameAt } from '#core/frame/frame-at'
import { degrees, turnBetween } from '#core/geometry/angle'
import { pointAt } from '#core/geometry/course'
import { distance } from '#core/geometry/point'
import { editLeg } from '#core/edits/lines/legs'
import { editStop } from '#core/edits/marks/stops'
import { setLayover } from '#core/edits/pace/pace'
import { editTraveller } from '#core/edits/trips/travellers'
import { moveLayer } from '#core/edits/journey'
import { parseJourney } from '#core/journey/parse'
import type { Journey } from '#core/journey/schema'
import { LAYERS } from '#core/journey/schema'
import { frameTime } from '#core/pace/rate'
import { artworkOf } from '#core/vehicles/catalogue'
import { demo, journeyOver } from '../support/journeys'

const framesOf = (compiled: CompiledJourney): Frame[] =>
  Array.from({ length: compiled.frames }, (_, k) => frameAt(compiled, frameTime(k, compiled.journey.frame.rate)))
const inks = (frame: Frame) => frame.items.filter((item): item is InkItem => item.kind === 'ink')
const pins = (frame: Frame) => frame.items.filter((item): item is PinItem => item.kind === 'pin')
const labels = (frame: Frame) => frame.items.filter((item): item is LabelItem => item.kind === 'label')
const vehicle = (frame: Frame) => frame.items.find((item): item is VehicleItem => item.kind === 'vehicle')

describe('every frame of the demo', () => {
  const compiled = compile(demo())
  const frames = framesOf(compiled)
  const legs = compiled.travellers[0]!.legs

  it('turns the vehicle by no more than 12 degrees from frame to frame while it travels', () => {
    let greatest = 0
    frames.forEach((frame, k) => {
      const [before, now] = [frames[k - 1]?.motions[0], frame.motions[0]]
      if (before && now && !before.resting && !now.resting && before.leg === now.leg) {
        greatest = Math.max(greatest, Math.abs(degrees(turnBetween(before.heading, now.heading))))
      }
    })
    expect(greatest).toBeGreaterThan(0.5)
    expect(greatest).toBeLessThan(12)
  })

  it('has the vehicle on the course and the head of the ink under it, never in front', () => {
    for (const frame of frames) {
      const motion = frame.motions[0]!
      const { course, leg } = legs[motion.leg]!
      const onCourse = projectionOf(frame.view, frame.reference).toScreen(pointAt(course, motion.s))
      expect(distance(projectionOf(frame.view, frame.reference).toScreen(motion.position), onCourse)).toBeLessThan(0.5)
      const ink = inks(frame).find((item) => item.leg === leg.id)
      if (ink && !motion.resting) {
        expect(ink.head).toBeLessThanOrEqual(motion.s)
        // Under the vehicle: the widest gap is that of the sailing boat, 0.32 of its length.
        expect((motion.s - ink.head) * frame.view.zoom).toBeLessThanOrEqual(0.32 * leg.vehicle!.size + 1e-6)
      }
    }
  })

  it('never takes ink back', () => {
    const head = new Map<string, number>()
    for (const frame of frames) {
      for (const ink of inks(frame)) {
        expect(ink.head).toBeGreaterThanOrEqual((head.get(ink.leg) ?? 0) - 1e-9)
        head.set(ink.leg, ink.head)
      }
    }
  })

  it('moves without leaps: no more than three times the mean speed of the leg', () => {
    frames.forEach((frame, k) => {
      const [before, now] = [frames[k - 1]?.motions[0], frame.motions[0]]
      if (!before || !now) return
      const leg = legs[now.leg]!
      const mean = leg.course.length / ((leg.arrive - leg.depart) * 30)
      expect(Math.abs(now.travelled - before.travelled)).toBeLessThanOrEqual(3 * mean)
    })
  })

  it('shows the finished journey last: all ink whole, all pins and names settled, the vehicle gone', () => {
    const last = frames.at(-1)!
    expect(inks(last).map((ink) => ink.head / ink.course.length)).toEqual([1, 1, 1, 1])
    expect(pins(last).map((pin) => [pin.scale, pin.opacity])).toEqual(Array(5).fill([1, 1]))
    expect(labels(last).map(({ label }) => label.block.lines[0]!.text)).toEqual([
      'Harrowmere',
      'Quillhaven',
      'Oar’s End',
      'Lampwick',
      'Emberlight',
    ])
    expect(labels(last).every(({ elapsed }) => elapsed === null)).toBe(true)
    expect(vehicle(last)).toBeUndefined()
  })

  it('is the same when asked in any order', () => {
    const again = frameAt(compile(demo()), frameTime(433, '30/1'))
    expect(again.items).toEqual(frames[433]!.items)
  })

  it('puts sheets lowest, then ink, pins, vehicle, names, postcards and captions', () => {
    const order = ['sheet', 'ink', 'pin', 'vehicle', 'label', 'postcard', 'caption']
    for (const frame of frames) {
      const ranks = frame.items.map((item) => order.indexOf(item.kind))
      expect(ranks).toEqual([...ranks].sort((a, b) => a - b))
    }
  })
})

describe('the order of what is over what', () => {
  it('may be any other; the map stays under all of it, titles over it', () => {
    const journey = demo()
    const order = [...LAYERS].reverse()
    const compiled = compile({ ...journey, order })
    for (const frame of [frameAt(compiled, 10), frameAt(compiled, 99)]) {
      const layerOf = { sheet: -1, ground: -1, planned: 4, ink: 4, pin: 3, vehicle: 2, label: 1, postcard: 0, caption: 9 } as const
      const ranks = frame.items.flatMap(({ kind }) => (kind in layerOf ? [layerOf[kind as keyof typeof layerOf]] : []))
      expect(ranks).toEqual([...ranks].sort((a, b) => a - b))
      expect(new Set(ranks).size).toBeGreaterThan(4)
    }
    expect(moveLayer(moveLayer(journey, 0, 4), 4, 0)).toEqual(journey)
    expect(() => parseJourney({ ...JSON.parse(JSON.stringify(journey)), order: ['lines', 'lines', 'marks', 'labels', 'cards'] })).toThrow(
      /each layer once/,
    )
  })
})

describe('vehicles', () => {
  const bus = { kind: 'catalogue', artwork: 'bus', colour: '#d8412f', size: 100 } as const
  const car = { ...bus, artwork: 'car' } as const
  const at = (journey: Journey, t: number) => vehicle(frameAt(compile(journey), t))!

  it('seen from the side is mirrored when it heads left, and stays upright', () => {
    const journey = journeyOver(
      [
        [1600, 500],
        [300, 520],
      ],
      { vehicle: bus },
    )
    const item = at(journey, 4)
    expect(item.mirrored).toBe(true)
    expect(Math.abs(degrees(item.rotation))).toBeLessThan(2)
  })

  it('seen from the side leans with the slope, at most 12 degrees', () => {
    const up = at(
      journeyOver(
        [
          [300, 900],
          [1300, 750],
        ],
        { vehicle: bus },
      ),
      4,
    )
    expect(degrees(up.rotation)).toBeCloseTo((Math.atan2(-150, 1000) * 180) / Math.PI, 3)
    const cliff = at(
      journeyOver(
        [
          [300, 1000],
          [400, 100],
        ],
        { vehicle: bus },
      ),
      4,
    )
    expect(degrees(cliff.rotation)).toBeCloseTo(-12, 6)
    expect(cliff.mirrored).toBe(false)
  })

  it('does not turn round until 10 degrees past the vertical', () => {
    // A course that swings to 97 degrees and back: within the hysteresis, so it faces right throughout.
    const nodes = [{ at: { x: 800, y: 500 }, kind: 'smooth' as const, before: { x: 8, y: -60 }, after: { x: -8, y: 60 } }]
    const swing = journeyOver(
      [
        [700, 300],
        [900, 800],
      ],
      { vehicle: bus, course: { kind: 'drawn', leave: { x: 60, y: 20 }, nodes, arrive: { x: -40, y: -40 } } },
    )
    const mirrored = framesOf(compile(swing)).map((frame) => vehicle(frame)?.mirrored)
    expect(mirrored.filter((value) => value === true)).toEqual([])
    // A hairpin turns it round exactly once.
    const hairpin = journeyOver(
      [
        [300, 300],
        [300, 800],
      ],
      { vehicle: bus, course: { kind: 'bowed', bow: 1 } },
    )
    const sides = framesOf(compile(hairpin)).flatMap((frame) => vehicle(frame)?.mirrored ?? [])
    expect(sides.filter((side, i) => i > 0 && side !== sides[i - 1])).toHaveLength(1)
  })

  it('seen from above turns into its direction from where its drawing faces', () => {
    expect(
      degrees(
        at(
          journeyOver(
            [
              [300, 200],
              [300, 900],
            ],
            { vehicle: car },
          ),
          4,
        ).rotation,
      ),
    ).toBeCloseTo(90, 6)
    const plane = journeyOver(
      [
        [300, 200],
        [900, 200],
      ],
      { vehicle: { ...bus, artwork: 'airliner' } },
    )
    expect(degrees(at(plane, 4).rotation)).toBeCloseTo(90, 6)
    expect(at(plane, 4.2).altitude).toBeGreaterThan(0.9)
  })

  it('upright never turns', () => {
    const item = at(
      journeyOver(
        [
          [1000, 900],
          [300, 100],
        ],
        { vehicle: { ...bus, artwork: 'balloon' } },
      ),
      4,
    )
    expect([item.rotation, item.mirrored]).toEqual([0, false])
  })

  it('passes at speed, and without a jump in heading, through a stop without a layover', () => {
    const through = setLayover(
      journeyOver(
        [
          [200, 500],
          [900, 500],
          [1400, 900],
        ],
        { vehicle: car },
      ),
      1,
      0,
      'traveller',
    )
    const compiled = compile(through)
    const frames = framesOf(compiled)
    const arrival = Math.round(compiled.travellers[0]!.legs[0]!.arrive * 30)
    const speed = (k: number) => frames[k]!.motions[0]!.travelled - frames[k - 1]!.motions[0]!.travelled
    expect(speed(arrival)).toBeGreaterThan(2)
    expect(Math.abs(speed(arrival + 1) - speed(arrival))).toBeLessThan(0.35)
    for (let k = arrival - 20; k < arrival + 20; k++) {
      const turn = degrees(turnBetween(frames[k]!.motions[0]!.heading, frames[k + 1]!.motions[0]!.heading))
      expect(Math.abs(turn)).toBeLessThan(8)
    }
  })

  it('turns on the spot while it rests, if the same one goes on', () => {
    const rests = setLayover(
      journeyOver(
        [
          [200, 500],
          [900, 500],
          [900, 1000],
        ],
        { vehicle: car },
      ),
      1,
      1,
      'traveller',
    )
    const compiled = compile(rests)
    const { arrive, leave } = compiled.travellers[0]!.visits[1]!
    const rotation = (t: number) => degrees(vehicle(frameAt(compiled, t))!.rotation)
    expect(rotation(arrive)).toBeCloseTo(0, 6)
    expect(rotation(leave - 0.3)).toBeCloseTo(45, 3)
    expect(rotation(leave)).toBeCloseTo(90, 6)
  })

  it('gives way to another in the middle of the layover, and stays at the end if it is told to', () => {
    let journey = journeyOver(
      [
        [200, 500],
        [900, 500],
        [900, 1000],
      ],
      { vehicle: car },
    )
    journey = editLeg(journey, 'l2', { vehicle: bus })
    const compiled = compile(editTraveller(journey, 'traveller', { atEnd: 'stays' }))
    const { arrive, leave } = compiled.travellers[0]!.visits[1]!
    const artwork = (t: number) => {
      const shown = vehicle(frameAt(compiled, t))?.vehicle
      return shown?.kind === 'catalogue' ? shown.id : undefined
    }
    expect([artwork(arrive), artwork((arrive + leave) / 2), artwork(leave)]).toEqual(['car', undefined, 'bus'])
    // It fades and is faded in, a quarter of a second each: half way through it is half there.
    const opacity = (t: number) => vehicle(frameAt(compiled, t))?.opacity
    expect(opacity((arrive + leave) / 2 - 0.125)).toBeCloseTo(0.5, 6)
    expect(opacity((arrive + leave) / 2 + 0.125)).toBeCloseTo(0.5, 6)
    expect(vehicle(frameAt(compiled, 99))?.opacity).toBe(1)
  })
})

describe('an easing that swings beyond its ends', () => {
  it('waits at the stops instead of leading past them', () => {
    const swing = compile(
      journeyOver(
        [
          [200, 500],
          [1200, 500],
        ],
        { easing: [0.3, -0.6, 0.7, 1.6] },
      ),
    )
    const travelled = framesOf(swing).map((frame) => frame.motions[0]!.travelled)
    expect([Math.min(...travelled), Math.max(...travelled)]).toEqual([0, 1000])
    const { depart, arrive } = swing.travellers[0]!.legs[0]!
    const at = (u: number) => frameAt(swing, depart + u * (arrive - depart)).motions[0]!.travelled
    // By the curve it is below 0 at a tenth of the time, and above 1 at nine tenths.
    expect([at(0.1), at(0.5), at(0.9)].map((s) => Math.round(s))).toEqual([0, 500, 1000])
  })
})

describe('how fast a vehicle turns', () => {
  const spot = fc.tuple(fc.integer({ min: 100, max: 1800 }), fc.integer({ min: 100, max: 980 }))
  const rest = fc.constantFrom(0, 1 / 30, 0.1, 0.4, null)

  it.each(['car', 'bicycle', 'seaplane'] as const)('a %s never by more than 15 degrees a frame at 30 frames a second', (artwork) => {
    fc.assert(
      fc.property(
        fc.array(fc.tuple(spot, rest), { minLength: 3, maxLength: 9 }),
        fc.constantFrom('30/1', '24/1', '60/1' as const),
        (stops, rate) => {
          const trip = journeyOver(
            stops.map(([at]) => at),
            { vehicle: { kind: 'catalogue', artwork, colour: '#d8412f', size: 60 }, course: { kind: 'straight' } },
            8,
          )
          const journey = stops.reduce((j, [, layover], i) => setLayover(j, i, layover, 'traveller'), trip)
          const compiled = compile({ ...journey, frame: { ...journey.frame, rate } })
          const most = (15 * 30) / { '30/1': 30, '24/1': 24, '60/1': 60 }[rate]
          const poses = framesOf(compiled).map((frame) => vehicle(frame))
          poses.forEach((pose, k) => {
            const before = poses[k - 1]
            if (!pose || !before) return
            // One seen from the side may be mirrored; its nose points up or down as far as before.
            const nose = (item: VehicleItem) => (item.mirrored ? -item.rotation : item.rotation)
            const turn = artwork === 'bicycle' ? Math.abs(nose(pose) - nose(before)) : Math.abs(turnBetween(before.rotation, pose.rotation))
            expect(degrees(turn)).toBeLessThan(most + 0.001)
          })
        },
      ),
      { numRuns: 40 },
    )
  })

  it('widens a turn at a short stop into the legs, as long before as after', () => {
    const trip = journeyOver(
      [
        [200, 500],
        [900, 500],
        [900, 1000],
      ],
      { vehicle: { kind: 'catalogue', artwork: 'car', colour: '#d8412f', size: 20 }, easing: 'linear' },
    )
    const compiled = compile(setLayover(trip, 1, 2 / 30, 'traveller'))
    const { arrive, leave } = compiled.travellers[0]!.visits[1]!
    const heading = (t: number) => degrees(frameAt(compiled, t).motions[0]!.heading)
    const middle = (arrive + leave) / 2
    expect(heading(middle)).toBeCloseTo(45, 0)
    for (const before of [2 / 30, 4 / 30]) expect(heading(middle - before) + heading(middle + before)).toBeCloseTo(90, 0)
    expect(heading(arrive - 0.5)).toBeCloseTo(0, 6)
    expect(heading(leave + 0.5)).toBeCloseTo(90, 6)
  })

  it('jumps where the line is broken, and only there', () => {
    const trip = journeyOver(
      [
        [200, 500],
        [1600, 900],
      ],
      { vehicle: { kind: 'catalogue', artwork: 'car', colour: '#d8412f', size: 60 } },
    )
    const none = { x: 0, y: 0 }
    const journey = editLeg(trip, 'l1', {
      course: {
        kind: 'drawn',
        leave: none,
        nodes: [
          { at: { x: 900, y: 500 }, kind: 'corner', before: none, after: none, break: true },
          { at: { x: 1600, y: 200 }, kind: 'corner', before: none, after: none },
        ],
        arrive: none,
      },
    })
    const headings = framesOf(compile(journey)).map((frame) => Math.round(degrees(frame.motions[0]!.heading)))
    expect(new Set(headings)).toEqual(new Set([0, 90]))
  })
})

describe('the ink behind a vehicle', () => {
  const SIDE_VIEWS = [
    'camper',
    'bus',
    'motorbike',
    'bicycle',
    'walker',
    'seaplane',
    'airliner',
    'train',
    'ferry',
    'rowboat',
    'balloon',
  ] as const

  it.each(SIDE_VIEWS)('of a %s ends under it, whichever way it goes', (artwork) => {
    for (let degreesUp = 0; degreesUp < 360; degreesUp += 15) {
      const angle = (-degreesUp * Math.PI) / 180
      const to = [960 + 800 * Math.cos(angle), 540 + 800 * Math.sin(angle)] as const
      const compiled = compile(journeyOver([[960, 540], to], { vehicle: { kind: 'catalogue', artwork, colour: '#d8412f', size: 300 } }))
      const { depart, arrive } = compiled.travellers[0]!.legs[0]!
      const frame = frameAt(compiled, (depart + arrive) / 2)
      const gap = frame.motions[0]!.s - inks(frame)[0]!.head
      // What stands on its foot has nothing below it: how far below the foot's line, in the vehicle's own pose, the ink ends. A light edge of
      // 3.5 hundredths of its length goes round it.
      const pose = vehicle(frame)!
      const below = { x: -gap * Math.cos(angle), y: -gap * Math.sin(angle) }
      const depth = -below.x * Math.sin(pose.rotation) + below.y * Math.cos(pose.rotation)
      if (artworkOf(artwork).view !== 'above') expect(depth, `${degreesUp} degrees up`).toBeLessThan(300 * 0.035)
      expect(gap).toBeLessThanOrEqual(300 * 0.33)
    }
  })

  it('catches up with the stop after arrival, and does not jump there', () => {
    const car = { kind: 'catalogue', artwork: 'car', colour: '#d8412f', size: 200 } as const
    for (const layover of [0, 1]) {
      const points: [number, number][] = [[200, 500], [900, 500], [1500, 500]] // prettier-ignore
      const compiled = compile(setLayover(journeyOver(points, { vehicle: car }), 1, layover, 'traveller'))
      const { arrive } = compiled.travellers[0]!.legs[0]!
      const head = (t: number) => inks(frameAt(compiled, t)).find((ink) => ink.leg === 'l1')!.head
      // The car's ink ends a fifth of its length behind: 40 px.
      expect(head(arrive)).toBeCloseTo(700 - 40, 1)
      expect(head(arrive + 1 / 30)).toBeLessThan(700 - 25)
      expect(head(arrive + 0.5)).toBeCloseTo(700, 6)
    }
  })
})

describe('awkward trips', () => {
  it('work with no stop, one stop, and stops in one place', () => {
    for (const points of [
      [],
      [[100, 100]],
      [
        [100, 100],
        [100, 100],
        [500, 100],
      ],
    ] as [number, number][][]) {
      for (const frame of framesOf(
        compile(journeyOver(points, { vehicle: { kind: 'catalogue', artwork: 'bus', colour: '#d8412f', size: 100 } })),
      )) {
        expect(JSON.stringify(frame.motions)).not.toContain('null,null')
        for (const motion of frame.motions)
          if (motion) expect([motion.position.x, motion.heading, motion.s].every(Number.isFinite)).toBe(true)
      }
    }
  })

  it('complete the ink of a leg even where the next one is shorter than the gap behind the vehicle', () => {
    const vehicle = { kind: 'catalogue', artwork: 'rowboat', colour: '#d8412f', size: 400 } as const
    const journey = setLayover(
      journeyOver(
        [
          [100, 500],
          [900, 500],
          [930, 500],
        ],
        { vehicle },
      ),
      1,
      0,
      'traveller',
    )
    const heads = framesOf(compile(journey)).map((frame) => inks(frame).find((ink) => ink.leg === 'l1')?.head ?? 0)
    expect(heads.at(-1)).toBeCloseTo(800, 9)
    heads.forEach((head, k) => expect(head).toBeGreaterThanOrEqual((heads[k - 1] ?? 0) - 1e-9))
  })

  it('finish by the last frame even where the last layover is too short for a pin to settle', () => {
    const journey = setLayover(
      journeyOver(
        [
          [100, 100],
          [900, 100],
        ],
        { vehicle: { kind: 'catalogue', artwork: 'car', colour: '#d8412f', size: 100 } },
      ),
      1,
      0,
      'traveller',
    )
    const last = framesOf(compile(journey)).at(-1)!
    expect(inks(last)[0]!.head).toBe(inks(last)[0]!.course.length)
    expect(pins(last).every((pin) => pin.scale === 1)).toBe(true)
    expect(labels(last).every(({ elapsed }) => elapsed === null)).toBe(true)
    expect(vehicle(last)).toBeUndefined()
  })

  it('never give a number that is not one', () => {
    const point = fc.tuple(fc.double({ min: -5000, max: 5000, noNaN: true }), fc.double({ min: -5000, max: 5000, noNaN: true }))
    fc.assert(
      fc.property(
        fc.array(point, { minLength: 2, maxLength: 5 }),
        fc.double({ min: -1, max: 1, noNaN: true }),
        fc.double({ min: 0, max: 20, noNaN: true }),
        (points, bow, t) => {
          const journey = journeyOver(
            points,
            { course: { kind: 'bowed', bow }, vehicle: { kind: 'catalogue', artwork: 'bicycle', colour: '#d8412f', size: 80 } },
            20,
          )
          const frame = frameAt(compile(journey), t)
          const motion = frame.motions[0]!
          expect(
            [motion.position.x, motion.position.y, motion.heading, motion.s, ...inks(frame).map((ink) => ink.head)].every(Number.isFinite),
          ).toBe(true)
        },
      ),
    )
  })
})

describe('compiling again', () => {
  it('keeps the courses that an edit has not touched', () => {
    const journey = demo()
    const before = compile(journey).travellers[0]!.legs
    const after = compile(editStop(journey, 'emberlight', { at: { x: 5000, y: 900 } })).travellers[0]!.legs
    expect(after.map((leg, i) => leg.course === before[i]!.course)).toEqual([true, true, true, false])
  })
})
