import { differenceInCalendarDays, parseISO } from 'date-fns'
import Papa from 'papaparse'
import { readCoordinates } from '../formats/coordinates'
import type { LonLat } from '../geo/lon-lat'
import type { WrittenDay } from './dates'
import { isoDay, takeDay } from './dates'
import type { Mode } from './modes'
import { modeIn } from './modes'
import type { ReadColumn, Unread, WrittenPlace, WrittenTrip } from './written-trip'
import { LONGEST_NAME, LONGEST_WITHIN, MOST_PLACES } from './written-trip'

/** A trip as a table: CSV (RFC 4180, also with semicolons), or rows copied from a spreadsheet. */

/** What a column may be, and what its heading says then, in small letters without spaces; the first is what it is called. */
const COLUMNS = {
  name: ['name', 'place', 'stop', 'city', 'town', 'location', 'destination', 'where'],
  within: ['country', 'state', 'region', 'province', 'county'],
  lat: ['latitude', 'lat'],
  lon: ['longitude', 'lon', 'lng', 'long'],
  coordinates: ['coordinates', 'coords', 'latlon', 'latlng', 'position', 'gps'],
  by: ['travel', 'mode', 'by', 'transport', 'transportation', 'vehicle', 'how', 'means'],
  arrive: ['arrival', 'arrive', 'arrives', 'date', 'day', 'checkin', 'start'],
  leave: ['departure', 'leave', 'leaves', 'depart', 'departs', 'until', 'checkout', 'end'],
  nights: ['nights', 'night', 'stay'],
  note: ['note', 'notes', 'comment', 'comments', 'remark', 'remarks', 'description'],
} as const satisfies Record<string, readonly string[]>
type Column = keyof typeof COLUMNS

const DELIMITERS = ['\t', ';', ',', '|'] as const
/** What a spreadsheet writes into the first line, to say what is between its cells. */
const SEPARATOR_LINE = /^sep=.\r?\n/i

const columnOf = (heading: string): Column | undefined => {
  const word = heading.toLowerCase().replaceAll(/[^\p{L}]/gu, '')
  return (Object.keys(COLUMNS) as Column[]).find((column) => (COLUMNS[column] as readonly string[]).includes(word))
}

/**
 * Reads the rows of a table as places; undefined where the text is no table: its first line needs two headings that are known, with a name or coordinates
 * among them. The columns stand in any order, and only the first of a kind is read. A row without a place, and what cannot be understood, is told.
 */
export function readTripTable(text: string): WrittenTrip | undefined {
  const plain = text
    .replace(/^\uFEFF/, '')
    .replace(SEPARATOR_LINE, '')
    .trimStart()
  const heading = plain.split(/\r\n|\r|\n/, 1)[0]!
  if (heading.length > 2000) return undefined
  const tried = DELIMITERS.map((delimiter) => {
    const cells = Papa.parse<string[]>(heading, { delimiter }).data[0] ?? []
    return { delimiter, cells, found: new Set(cells.flatMap((cell) => columnOf(cell) ?? [])) }
  })
  const { delimiter, cells, found } = tried.reduce((a, b) => (b.found.size > a.found.size ? b : a))
  const isPlaced = found.has('name') || found.has('coordinates') || (found.has('lat') && found.has('lon'))
  if (found.size < 2 || !isPlaced) return undefined
  const kinds = cells.map((cell, i) => {
    const kind = columnOf(cell)
    return kind && cells.findIndex((other) => columnOf(other) === kind) === i ? kind : undefined
  })
  const { data, errors } = Papa.parse<string[]>(plain, { delimiter })
  const unread: Unread[] = errors.some(({ type }) => type === 'Quotes')
    ? [{ line: lineOf(text, plain), text: heading.slice(0, 80), why: 'quotes' }]
    : []
  const dayFirst = isDayFirst(data.slice(1), kinds)
  const places: WrittenPlace[] = []
  let line = lineOf(text, plain) + linesIn(data[0] ?? [])
  for (const row of data.slice(1)) {
    const cell = (kind: Column) => (row[kinds.indexOf(kind)] ?? '').trim()
    const place = placeOfRow(cell, line, dayFirst, (text, why) => unread.push({ line, text: text.slice(0, 80), why }))
    if (place && places.length < MOST_PLACES) places.push(place)
    line += linesIn(row)
  }
  if (places[0]) places[0] = { ...places[0], by: null }
  return {
    places,
    unread,
    table: cells.map((cell, i): ReadColumn => ({ heading: cell.trim(), as: kinds[i] ? COLUMNS[kinds[i]][0] : null })),
  }
}

