import geodesic from 'geographiclib-geodesic'
import fc from 'fast-check'
import { describe, expect, it } from 'vitest'
import { addCaption, editCaption, moveCaption, removeCaption, setMeasures } from '#core/edits/marks/captions'
import { editLeg } from '#core/edits/lines/legs'
import { editStop } from '#core/edits/marks/stops'
import { removeStop, reverseTrip } from '#core/edits/trips/trips'
import { addTraveller, removeTraveller } from '#core/edits/trips/travellers'
import { setVisitDate, visitStop } from '#core/edits/trips/visits'
import { compile } from '#core/frame/compile'
import { tripDayAt } from '#core/trips/dates'
import type { CaptionItem } from '#core/labels/captions'
import { frameAt, withoutGround, onTable } from '#core/frame/frame-at'
import { formatDistance, formatHeight, metresAlong, rulerOf } from '#core/trips/metres'
import { countParts, partAt, partsOf, revealSeconds, SEEN } from '#core/marks/reveal'
import { groundGeo } from '#core/geo/ground'
import { polylineCourse } from '#core/geometry/course'
import { parseJourney } from '#core/journey/parse'
import type { Appears, Caption, CaptionContent, Journey } from '#core/journey/schema'
import { CORNERS, LIMITS } from '#core/journey/schema'
import { setBlock } from '#core/type/block'
import { demo as demoWithTitles, journeyOver, movingDemo } from '../support/journeys'

const demo = (): Journey => ({ ...demoWithTitles(), captions: [] })

/** One of every kind; TypeScript asks for those that are yet to come. */
const EVERY: Record<Caption['content']['kind'], CaptionContent> = {
  title: { kind: 'title', text: 'Round the Isles', second: 'in four days' },
  distance: { kind: 'distance', traveller: null },
  date: { kind: 'date', traveller: null },
  day: { kind: 'day', traveller: null },
  height: { kind: 'height', traveller: null, unit: 'ft' },
  leg: { kind: 'leg', traveller: null },
  place: { kind: 'place', traveller: null },
  'scale-bar': { kind: 'scale-bar' },
  'north-arrow': { kind: 'north-arrow' },
}

const withCaption = (journey: Journey, content: CaptionContent, patch: Partial<Caption> = {}): Journey =>
  editCaption(addCaption(journey, 'c', content), 'c', { shown: null, ...patch })
const captions = (journey: Journey, time: number): CaptionItem[] =>
  frameAt(compile(journey), time).items.filter((item) => item.kind === 'caption')
const says = (journey: Journey, time: number): string | undefined => {
  const figure = captions(journey, time)[0]?.figure
  return figure && figure.kind !== 'north-arrow' ? figure.block.lines.map(({ text }) => text).join(' | ') : undefined
}

describe('distances', () => {
  it('are geodesic where the map knows its place on the Earth (geographiclib)', () => {
    const journey = demo()
    const geo = groundGeo(journey)!
    const [a, b] = [{ x: 1200, y: 900 }, { x: 1230, y: 920 }] // prettier-ignore
    const [from, to] = [geo.toLonLat(a)!, geo.toLonLat(b)!]
    const known = geodesic.Geodesic.WGS84.Inverse(from.lat, from.lon, to.lat, to.lon).s12!
    const course = polylineCourse(Float64Array.of(a.x, a.y, b.x, b.y))
    expect(metresAlong(course, course.length, { geo }) / known).toBeCloseTo(1, 6)
    expect(metresAlong(course, course.length / 2, { geo }) / known).toBeCloseTo(0.5, 6)
  })

  it('come from a scale that was given, else are not known', () => {
    const journey = journeyOver([[0, 0], [300, 400]]) // prettier-ignore
    expect(rulerOf(journey)).toBeUndefined()
    const ruler = rulerOf(setMeasures(journey, { metresPerUnit: 12 }))!
    expect(metresAlong(polylineCourse(Float64Array.of(0, 0, 300, 400)), 500, ruler)).toBeCloseTo(6000, 9)
  })

  /** A mile is 1609.344 m (international yard and pound agreement, 1959), a nautical mile 1852 m (1929), a foot 0.3048 m. */
  it('are told in kilometres, miles and nautical miles, heights in metres and feet', () => {
    expect([formatDistance(9260, 'km'), formatDistance(9260, 'nmi'), formatDistance(16093.44, 'mi')]).toEqual(['9.3 km', '5.0 NM', '10 mi'])
    expect([formatDistance(1_234_567, 'km'), formatDistance(42_195, 'km', true), formatDistance(123_456, 'km', true)]).toEqual([
      '1,235 km',
      '42.2 km',
      '123 km',
    ])
    expect([formatHeight(1141, 'm'), formatHeight(304.8, 'ft')]).toEqual(['1,141 m', '1,000 ft'])
  })
})

