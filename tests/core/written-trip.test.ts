/** Trips in writing: what people write is read, what is not understood is told, and a journey comes of it. */
import fc from 'fast-check'
import { describe, expect, it } from 'vitest'
import { geodesicDistance } from '#core/geo/geodesic'
import { groundGeo } from '#core/geo/ground'
import { compile } from '#core/frame/compile'
import { parseJourney } from '#core/journey/parse'
import type { Sheet } from '#core/journey/schema'
import { sheetSchema } from '#core/journey/schema'
import { NO_PLACES } from '#core/labels/label-scene'
import { inYears, takeDay } from '#core/writing/dates'
import { chooseTogether } from '#core/writing/choose-places'
import type { TripPlace } from '#core/writing/make-journey'
import { journeyOfTrip, mapOfTrip, modeBetween } from '#core/writing/make-journey'
import { MODE_IDS, MODES } from '#core/writing/modes'
import { readTrip } from '#core/writing/read-trip'
import { MOST_PLACES } from '#core/writing/written-trip'

const names = (text: string) => readTrip(text).places.map(({ name }) => name)
const one = (text: string) => readTrip(text).places[0]!

describe('a trip in writing', () => {
  it.each([
    'Lisbon - Madrid - Marrakesh',
    'Lisbon – Madrid – Marrakesh',
    'Lisbon → Madrid → Marrakesh',
    'Lisbon -> Madrid => Marrakesh',
    'Lisbon > Madrid > Marrakesh',
    'Lisbon\nMadrid\nMarrakesh',
    'Lisbon\r\n\r\nMadrid\r\n\r\nMarrakesh\r\n',
    '- Lisbon\n- Madrid\n- Marrakesh',
    '1. Lisbon\n2. Madrid\n3. Marrakesh',
    'Lisbon; Madrid; Marrakesh',
    'Lisbon\tMadrid\tMarrakesh',
    'from Lisbon to Madrid to Marrakesh',
    'Lisbon then Madrid, then Marrakesh',
    '# our plan\nLisbon # home\nto Madrid\nfinally Marrakesh',
  ])('has the same places in whatever way they are listed: %j', (text) => {
    expect(names(text)).toEqual(['Lisbon', 'Madrid', 'Marrakesh'])
    expect(readTrip(text).unread).toEqual([])
  })

  it('keeps names that have dashes, dots and other scripts in them', () => {
    expect(names('Baden-Baden - St. Louis - Xi’an')).toEqual(['Baden-Baden', 'St. Louis', 'Xi’an'])
    expect(names('東京 → 京都')).toEqual(['東京', '京都'])
    expect(names('القاهرة - الأقصر')).toEqual(['القاهرة', 'الأقصر'])
  })

  it('says how one gets there, before or behind the place, or between two', () => {
    const ways = (text: string) => readTrip(text).places.map(({ by }) => by)
    expect(ways('Oslo\nby train to Bergen\nferry to Stavanger')).toEqual([null, 'train', 'ferry'])
    expect(ways('Oslo\nBergen by train\nfly to Bodø')).toEqual([null, 'train', 'fly'])
    expect(ways('Oslo - train - Bergen - (ferry) - Stavanger')).toEqual([null, 'train', 'ferry'])
    expect(ways('We took the night train from Vienna to Zürich\nthen on foot to Baden')).toEqual([null, 'train', 'walk'])
    expect(ways('Drive Lisbon to Porto')).toHaveLength(2)
    expect(names('Lisbon, by train to Madrid, then take a ferry to Tangier, fly to Paris, Texas')).toEqual([
      'Lisbon',
      'Madrid',
      'Tangier',
      'Paris',
    ])
    expect(ways('Lisbon, by train to Madrid, then take a ferry to Tangier, fly to Paris, Texas')).toEqual([null, 'train', 'ferry', 'fly'])
    // Every word of every way, as it would be written.
    for (const mode of MODE_IDS) for (const word of MODES[mode].words) expect(ways(`Here\nby ${word} to There`), word).toEqual([null, mode])
    expect(readTrip('Lima\nby llama to Cusco')).toMatchObject({ places: [{ name: 'Lima' }, { name: 'Cusco', by: null }], unread: [{ line: 2, text: 'llama', why: 'mode' }] }) // prettier-ignore
  })

  it('has nights, notes, countries and coordinates', () => {
    expect(one('Madrid, 3 nights').nights).toBe(3)
    expect(['Madrid for two nights', 'Madrid (a week)', 'Madrid overnight', 'Madrid 4 days'].map((text) => one(text).nights)).toEqual([
      2, 7, 1, 4,
    ])
    expect(one('Madrid: see the Prado')).toMatchObject({ name: 'Madrid', note: 'see the Prado' })
    expect(one('Springfield in Ohio').within).toEqual(['Ohio'])
    expect(one('Paris, Texas')).toMatchObject({ name: 'Paris', within: ['Texas'] })
    expect(one('Our hut (46.5, 7.9)')).toMatchObject({ name: 'Our hut', at: { lat: 46.5, lon: 7.9 } })
    expect(one(`Zürich 47°22'N 8°32'E`).at!.lat).toBeCloseTo(47.3667, 3)
    expect(one('47.5, 8.25')).toMatchObject({ name: '', at: { lat: 47.5, lon: 8.25 } })
  })

  it('has days in whatever way they are written, and tells of those that do not exist', () => {
    const day = (text: string) => {
      const found = one(text).day
      return found && [found.day, found.month, found.year]
    }
    for (const written of ['2026-05-12', '12 May 2026', 'May 12, 2026', '12.5.2026', 'Tue, 12th of May 2026', '12 may 2026'])
      expect(day(`${written} Lisbon`), written).toEqual([12, 5, 2026])
    for (const written of ['12 May', 'May 12', '12.5.', '12. May', 'Tuesday 12 May']) {
      expect(day(`Lisbon, ${written}`), written).toEqual([12, 5, null])
      expect(day(`${written}: Lisbon`), written).toEqual([12, 5, null])
      expect(names(`${written}: Lisbon`)).toEqual(['Lisbon'])
    }
    expect(one('12–15 May Rome')).toMatchObject({ name: 'Rome', nights: 3, day: { day: 12, month: 5 } })
    for (const wrong of ['31 June', '30 Feb', '32.1.2026', '2026-13-01', '29 February 2027'])
      expect(readTrip(`Lisbon ${wrong}`), wrong).toMatchObject({
        places: [{ name: 'Lisbon', day: null }],
        unread: [{ line: 1, why: 'day' }],
      })
    // 2028 is a leap year.
    expect(takeDay('29 February 2028').day).toEqual({ day: 29, month: 2, year: 2028 })
  })

  it('goes on into the next year where its days do', () => {
    const days = [{ day: 28, month: 12, year: null }, null, { day: 2, month: 1, year: null }, { day: 5, month: 3, year: 2030 }]
    expect(inYears(days, 2026)).toEqual(['2026-12-28', null, '2027-01-02', '2030-03-05'])
  })

  it('is read whatever is written, quickly, with so many places at most', () => {
    fc.assert(
      fc.property(fc.string({ unit: 'grapheme', maxLength: 300 }), (text) => {
        const { places } = readTrip(text)
        for (const { name, within, line } of places) {
          expect(name.length).toBeLessThanOrEqual(120)
          expect(within.every((part) => part.length <= 60)).toBe(true)
          expect(line).toBeGreaterThan(0)
        }
      }),
      { numRuns: 300 },
    )
    expect(readTrip('').places).toEqual([])
    expect(readTrip(Array.from({ length: 10_000 }, (_, i) => `Place ${i}`).join('\n')).places).toHaveLength(MOST_PLACES)
    expect(readTrip('a '.repeat(90_000)).places).toHaveLength(1)
    expect(readTrip('a to '.repeat(40_000)).places).toHaveLength(MOST_PLACES)
    expect(readTrip('a, '.repeat(60_000)).places[0]!.within.length).toBeGreaterThan(0)
  })
})

