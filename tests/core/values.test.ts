/** Values that change over time: by their formula, tied to the trip, and gone with what has them. */
import fc from 'fast-check'
import { describe, expect, it } from 'vitest'
import { removeSheet, setWash } from '#core/edits/ground/sheets'
import { editLeg } from '#core/edits/lines/legs'
import { addValueMark, editValueMark, removeValueMark } from '#core/edits/pace/values'
import { removeStop } from '#core/edits/trips/trips'
import { addLandmark, newMark, removeLandmark } from '#core/edits/marks/landmarks'
import { addTraveller, removeTraveller } from '#core/edits/trips/travellers'
import { compile } from '#core/frame/compile'
import type { FrameItem } from '#core/frame/frame'
import { itemName } from '#core/frame/frame'
import { frameAt } from '#core/frame/frame-at'
import { parseJourney } from '#core/journey/parse'
import type { ChangingValue, Journey, ValueMark } from '#core/journey/schema'
import { glowSchema, LIMITS, valueMarkSchema, washSchema } from '#core/journey/schema'
import { NO_PLACES } from '#core/labels/label-scene'
import { compileValues, lineValuesAt, numberAt } from '#core/trips/values'
import { journeyWithEveryKind } from '../support/every-kind'
import { demo, journeyOver, paperSheet } from '../support/journeys'

type Of<K extends FrameItem['kind']> = Extract<FrameItem, { kind: K }>
const mark = (value: ChangingValue, of: object, start: number, to: number | string, more: object = {}): ValueMark =>
  valueMarkSchema.parse({ value, id: `${value} ${start}`.replaceAll(/[ .]/g, '-'), ...of, to, at: { at: 'start', offset: start }, ...more })
const withMarks = (journey: Journey, ...marks: ValueMark[]) => marks.reduce(addValueMark, journey)
const itemsAt = (journey: Journey, t: number) => frameAt(compile(journey, NO_PLACES), t).items
const one = <K extends FrameItem['kind']>(journey: Journey, t: number, kind: K) =>
  itemsAt(journey, t).find((item): item is Of<K> => item.kind === kind)!

/** A car on its way from 0.75 to 9.25 s, about. */
const trip = () =>
  journeyOver(
    [
      [200, 300],
      [900, 500],
      [1500, 300],
    ],
    {
      // prettier-ignore
      vehicle: { kind: 'catalogue', artwork: 'car', colour: '#d8412f', size: 100 },
      ink: { width: 10, colour: '#000000', opacity: 0.8, glow: glowSchema.parse({}) },
    },
  )
const [l1] = trip().travellers[0]!.legs.map(({ id }) => id) as [string]