describe('the day of a trip', () => {
  const visit = (arrive: number, leave: number, date: string | null) => ({ arrive, leave, date })
  it('changes half-way where a leg takes one day more, and in turn where it takes several', () => {
    const visits = [visit(0, 1, '2026-02-27'), visit(5, 6, '2026-02-28'), visit(10, 11, null), visit(14, 15, '2026-03-03')]
    const at = (time: number) => tripDayAt(visits, time)
    expect([at(0)?.date, at(2.9)?.date, at(3.1)?.date, at(5.5)?.date]).toEqual(['2026-02-27', '2026-02-27', '2026-02-28', '2026-02-28'])
    // Three days from 6 s to 14 s: 2026 is no leap year.
    expect([at(8)?.date, at(10.5)?.date, at(13.9)?.date, at(99)?.date]).toEqual(['2026-03-01', '2026-03-02', '2026-03-03', '2026-03-03'])
    expect([at(0)?.number, at(99)?.number]).toEqual([1, 5])
  })

  it('is not known without a date', () => expect(tripDayAt([visit(0, 1, null)], 3)).toBeUndefined())

  it('goes on in its order where a trip is reversed', () => {
    let journey = journeyOver([[0, 0], [100, 0]]) // prettier-ignore
    journey = setVisitDate(setVisitDate(journey, 0, '2026-06-01', 'traveller'), 1, '2026-06-04', 'traveller')
    expect(reverseTrip(journey, 'traveller').travellers[0]!.visits.map(({ stop, date }) => [stop, date])).toEqual([
      ['s1', '2026-06-01'],
      ['s0', '2026-06-04'],
    ])
  })
})

describe('a readout', () => {
  const trip = (): Journey => {
    const journey = setMeasures(journeyOver([[0, 0], [1000, 0], [1000, 500]], {}, 12), { metresPerUnit: 100 }) // prettier-ignore
    return { ...journey, stops: journey.stops.map((stop, i) => ({ ...stop, name: ['Here', 'There', 'Beyond'][i]! })) }
  }

  it('tells how far one has come, from nothing to the whole way', () => {
    const journey = withCaption(trip(), EVERY.distance, { heading: '' })
    expect([says(journey, 0), says(journey, 99)]).toEqual(['0.0 km', '150 km'])
    const metres = Array.from({ length: 60 }, (_, i) => Number(says(journey, i / 5)!.split(' ')[0]))
    expect(metres.every((value, i) => i === 0 || value >= metres[i - 1]!)).toBe(true)
  })

  it('tells the leg and the stop reached last', () => {
    const { arrive } = compile(trip()).travellers[0]!.visits[1]!
    const leg = withCaption(trip(), EVERY.leg)
    expect([says(leg, 0), says(leg, 99)]).toEqual(['Here – There', 'There – Beyond'])
    const place = withCaption(trip(), EVERY.place, { heading: 'Now at' })
    expect([says(place, arrive - 0.1), says(place, arrive + 0.1)]).toEqual(['Now at | Here', 'Now at | There'])
  })

  it('tells the date and the day where they are known, and nothing where they are not', () => {
    expect(captions(withCaption(trip(), EVERY.date), 3)).toEqual([])
    const dated = setVisitDate(setVisitDate(trip(), 0, '2026-06-04', 'traveller'), 2, '2026-06-06', 'traveller')
    expect(says(withCaption(dated, EVERY.date), 0)).toBe('4 June 2026')
    expect(says(withCaption(dated, EVERY.day), 99)).toBe('Day 3')
  })

  it('tells the height of a recorded track, between its points in proportion', () => {
    const track = { kind: 'track', points: '0,0 500,0 1000,0', times: null, heights: '100 200 120', began: null } as const
    const journey = withCaption(
      editLeg(trip(), 'l1', { course: track, easing: 'linear' }),
      { kind: 'height', traveller: null, unit: 'm' },
      { heading: '' },
    )
    const { depart, arrive } = compile(journey).travellers[0]!.legs[0]!
    expect([0.25, 0.5, 0.75].map((share) => says(journey, depart + share * (arrive - depart)))).toEqual(['150 m', '200 m', '160 m'])
    expect(captions(journey, 99)).toEqual([])
  })

  it('follows the traveller it names, and the first one once that is gone', () => {
    let journey = visitStop(visitStop(addTraveller(trip(), 'other'), 's2', 'm0', 'other'), 's0', 'm1', 'other')
    journey = withCaption(journey, { kind: 'leg', traveller: 'other' })
    expect(says(journey, 0)).toBe('Beyond – Here')
    expect(says(removeTraveller(journey, 'other'), 0)).toBe('Here – There')
    expect(() => parseJourney({ ...journey, travellers: [journey.travellers[0]] })).toThrow(
      /captions\[0\]\.content\.traveller: names the traveller "other"/,
    )
  })
})