/** The line, from 1, at which a text goes on after what was cut off its beginning. */
const lineOf = (text: string, rest: string): number => text.slice(0, text.length - rest.length).split('\n').length

/** So many lines a row takes: a quoted cell may have several. */
const linesIn = (row: readonly string[]): number => 1 + row.reduce((sum, cell) => sum + (cell.match(/\r\n|\r|\n/g)?.length ?? 0), 0)

type Tell = (text: string, why: Unread['why']) => void

function placeOfRow(cell: (kind: Column) => string, line: number, dayFirst: boolean | undefined, tell: Tell): WrittenPlace | undefined {
  const name = cell('name').replaceAll(/\s+/g, ' ').slice(0, LONGEST_NAME)
  const at = coordinatesOf(cell, tell)
  const known = (Object.keys(COLUMNS) as Column[]).map(cell)
  if (name === '' && !at) {
    if (known.some((text) => text !== '')) tell(known.filter(Boolean).join(', '), 'place')
    return undefined
  }
  const [arrive, leave] = [dayOf(cell('arrive'), dayFirst, tell), dayOf(cell('leave'), dayFirst, tell)]
  // "Paris, France" in one cell is as good as two.
  const [own = '', ...around] = name.split(/\s*,\s*/)
  return {
    line,
    name: own,
    within: [...around, cell('within')].filter(Boolean).map((part) => part.slice(0, LONGEST_WITHIN)),
    at: at ?? null,
    by: modeOfCell(cell('by'), tell),
    nights: nightsOf(cell('nights'), arrive, leave),
    day: arrive ?? leave,
    note: cell('note').replaceAll(/\s+/g, ' '),
  }
}

function coordinatesOf(cell: (kind: Column) => string, tell: Tell): LonLat | undefined {
  const [lat, lon] = [cell('lat'), cell('lon')].map((text) => text.replace(/^([-+]?\d+),(\d+)$/, '$1.$2'))
  const written = cell('coordinates') || (lat || lon ? `${lat}, ${lon}` : '')
  if (written === '') return undefined
  const at = readCoordinates(written)
  if (!at) tell(written, 'coordinates')
  return at
}

function modeOfCell(text: string, tell: Tell): Mode | null {
  if (text === '') return null
  const mode = modeIn(text)
  if (!mode) tell(text, 'mode')
  return mode ?? null
}

const SLASHED = /^(\d{1,2})\/(\d{1,2})\/(\d{4})$/

/** Whether days with slashes begin with the day, by the one among them that can be read in one way only; undefined where there is none. */
function isDayFirst(rows: readonly string[][], kinds: readonly (Column | undefined)[]): boolean | undefined {
  const columns = [kinds.indexOf('arrive'), kinds.indexOf('leave')]
  for (const row of rows)
    for (const i of columns) {
      const match = SLASHED.exec((row[i] ?? '').trim())
      if (match && Number(match[1]) > 12) return true
      if (match && Number(match[2]) > 12) return false
    }
  return undefined
}

function dayOf(text: string, dayFirst: boolean | undefined, tell: Tell): WrittenDay | null {
  if (text === '') return null
  const slashed = SLASHED.exec(text)
  if (slashed && dayFirst === undefined && slashed[1] !== slashed[2]) {
    tell(text, 'day-or-month')
    return null
  }
  const [, first, second, year] = slashed ?? []
  const [day, month] = dayFirst === false ? [second, first] : [first, second]
  const found = takeDay(slashed ? `${year}-${month!.padStart(2, '0')}-${day!.padStart(2, '0')}` : text)
  if (!found.day) tell(text, 'day')
  return found.day
}

/** As many nights as are written, or as lie between two days. */
function nightsOf(text: string, arrive: WrittenDay | null, leave: WrittenDay | null): number | null {
  const written = /^(\d{1,3})(?!\d)/.exec(text)
  if (written) return Number(written[1])
  if (!arrive || !leave) return null
  const year = arrive.year ?? leave.year ?? 2024
  const between = (next: number) =>
    differenceInCalendarDays(parseISO(isoDay(leave, (leave.year ?? year) + next)), parseISO(isoDay(arrive, year)))
  const nights = between(0) < 0 && leave.year === null ? between(1) : between(0)
  return nights >= 0 ? nights : null
}