describe('places that are chosen together', () => {
  const candidate = (lon: number, lat: number, population: number, country = 'AA') => ({
    lon,
    lat,
    population,
    country,
    isExact: true,
    isMainName: true,
  })

  it('are those that the cheapest of all runs has, as trying all of them finds', () => {
    const place = fc.record({ lon: fc.integer({ min: -170, max: 170 }), lat: fc.integer({ min: -60, max: 60 }), population: fc.integer({ min: 0, max: 5_000_000 }), country: fc.constantFrom('AA', 'BB') }) // prettier-ignore
    const trips = fc.array(fc.array(place, { minLength: 1, maxLength: 3 }), { minLength: 2, maxLength: 4 })
    fc.assert(
      fc.property(trips, (lists) => {
        const places = lists.map((list) => ({ by: null, candidates: list.map((own) => ({ ...own, isExact: true, isMainName: true })) }))
        const chosen = chooseTogether(places).map((choice) => choice.chosen!)
        const isLargest = (k: number, i: number) => lists[i]!.every(({ population }) => population <= lists[i]![k]!.population) && lists[i]![k]!.population > 0 // prettier-ignore
        const costs = (run: readonly number[]) => costOf(run.map((k, i) => places[i]!.candidates[k]!)) - 0.5 * run.filter(isLargest).length
        const runs = lists.reduce<number[][]>((all, list) => all.flatMap((run) => list.map((_, k) => [...run, k])), [[]])
        // The largest of a name costs 0.5 less.
        const least = Math.min(...runs.map(costs))
        expect(costs(chosen)).toBeCloseTo(least, 9)
      }),
      { numRuns: 60 },
    )
  })

  it('are certain where another would fit worse by far, and not where two are alike', () => {
    const alike = chooseTogether([
      { by: null, candidates: [candidate(0, 0, 50_000), candidate(1, 1, 50_000)] },
      { by: null, candidates: [candidate(0.5, 0.5, 1_000_000), candidate(100, 50, 1000)] },
    ])
    expect(alike.map(({ isUncertain }) => isUncertain)).toEqual([true, false])
    expect(alike[1]!.chosen).toBe(0)
    expect(chooseTogether([{ by: null, candidates: [] }])).toEqual([{ chosen: undefined, isUncertain: true, order: [] }])
  })
})