describe('a second line under a name', () => {
  it('tells the note, the day of arrival, or how far it is from the start', () => {
    const journey = setVisitDate(setMeasures(journeyOver([[0, 0], [1000, 0]]), { metresPerUnit: 100 }), 1, '2026-06-04', 'traveller') // prettier-ignore
    const secondOf = (second: Parameters<typeof editStop>[2]['label']) => {
      const { block } = compile(editStop(journey, 's1', { name: 'There', label: second })).marks[1]!.label!
      return block.lines.map(({ text }) => text)
    }
    expect(secondOf({ second: { kind: 'note', text: 'two nights' } })).toEqual(['There', 'two nights'])
    expect(secondOf({ second: { kind: 'date' } })).toEqual(['There', '4 June 2026'])
    expect(secondOf({ second: { kind: 'distance' } })).toEqual(['There', '100 km'])
  })
})

describe('a scale bar', () => {
  it('is as long as its figure says, a round one, and not there while the view is tilted', () => {
    fc.assert(
      fc.property(
        fc.double({ min: 0.001, max: 1000, noNaN: true }),
        fc.double({ min: 0.05, max: 20, noNaN: true }),
        fc.constantFrom('km', 'mi', 'nmi'),
        (metresPerUnit, zoom, unit) => {
          const journey = withCaption(setMeasures(journeyOver([[0, 0], [1000, 0]]), { metresPerUnit, unit }), EVERY['scale-bar']) // prettier-ignore
          const figure = captions({ ...journey, camera: { ...journey.camera, zoom } }, 1)[0]!.figure
          if (figure.kind !== 'scale-bar') throw new Error('no bar')
          const [value] = figure.block.lines[0]!.text.split(' ')
          const known = { km: 1000, mi: 1609.344, nmi: 1852 }[unit]
          expect((Number(value!.replaceAll(',', '')) * known) / (metresPerUnit / zoom)).toBeCloseTo(figure.length, 4)
          expect(value!.replace(/[.,0]/g, '')).toMatch(/^[125]$/)
        },
      ),
    )
    const journey = withCaption(setMeasures(journeyOver([[0, 0], [1000, 0]]), { metresPerUnit: 5 }), EVERY['scale-bar']) // prettier-ignore
    expect(captions({ ...journey, camera: { ...journey.camera, pitch: 30 } }, 1)).toEqual([])
  })
})

describe('an arrow to the north', () => {
  it('turns against the view', () => {
    const journey = withCaption(journeyOver([[0, 0], [1000, 0]]), EVERY['north-arrow']) // prettier-ignore
    expect(captions({ ...journey, camera: { ...journey.camera, bearing: 40 } }, 1)[0]!.figure).toEqual({
      kind: 'north-arrow',
      bearing: -40,
    })
  })

  it('points to where the map says that north is', () => {
    const journey = withCaption({ ...demo(), camera: { ...demo().camera, bearing: 25 } }, EVERY['north-arrow'])
    const figure = captions(journey, 1)[0]!.figure
    // North is up on the demo's sheet, but for the little that its control points are turned.
    expect(figure.kind === 'north-arrow' && figure.bearing).toBeCloseTo(-25, 1)
  })
})

