/** Trips as tables: CSV as RFC 4180 describes it, as spreadsheets of several countries write it, and rows that are copied from one. */
import fc from 'fast-check'
import Papa from 'papaparse'
import { describe, expect, it } from 'vitest'
import { journeyOfTrip, mapOfTrip, sheetOfMap } from '#core/writing/make-journey'
import { readTrip } from '#core/writing/read-trip'
import { writeStopsTable } from '#core/writing/stops-table'
import { tripPlaces } from '#core/writing/trip-places'
import { readTripTable } from '#core/writing/trip-table'
import { MOST_PLACES } from '#core/writing/written-trip'

const places = (text: string) => readTrip(text).places
const told = (text: string) => readTrip(text).unread.map(({ line, text: what, why }) => [line, what, why])

describe('a table of a trip', () => {
  it('is read by its headings, in any order', () => {
    const trip = readTrip(
      'note,lon,mode,arrive,leave,name,lat\nold town,-9.14,,2026-05-01,2026-05-03,Lisbon,38.72\n,-3.7,train,2026-05-03,,Madrid,40.42\n',
    )
    expect(trip.places).toEqual([
      {
        line: 2,
        name: 'Lisbon',
        within: [],
        at: { lon: -9.14, lat: 38.72 },
        by: null,
        nights: 2,
        day: { day: 1, month: 5, year: 2026 },
        note: 'old town',
      },
      {
        line: 3,
        name: 'Madrid',
        within: [],
        at: { lon: -3.7, lat: 40.42 },
        by: 'train',
        nights: null,
        day: { day: 3, month: 5, year: 2026 },
        note: '',
      },
    ])
    expect(trip.unread).toEqual([])
    expect(trip.table?.map(({ as }) => as)).toEqual(['note', 'longitude', 'travel', 'arrival', 'departure', 'name', 'latitude'])
  })

  it('may have semicolons and decimal commas, tabs, a byte order mark, or the first line of a spreadsheet', () => {
    const [lisbon] = places('\uFEFFName;Latitude;Longitude\r\nLisbon;38,72;-9,14\r\n')
    expect(lisbon).toMatchObject({ name: 'Lisbon', at: { lat: 38.72, lon: -9.14 } })
    expect(places('City\tCountry\nParis\tFrance\nNice\tFrance')).toMatchObject([
      { name: 'Paris', within: ['France'] },
      { name: 'Nice', within: ['France'] },
    ])
    const [first] = places('sep=;\nStop;Nights\nOslo;3')
    expect(first).toMatchObject({ line: 3, name: 'Oslo', nights: 3 })
    expect(places('lat,lng\n38.72,-9.14')).toMatchObject([{ name: '', at: { lat: 38.72, lon: -9.14 } }])
    expect(places('place,coordinates\nHut,"47°30\'N 8°15\'E"')).toMatchObject([{ at: { lat: 47.5, lon: 8.25 } }])
  })

  it('has quoted cells as of RFC 4180, section 2: with commas, line breaks, and doubled quotes', () => {
    const text = 'name,note\r\n"Springfield, Ohio","a ""big"" one\r\nin two lines"\r\nLima,\r\n'
    expect(places(text)).toMatchObject([
      { line: 2, name: 'Springfield', within: ['Ohio'], note: 'a "big" one in two lines' },
      { line: 4, name: 'Lima', note: '' },
    ])
    expect(told('name,note\nLima,"never closed\nCusco,')[0]?.[2]).toBe('quotes')
  })

  it('reads days with slashes only where one of them tells which way round they are', () => {
    const day = (...cells: string[]) => places(`city,date\n${cells.map((cell) => `X,${cell}`).join('\n')}`).map((place) => place.day && [place.day.day, place.day.month]) // prettier-ignore
    expect(day('12/05/2026', '13/05/2026')).toEqual([[12, 5], [13, 5]]) // prettier-ignore
    expect(day('05/12/2026', '05/13/2026')).toEqual([[12, 5], [13, 5]]) // prettier-ignore
    expect(day('12/05/2026', '06/06/2026')).toEqual([null, [6, 6]])
    expect(told('city,date\nX,12/05/2026')).toEqual([[2, '12/05/2026', 'day-or-month']])
    // A year that ends between two days.
    expect(places('city,arrive,leave\nX,30 Dec,2 Jan')).toMatchObject([{ nights: 3 }])
  })

  it('tells what it cannot read, and loses nothing else of its row', () => {
    const text = 'name,lat,lon,mode,date\nLima,95,10,llama,31 June\n,,,train,\n,,,,\nCusco,,,bus,\n'
    expect(told(text)).toEqual([
      [2, '95, 10', 'coordinates'],
      [2, '31 June', 'day'],
      [2, 'llama', 'mode'],
      [3, 'train', 'place'],
    ])
    expect(places(text)).toMatchObject([
      { name: 'Lima', at: null },
      { name: 'Cusco', by: 'bus' },
    ])
    expect(places(`name,lat,lon\n${'A,1,2\n'.repeat(1000)}`)).toHaveLength(MOST_PLACES)
  })

  it('is no table where its first line is none', () => {
    for (const text of ['Lisbon, Madrid', 'Lisbon\nMadrid', 'Name\nLisbon', 'Lisbon - Madrid\nname, note', 'mode,note\ntrain,x', ''])
      expect(readTripTable(text), text).toBeUndefined()
    expect(places('Note, Lisbon')).toHaveLength(1)
  })

  it('says of any cells what stood in them', () => {
    // What a writer of the same package quotes is not the check: that each cell comes back to its own row and column is.
    const cell = fc.string({ unit: fc.constantFrom('a', 'é', '名', ',', ';', '"', '\n', ' '), maxLength: 12 })
    const named = cell.map((text) => `A${text.replaceAll(/[,\s]/g, '')}`)
    fc.assert(
      fc.property(fc.array(fc.tuple(named, cell), { minLength: 1, maxLength: 8 }), fc.constantFrom(',', ';', '\t'), (rows, delimiter) => {
        const text = Papa.unparse([['name', 'note'], ...rows], { delimiter })
        expect(places(text).map(({ name, note }) => [name, note])).toEqual(
          rows.map(([name, note]) => [name, note.trim().replaceAll(/\s+/g, ' ')]),
        )
      }),
    )
  })
})