/** What a run costs, written out again: ten times the inhabitants count 1, a doubled distance beyond the usual 700 km about 1.15 (2.3 at most), another country 0.35. */
function costOf(run: readonly { lon: number; lat: number; population: number; country: string }[]): number {
  const own = run.reduce((sum, { population }) => sum - Math.log10(population + 30), 0)
  return run.slice(1).reduce((sum, b, i) => {
    const km = Math.max(20, geodesicDistance(run[i]!, b) / 1000)
    return sum + Math.min(2.3, 1.15 * Math.log2(1 + km / 700)) + (run[i]!.country === b.country ? 0 : 0.35)
  }, own)
}

const world = (region: { west: number; south: number; east: number; north: number }): Sheet =>
  sheetSchema.parse({
    id: 'world',
    name: 'World',
    image: 'a'.repeat(64),
    width: 3600,
    height: 1800,
    georeference: { kind: 'affine', source: 'drawn', plane: { kind: 'degrees' }, matrix: [(region.east - region.west) / 3600, 0, region.west, 0, -(region.north - region.south) / 1800, region.north] }, // prettier-ignore
  })
const SHEET = world({ west: -180, south: -90, east: 180, north: 90 })
const FRAME = { width: 1920, height: 1080, rate: '30/1' } as const
const place = (name: string, lon: number, lat: number, fields: Partial<TripPlace> = {}): TripPlace => ({ key: name, name, place: { lon, lat }, isListed: true, by: null, nights: null, date: null, note: '', ...fields }) // prettier-ignore
const [LISBON, MADRID, MARRAKESH] = [place('Lisbon', -9, 39), place('Madrid', -4, 40), place('Marrakesh', -8, 32)] as const