describe('a value over time', () => {
  it('is what is set before its first mark, and goes from mark to mark as CSS easing has it', () => {
    const at = (t: number) =>
      numberAt(
        compileValues(
          withMarks(
            trip(),
            mark('vehicle-size', { traveller: 'traveller' }, 2, 3, { within: 2, easing: 'linear' }),
            mark('vehicle-size', { traveller: 'traveller' }, 6, 0.5, { within: 1, easing: 'ease-in-out' }),
          ),
          new Map(),
          10,
        ),
        'vehicle-size',
        t,
        'traveller',
      )
    expect([0, 2, 2.5, 3, 4, 6].map(at)).toEqual([1, 1, 1.5, 2, 3, 3])
    // cubic-bezier(0.42, 0, 0.58, 1) is a half at its middle, and 0.129 after a quarter: CSS Easing Functions Level 2, 2.2, by its own formula, worked out elsewhere.
    expect(at(6.25)).toBeCloseTo(3 - 2.5 * 0.1292, 2)
    expect(at(6.5)).toBeCloseTo(1.75, 6)
    expect([7, 9].map(at)).toEqual([0.5, 0.5])
  })

  it('is continuous, also where one change begins while another is under way, unless a change takes no time', () => {
    const changes = fc.array(
      fc.record({ start: fc.double({ min: 0, max: 9, noNaN: true }), within: fc.double({ min: 0.5, max: 4, noNaN: true }), to: fc.double({ min: 0, max: 10, noNaN: true }) }), // prettier-ignore
      { minLength: 1, maxLength: 8 },
    )
    fc.assert(
      fc.property(changes, (list) => {
        const marks = list.map(({ start, within, to }, i) => ({ ...mark('line-width', { leg: l1 }, start, to, { within }), id: `m${i}` }))
        const values = compileValues({ ...trip(), valueMarks: marks }, new Map(), 10)
        let before = 1
        for (let t = 0; t <= 14; t += 0.01) {
          const now = lineValuesAt(values, l1, t).width
          // Ten at most within half a second at no more than 1.7 times the mean speed.
          expect(Math.abs(now - before)).toBeLessThan(0.4)
          before = now
        }
        const last = list.reduce((a, b) => (b.start >= a.start ? b : a))
        expect(before).toBe(last.to)
      }),
      { numRuns: 40 },
    )
    const cut = compileValues(withMarks(trip(), mark('map-dim', {}, 3, 0.7, { within: 0 })), new Map(), 10)
    expect([2.999, 3].map((t) => numberAt(cut, 'map-dim', t))).toEqual([0, 0.7])
  })

  it('moves along with the stop that it is tied to', () => {
    const [, s1] = trip().stops.map(({ id }) => id) as [string, string]
    const dim = (journey: Journey) => compile(journey, NO_PLACES).valueMarks[0]!.time
    const tied = withMarks(trip(), mark('map-dim', {}, 0, 0.5, { at: { at: 'arrival', stop: s1, offset: 0.5 } }))
    const arrival = (journey: Journey) => compile(journey, NO_PLACES).travellers[0]!.visits[1]!.arrive
    const slower = editLeg(tied, l1, { travel: 6 })
    for (const journey of [tied, slower]) expect(dim(journey)).toBeCloseTo(arrival(journey) + 0.5, 9)
    expect(dim(slower)).not.toBeCloseTo(dim(tied), 1)
  })
})