describe('the stops of a journey as a table', () => {
  it('make the same trip again: places, ways to travel, days, nights and notes', () => {
    const written = 'name,lat,lon,mode,arrive,nights,note\nLisbon,38.722252,-9.139337,,2026-05-01,2,"the ""old"" town, at night"\nMadrid,40.4165,-3.70256,train,2026-05-03,,\nIbiza,38.90883,1.43296,ferry,,,\n' // prettier-ignore
    const made = (text: string) => {
      const found = readTrip(text).places.map((said) => ({ name: said.name, said, at: said.at, option: undefined, by: said.by }))
      const places = tripPlaces(found, 2026)
      const map = mapOfTrip(places.map(({ place }) => place), { width: 1920, height: 1080 }) // prettier-ignore
      return journeyOfTrip(places, sheetOfMap(map, '0'.repeat(64)), { width: 1920, height: 1080, rate: '30/1' })
    }
    const journey = made(written)
    const table = writeStopsTable(journey, journey.travellers[0]!)
    expect(table.split('\r\n')[0]).toBe('name,latitude,longitude,travel,arrival,nights,note')
    expect(readTrip(table).unread).toEqual([])
    expect(readTrip(table).places).toMatchObject([
      {
        name: 'Lisbon',
        at: { lat: 38.722252, lon: -9.139337 },
        by: null,
        nights: 2,
        day: { year: 2026, month: 5, day: 1 },
        note: 'the "old" town, at night',
      },
      { name: 'Madrid', at: { lat: 40.4165, lon: -3.70256 }, by: 'train', day: { year: 2026, month: 5, day: 3 } },
      { name: 'Ibiza', by: 'ferry', day: null },
    ])
    expect(made(table)).toEqual(journey)
  })
})