describe('the journey of a written trip', () => {
  it('has its stops where they are, its legs as one travels, its days and notes, and makes a film', () => {
    const places = [
      { ...LISBON, date: '2026-05-12', nights: 2 },
      { ...MADRID, by: 'train' as const, nights: 3, note: 'the Prado' },
      { ...MARRAKESH, by: 'fly' as const },
      { ...LISBON, by: 'ferry' as const },
    ]
    const journey = journeyOfTrip(places, SHEET, FRAME)
    expect(parseJourney(JSON.parse(JSON.stringify(journey)))).toEqual(journey)
    expect(journey.stops.map(({ name }) => name)).toEqual(['Lisbon', 'Madrid', 'Marrakesh'])
    const geo = groundGeo(journey)!
    for (const [i, { place: at }] of places.slice(0, 3).entries()) {
      const found = geo.toLonLat(journey.stops[i]!.at)!
      expect(Math.hypot(found.lon - at.lon, found.lat - at.lat)).toBeLessThan(0.01)
    }
    const { legs, visits } = journey.travellers[0]!
    expect(legs.map(({ vehicle }) => vehicle?.kind === 'catalogue' && vehicle.artwork)).toEqual(['train', 'airliner', 'ferry'])
    // Two nights from the twelfth on, three from the fourteenth; nothing is known after that.
    expect(visits.map(({ date }) => date)).toEqual(['2026-05-12', '2026-05-14', '2026-05-17', null])
    expect(journey.stops[1]!.label.second).toEqual({ kind: 'note', text: 'the Prado' })
    expect(journey.captions.map(({ content }) => content.kind)).toEqual(['title', 'date'])
    expect(compile(journey, NO_PLACES).travellers[0]!.legs).toHaveLength(3)
    // The same again is the same.
    expect(journeyOfTrip(places, SHEET, FRAME)).toEqual(journey)
  })

  it('guesses how one travels by the distance alone', () => {
    expect(modeBetween(LISBON.place, MADRID.place, null)).toBe('drive')
    expect(modeBetween(LISBON.place, { lon: -43, lat: -23 }, null)).toBe('fly')
    expect(modeBetween(LISBON.place, MADRID.place, 'walk')).toBe('walk')
  })

  it('is as long as its stops need to be read, and has a name that fits', () => {
    const many = Array.from({ length: 100 }, (_, i) => place(`Place ${i}`, -170 + 3 * i, (i % 7) * 5))
    const journey = journeyOfTrip(many, SHEET, FRAME)
    expect(journey.seconds).toBe(60)
    expect(compile(journey, NO_PLACES).travellers[0]!.visits).toHaveLength(100)
    expect(journeyOfTrip([LISBON, MADRID], SHEET, FRAME)).toMatchObject({ seconds: 12, name: 'Lisbon to Madrid' })
    const twice = journeyOfTrip([LISBON, LISBON, MADRID], SHEET, FRAME)
    expect(twice.travellers[0]!.visits).toHaveLength(2)
  })

  it('lies on a map on which all of it is seen, in a projection that suits it', () => {
    const around = (...places: { lon: number; lat: number }[]) => mapOfTrip(places, FRAME)
    const iberia = around(LISBON.place, MADRID.place)
    expect(iberia.region.west).toBeLessThan(-9)
    expect(iberia.region.east).toBeGreaterThan(-4)
    expect(iberia.projection).toBe('conic')
    expect(around({ lon: 100, lat: 5 }, { lon: 110, lat: -7 }).projection).toBe('mercator')
    expect(around({ lon: -120, lat: 40 }, { lon: 140, lat: 35 }, { lon: 10, lat: 50 })).toMatchObject({ projection: 'equirectangular', region: { west: -180, east: 180 } }) // prettier-ignore
    // Over the date line the short way.
    const pacific = around({ lon: 175, lat: -40 }, { lon: -150, lat: -17 })
    expect(pacific.region.west).toBeGreaterThan(pacific.region.east)
  })

  it('refuses a place that is not on the map', () => {
    const europe = world({ west: -20, south: 30, east: 40, north: 70 })
    const lost = { ...europe, georeference: null }
    expect(() => journeyOfTrip([LISBON, MADRID], lost, FRAME)).toThrow(/does not lie on the map/)
  })
})
