import Database from 'better-sqlite3'
import { distance } from 'fastest-levenshtein'
import type { LonLat } from '#core/geo/lon-lat'
import { foldName } from './fold'

export interface Place extends LonLat {
  name: string
  /** Name of the country in English, and its two letters of ISO 3166-1. */
  country: string
  countryCode: string
  population: number
}

interface Row extends LonLat {
  id: number
  name: string
  folded: string
  country: string
  population: number
}

const countryNames = new Intl.DisplayNames(['en'], { type: 'region' })
const countryName = (code: string): string => countryNames.of(code) ?? code

/** As many as are looked at closely; the ones left out have the fewest inhabitants, or the least in common with what was asked. */
const CANDIDATES = 400

/** Weights of the ranking: a better match goes first, then the larger place; one near what is in view may overtake a larger one far away. */
const POPULATION = 0.35
const NEARNESS = 1.2
const NEAR_KM = 300

export interface PlaceSearch {
  /**
   * The best matches for what was typed, at most `limit`. "Name, country" narrows to a country. Accents and a wrong letter or two are forgiven.
   * @param near what is in view: of places that match alike, those near it come first
   */
  search(text: string, near: LonLat | undefined, limit: number): Place[]
  close(): void
}

/** Opens the list of places that indexPlaces has made. */
export function openPlaces(path: string): PlaceSearch {
  const db = new Database(path, { readonly: true })
  const columns = 'p.id, p.name, p.folded, p.country, p.population, p.lon, p.lat'
  const byWords = db.prepare(
    `SELECT ${columns} FROM place_words w JOIN places p ON p.id = w.rowid WHERE place_words MATCH ? ORDER BY p.population DESC LIMIT ${CANDIDATES}`,
  )
  const byTrigrams = db.prepare(
    `SELECT ${columns} FROM place_trigrams t JOIN places p ON p.id = t.rowid WHERE place_trigrams MATCH ? ORDER BY t.rank LIMIT ${CANDIDATES}`,
  )

  function search(text: string, near: LonLat | undefined, limit: number): Place[] {
    const [typed = '', ...rest] = text.slice(0, 120).split(',')
    const folded = foldName(typed)
    const country = foldName(rest.join(' '))
    if (folded === '') return []
    const words = folded.split(' ')
    const found = new Map<number, Row>()
    const isWanted = (row: Row) =>
      country === '' || row.country.toLowerCase() === country || foldName(countryName(row.country)).startsWith(country)
    const add = (rows: unknown[]) => (rows as Row[]).forEach((row) => isWanted(row) && found.set(row.id, row))
    add(byWords.all(words.map((word) => `"${word}" *`).join(' AND ')))
    const isGood = (row: Row) => row.folded === folded || row.folded.startsWith(`${folded} `)
    // Only where the words as typed lead nowhere certain are those like them looked for.
    if (folded.length >= 4 && ![...found.values()].some(isGood)) add(byTrigrams.all(trigrams(folded)))
    return [...found.values()]
      .map((row) => ({ row, score: scoreOf(row, folded, near) }))
      .filter(({ score }) => score > -Infinity)
      .sort((a, b) => b.score - a.score || a.row.id - b.row.id)
      .slice(0, limit)
      .map(({ row: { name, country: code, population, lon, lat } }) => ({
        name,
        country: countryName(code),
        countryCode: code,
        population,
        lon,
        lat,
      }))
  }

  return { search, close: () => db.close() }
}

function trigrams(folded: string): string {
  const parts = new Set<string>()
  for (let i = 0; i + 3 <= folded.length; i++) parts.add(folded.slice(i, i + 3))
  return [...parts].map((part) => `"${part}"`).join(' OR ')
}

/** The better, the higher; -Infinity for what has too little in common with what was typed. */
function scoreOf(row: Row, folded: string, near: LonLat | undefined): number {
  const quality = qualityOf(row.folded, folded)
  if (quality === undefined) return -Infinity
  const nearness = near ? NEARNESS * Math.exp(-roughKilometres(row, near) / NEAR_KM) : 0
  return quality + POPULATION * Math.log10(row.population + 10) + nearness
}

function qualityOf(name: string, typed: string): number | undefined {
  if (name === typed) return 3
  if (name.startsWith(`${typed} `)) return 2.4
  if (name.startsWith(typed)) return 2
  if (typed.split(' ').every((word) => name.split(' ').some((part) => part.startsWith(word)))) return 1.6
  // Compared with as much of the name as was typed, so that a slip is forgiven before all of it stands there.
  const slips = Math.min(distance(name, typed), distance(name.slice(0, typed.length), typed) + 0.5)
  const allowed = typed.length < 5 ? 1 : typed.length < 9 ? 2 : 3
  return slips <= allowed + 0.5 ? 1.6 - slips * 0.5 : undefined
}

/** Good to some percent, which is enough for ranking: the plane round the middle latitude. */
function roughKilometres(a: LonLat, b: LonLat): number {
  const km = 111.2
  const dLon = ((a.lon - b.lon + 540) % 360) - 180
  return km * Math.hypot(dLon * Math.cos((((a.lat + b.lat) / 2) * Math.PI) / 180), a.lat - b.lat)
}