describe('in the frame', () => {
  it('lines swell, fade, shine and change colour, and rest as one item between changes', () => {
    const journey = withMarks(
      trip(),
      mark('line-width', { leg: l1 }, 2, 3, { within: 1, easing: 'linear' }),
      mark('line-opacity', { leg: l1 }, 2, 0.5, { within: 1, easing: 'linear' }),
      mark('line-light', { leg: l1 }, 2, 0, { within: 1, easing: 'linear' }),
      mark('line-colour', { leg: l1 }, 2, '#ffffff', { within: 1, easing: 'linear' }),
    )
    expect(one(journey, 1.9, 'ink')).toMatchObject({ opacity: 0.8, light: 1, ink: { width: 10, colour: '#000000' } })
    const half = one(journey, 2.5, 'ink')
    expect(half.ink.width).toBeCloseTo(20, 9)
    expect(half.opacity).toBeCloseTo(0.8 * 0.75, 9)
    expect(half.light).toBeCloseTo(0.5, 9)
    expect(half.ink.colour).toBe('#808080')
    const compiled = compile(journey, NO_PLACES)
    const at = (t: number) => frameAt(compiled, t).items.find((item): item is Of<'ink'> => item.kind === 'ink')!
    expect(at(9).ink).toMatchObject({ width: 30, colour: '#ffffff' })
    expect(at(9)).toBe(at(9.5))
    // What was shown before makes no difference.
    expect(at(2.25)).toEqual(frameAt(compile(journey, NO_PLACES), 2.25).items.find(({ kind }) => kind === 'ink'))
    const gone = editValueMark(journey, 'line-width-2', { to: 0 })
    expect(itemsAt(gone, 4).filter((item) => item.kind === 'ink' && item.leg === l1)).toEqual([])
  })

  it('a vehicle grows, and its line ends under it', () => {
    const grown = (to: number) => withMarks(trip(), mark('vehicle-size', { traveller: 'traveller' }, 0, to, { within: 0 }))
    expect(one(grown(2), 3, 'vehicle').scale).toBe(2 * one(trip(), 3, 'vehicle').scale)
    const heads = [0.5, 1, 2].map((size) => one(grown(size), 3, 'ink').head)
    expect(heads[0]! - heads[1]!).toBeCloseTo((heads[1]! - heads[2]!) / 2, 6)
    expect(itemsAt(grown(0), 3).some(({ kind }) => kind === 'vehicle')).toBe(false)
  })

  it('a pin and a name grow about their place, and come to nothing', () => {
    const [s0] = trip().stops.map(({ id }) => id) as [string]
    const of = { stop: s0 }
    const journey = withMarks(
      trip(),
      mark('pin-size', of, 2, 3, { within: 2, easing: 'linear' }),
      mark('name-size', of, 4, 2, { within: 0 }),
    )
    expect([1, 3, 5].map((t) => one(journey, t, 'pin').scale)).toEqual([1, 2, 3])
    expect([1, 5].map((t) => one(journey, t, 'label').scale)).toEqual([1, 2])
    expect(one(journey, 5, 'label').label).toEqual(one(trip(), 5, 'label').label)
    const gone = withMarks(trip(), mark('pin-size', of, 2, 0), mark('name-size', of, 2, 0))
    const ofStop = itemsAt(gone, 5).filter((item) => 'stop' in item && item.stop === s0)
    expect(ofStop).toEqual([])
  })

  it('a mark beside the way has them, too, until it is removed', () => {
    const beside = addLandmark(trip(), newMark(trip(), 'tower', { x: 800, y: 300 }, 'Tower', true))
    const journey = parseJourney(withMarks(beside, mark('name-size', { stop: 'tower' }, 2, 2, { within: 0 })))
    expect(itemsAt(journey, 3).find((item) => item.kind === 'label' && item.stop === 'tower')).toMatchObject({ scale: 2 })
    expect(removeLandmark(journey, 'tower').valueMarks).toEqual([])
  })

  it('a wash goes: the sheet with it over the sheet without it, together as opaque as it is', () => {
    const washed = setWash({ ...demo(), sheets: [{ ...paperSheet, opacity: 0.8 }] }, paperSheet.id, washSchema.parse({ exposure: -1, edgeShade: { colour: '#000000', strength: 0.8, size: 0.5, feather: 0.5 } })) // prettier-ignore
    const journey = withMarks(washed, mark('wash', { sheet: paperSheet.id }, 2, 0, { within: 2, easing: 'linear' }))
    const sheets = (t: number) => itemsAt(journey, t).filter((item): item is Of<'sheet'> => item.kind === 'sheet')
    expect(sheets(1).map(({ sheet, opacity }) => [sheet.wash?.exposure, opacity])).toEqual([[-1, 0.8]])
    expect(sheets(5).map(({ sheet, opacity }) => [sheet.wash, opacity])).toEqual([[null, 0.8]])
    const [plain, over] = sheets(3)
    expect([plain!.sheet.wash, over!.sheet.wash?.exposure]).toEqual([null, -1])
    expect(itemName(plain!)).not.toBe(itemName(over!))
    // Half of each, and a fifth of what is below.
    expect(over!.opacity).toBeCloseTo(0.4, 9)
    expect(plain!.opacity * (1 - over!.opacity)).toBeCloseTo(0.4, 9)
    expect(one(journey, 3, 'edge-shade')).toMatchObject({ shade: { strength: 0.8 }, opacity: 0.5 })
    expect(itemsAt(journey, 5).some(({ kind }) => kind === 'edge-shade')).toBe(false)
    const shade = withMarks(washed, mark('edge-shade', { sheet: paperSheet.id }, 2, 0.25, { within: 0 }))
    expect([1, 3].map((t) => one(shade, t, 'edge-shade').opacity)).toEqual([1, 0.25])
    // The same object from frame to frame, so that it is washed once.
    const compiled = compile(journey, NO_PLACES)
    const seen = (t: number) => frameAt(compiled, t).items.flatMap((item) => (item.kind === 'sheet' ? [item.sheet] : []))
    seen(2.5).forEach((sheet, i) => expect(seen(3.5)[i]).toBe(sheet))
  })

  it('the map is dimmed under all lines, and a sheet fades', () => {
    const journey = withMarks(
      demo(),
      mark('map-dim', {}, 2, 0.6, { within: 0 }),
      mark('sheet-opacity', { sheet: paperSheet.id }, 2, 0.25, { within: 0 }),
    )
    const kinds = itemsAt(journey, 4).map(({ kind }) => kind)
    expect(kinds.indexOf('map-dim')).toBeGreaterThan(kinds.indexOf('sheet'))
    expect(kinds.indexOf('map-dim')).toBeLessThan(kinds.indexOf('ink'))
    expect(one(journey, 4, 'map-dim').opacity).toBe(0.6)
    expect(one(journey, 4, 'sheet').opacity).toBe(0.25 * paperSheet.opacity)
    expect(itemsAt(journey, 1).some(({ kind }) => kind === 'map-dim')).toBe(false)
  })

  it('nothing is as it was with marks that say what is set', () => {
    const values = (['line-width', 'line-opacity', 'line-light'] as const).map((value) => mark(value, { leg: l1 }, 1, 1))
    const same = withMarks(trip(), ...values, mark('vehicle-size', { traveller: 'traveller' }, 1, 1), mark('map-dim', {}, 1, 0))
    for (const t of [0, 1.5, 4, 9]) expect(itemsAt(same, t)).toEqual(itemsAt(trip(), t))
  })
})