describe('captions', () => {
  it('of every kind stand in the safe area, those of one place apart', () => {
    for (const corner of CORNERS) {
      let journey = setVisitDate({ ...movingDemo(), captions: [] }, 0, '2026-06-01', 'traveller')
      Object.values(EVERY).forEach((content, i) => {
        journey = editCaption(addCaption(journey, `c${i}`, content), `c${i}`, { corner, shown: null, style: { size: 30 } })
      })
      const { width, height } = compile(journey).reference
      const boxes = captions(journey, 6).map(({ at }) => at)
      expect(boxes.length).toBeGreaterThanOrEqual(7)
      for (const { x, y } of boxes) {
        expect(x).toBeGreaterThanOrEqual(0.05 * width - 1e-6)
        expect(x).toBeLessThan(0.95 * width)
        expect(y).toBeLessThan(0.95 * height)
      }
      expect(new Set(boxes.map(({ y }) => y.toFixed(3))).size).toBe(boxes.length)
    }
  })

  it('belong to the lens, and stay where the ground is left out', () => {
    const frame = frameAt(compile(withCaption(demo(), EVERY.title)), 3)
    expect(onTable(frame, frame.view).items.some(({ kind }) => kind === 'caption')).toBe(false)
    expect(withoutGround(frame).items.some(({ kind }) => kind === 'caption')).toBe(true)
  })

  it('are added, moved, edited and removed; what they are tied to may go', () => {
    let journey = addCaption(addCaption(demo(), 'a', EVERY.title), 'b', EVERY.place)
    expect(journey.captions[0]!.shown).toMatchObject({ from: { at: 'start' }, to: { at: 'start', offset: 3 } })
    expect(moveCaption(journey, 0, 1).captions.map(({ id }) => id)).toEqual(['b', 'a'])
    journey = editCaption(journey, 'b', {
      shown: { from: { at: 'arrival', stop: 'lampwick', offset: 1 }, to: { at: 'end', offset: 0 }, fade: 0.2 },
    })
    expect(removeStop(journey, 'lampwick', 'traveller').captions[1]!.shown!.from).toEqual({ at: 'start', offset: 0 })
    expect(removeCaption(journey, 'a').captions.map(({ id }) => id)).toEqual(['b'])
    expect(parseJourney(JSON.parse(JSON.stringify(journey)))).toEqual(journey)
    expect(() => parseJourney({ ...journey, captions: Array(LIMITS.captions + 1).fill(journey.captions[0]) })).toThrow(/captions/)
  })
})

describe('a text that appears', () => {
  const block = setBlock(
    [{ text: 'Oar’s End, at noon' }],
    { family: 'alegreya', weight: 700, spacing: 0, size: 40, case: 'as-written' },
    Infinity,
  )

  it('is taken apart without losing a letter, and letters with accents stay whole', () => {
    fc.assert(
      fc.property(fc.string({ unit: 'grapheme' }), fc.constantFrom<Appears['by']>('whole', 'word', 'letter'), (text, by) => {
        if (text.trim() === text) expect(partsOf(text, by).join('')).toBe(text)
      }),
    )
    expect(partsOf('e\u0301a', 'letter')).toEqual(['e\u0301', 'a'])
    expect([countParts(block, 'whole'), countParts(block, 'word'), countParts(block, 'letter')]).toEqual([1, 4, 18])
  })

  it.each(['pop', 'fade', 'rise', 'wipe', 'none'] as const)(
    'by “%s” begins with nothing and ends whole, each part after the one before',
    (style) => {
      for (const by of ['whole', 'word', 'letter'] as const) {
        const appears = { style, by }
        const parts = countParts(block, by)
        const lasts = revealSeconds(appears, parts)
        for (let k = 0; k < parts; k++) {
          expect(partAt(appears, parts, k, -0.001)).toMatchObject({ opacity: 0 })
          expect(partAt(appears, parts, k, lasts + 1e-9)).toBe(SEEN)
          if (k > 0 && style !== 'none') {
            const [before, after] = [partAt(appears, parts, k - 1, lasts * 0.6), partAt(appears, parts, k, lasts * 0.6)]
            expect(before.opacity * before.seen).toBeGreaterThanOrEqual(after.opacity * after.seen)
          }
        }
        // However long a text is, it is there soon.
        expect(revealSeconds(appears, 500)).toBeLessThanOrEqual(1.6 + 1e-9)
      }
    },
  )
})

it('a text that rises begins below its place and comes up to it', () => {
  const rises = [0.02, 0.1, 0.2, 0.3].map((elapsed) => partAt({ style: 'rise', by: 'whole' }, 1, 0, elapsed).rise)
  expect(rises[0]).toBeGreaterThan(0)
  for (const [i, rise] of rises.slice(1).entries()) expect(rise).toBeLessThan(rises[i]!)
  expect(partAt({ style: 'rise', by: 'whole' }, 1, 0, 9)).toEqual(SEEN)
})