describe('value marks', () => {
  it('go with what has them, and with the stop that they are tied to', () => {
    const every = journeyWithEveryKind()
    const valuesOf = (journey: Journey) => parseJourney(JSON.parse(JSON.stringify(journey))).valueMarks.map(({ value }) => value)
    expect(valuesOf(every)).toHaveLength(11)
    expect(valuesOf(removeSheet(every, every.sheets[0]!.id))).not.toContain('wash')
    expect(valuesOf(removeStop(every, 's3', 'traveller'))).toEqual([])
    const second = addTraveller(every, 'other')
    const theirs = addValueMark(second, mark('vehicle-size', { traveller: 'other' }, 1, 2))
    expect(valuesOf(theirs)).toHaveLength(12)
    expect(valuesOf(removeTraveller(theirs, 'other'))).toHaveLength(11)
  })

  it('are changed, taken away, and bounded', () => {
    const journey = withMarks(trip(), mark('line-width', { leg: l1 }, 2, 3))
    expect(editValueMark(journey, 'line-width-2', { to: 4, within: 0 }).valueMarks[0]).toMatchObject({ to: 4, within: 0 })
    // A width is no colour, and has a bound.
    expect(editValueMark(journey, 'line-width-2', { to: '#ffffff' })).toEqual(journey)
    expect(editValueMark(journey, 'line-width-2', { to: 11 })).toEqual(journey)
    expect(removeValueMark(journey, 'line-width-2').valueMarks).toEqual([])
    const many = {
      ...journey,
      valueMarks: Array.from({ length: LIMITS.valueMarks }, (_, i) => ({ ...journey.valueMarks[0]!, id: `m${i}` })),
    }
    expect(() => addValueMark(many, mark('map-dim', {}, 1, 1))).toThrow(/at most 400 marks/)
  })

  it.each([
    ['leg', 'line-width', { leg: 'nowhere' }],
    ['traveller', 'vehicle-size', { traveller: 'nowhere' }],
    ['stop', 'pin-size', { stop: 'nowhere' }],
    ['sheet', 'wash', { sheet: 'nowhere' }],
  ] as const)('of a %s that is not there are refused', (kind, value, of) => {
    expect(() => parseJourney(withMarks(trip(), mark(value, of, 1, 0.5)))).toThrow(new RegExp(`names the ${kind} "nowhere"`))
  })
})
