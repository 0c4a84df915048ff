import { METRES_PER_DEGREE } from '#core/geo/earth'
import { radians } from '#core/geometry/angle'
import Database from 'better-sqlite3'
import { distance } from 'fastest-levenshtein'
import type { LonLat } from '#core/geo/lon-lat'
import { foldName } from './fold'
import { countryName, liesIn } from './qualifiers'

export interface Place extends LonLat {
  /** Its number in GeoNames. */
  id: number
  /** The name that matched, which may be a former one or one in another language; `known` is then the place's main name. */
  name: string
  known: string
  /** State, province or the like; may be empty. */
  region: string
  /** Name of the country in English, and its two-letter code of ISO 3166-1. */
  country: string
  countryCode: string
  population: number
  /** The IANA name of its time zone; may be empty. */
  zone: string
  /** Whether it is called just what was typed, but for accents and capitals. */
  isExact: boolean
}

interface Row extends LonLat {
  id: number
  name: string
  folded: string
  known: string
  country: string
  region: string
  code: string
  population: number
  zone: string
}

/** The number of candidates compared in full; those left out have the fewest inhabitants or match the query least. */
const CANDIDATES = 600

/** So many similar names are told where there is none that is the same. */
const MOST_SIMILAR = 8

/** Weights of the ranking: better matches come first, then larger places; a place near the view may overtake a larger one far away. */
const POPULATION = 0.35
const NEARNESS = 1.2
const NEAR_KM = 300
/** A former name, or one in another language, counts a little less than the main name. */
const OTHER_NAME = 0.15

/** Among names that differ only in accents, prefer the one typed. */
const AS_TYPED = 0.02
const isAsTyped = (name: string, typed: string): boolean => name.toLowerCase() === typed.trim().normalize('NFC').toLowerCase()

export interface PlaceSearch {
  /**
   * The best matches for what was typed, at most `limit`. A country, state or province after the name, with or without a comma, narrows the search.
   * Accents and a wrong letter or two are forgiven, but exact matches always come first.
   * @param near the middle of the view: of equally good matches, those near it come first
   */
  search(text: string, near: LonLat | undefined, limit: number): Place[]
  /**
   * The places that a whole name may mean, the largest first: those that are called so, or have it as the three letters of their airports; only where there are
   * none, similar ones. @param qualifiers countries, states or provinces that it must lie in
   */
  candidates(name: string, qualifiers: readonly string[], limit: number): Place[]
  /** The largest place within a number of kilometres of a spot. */
  at(spot: LonLat, withinKm: number): Place | undefined
  close(): void
}

interface Ranked {
  row: Row
  quality: number
  score: number
}

/** From this quality on, the query is a correctly spelt beginning of the name. */
const RIGHT = 1.6

/** Opens the list of places that indexPlaces has made. */
export function openPlaces(path: string): PlaceSearch {
  const db = new Database(path, { readonly: true })
  const columns = 'p.id, n.name, n.folded, p.name AS known, p.country, p.region, p.code, p.population, p.lon, p.lat, p.zone'
  const matching = (table: string, order: string) =>
    db.prepare(
      `SELECT ${columns} FROM ${table} t JOIN names n ON n.id = t.rowid JOIN places p ON p.id = n.place
       WHERE ${table} MATCH ? ORDER BY ${order} LIMIT ${CANDIDATES}`,
    )
  const byWords = matching('name_words', 'p.population DESC')
  const byTrigrams = matching('name_trigrams', 't.rank')
  // Words that many places begin with would crowd out small ones with exactly that name.
  const byName = db.prepare(
    `SELECT ${columns} FROM names n JOIN places p ON p.id = n.place WHERE n.folded = ? ORDER BY p.population DESC LIMIT ?`,
  )
  const around = db.prepare(
    'SELECT id, name, name AS known, country, region, code, population, lon, lat, zone FROM places WHERE lat BETWEEN ? AND ? ORDER BY population DESC',
  )

  const byCode = db.prepare(
    `SELECT p.id, p.name, '' AS folded, p.name AS known, p.country, p.region, p.code, p.population, p.lon, p.lat, p.zone
     FROM codes c JOIN places p ON p.id = c.place WHERE c.code = ? ORDER BY p.population DESC LIMIT ?`,
  )

  function candidates(name: string, qualifiers: readonly string[], limit: number): Place[] {
    const folded = foldName(name.slice(0, 120))
    if (folded === '') return []
    const within = qualifiers.map(foldName).filter((part) => part !== '')
    const coded = /^[A-Z]{3}$/.test(name) ? (byCode.all(name, limit) as Row[]).map((row) => placeOf(row, true)) : []
    if (coded.length > 0) return coded
    // Of a place that has the name twice, its main one counts.
    const best = new Map<number, Row>()
    for (const row of byName.all(folded, CANDIDATES) as Row[])
      if (liesIn(row, within) && (!best.has(row.id) || row.name === row.known)) best.set(row.id, row)
    if (best.size > 0) return [...best.values()].slice(0, limit).map((row) => placeOf(row, true))
    const similar = search([name, ...qualifiers].join(', '), undefined, Math.min(limit, MOST_SIMILAR))
    // "Krems" is Krems an der Donau rather than a village near Krems.
    const longer = similar.filter((place) => foldName(place.name).startsWith(`${folded} `))
    return longer.length > 0 ? longer : similar
  }

  /** The best name of each place that matches the qualifiers, best first. */
  function ranked(typed: string, qualifiers: readonly string[], near: LonLat | undefined): Ranked[] {
    const folded = foldName(typed)
    const best = new Map<number, Ranked>()
    const take = (rows: unknown[]) => {
      for (const row of rows as Row[]) {
        const quality = qualityOf(row.folded, folded)
        if (quality === undefined || !liesIn(row, qualifiers)) continue
        const found = { row, quality, score: scoreOf(row, quality, near) + (isAsTyped(row.name, typed) ? AS_TYPED : 0) }
        if (found.score > (best.get(row.id)?.score ?? -Infinity)) best.set(row.id, found)
      }
    }
    take(byName.all(folded, CANDIDATES))
    take(
      byWords.all(
        folded
          .split(' ')
          .map((word) => `"${word}" *`)
          .join(' AND '),
      ),
    )
    // Similar words are searched only if the words as typed find nothing.
    const isRight = ({ quality }: Ranked) => quality >= RIGHT
    if (folded.length >= 4 && ![...best.values()].some(isRight)) take(byTrigrams.all(trigrams(folded)))
    return [...best.values()].sort((a, b) => Number(isRight(b)) - Number(isRight(a)) || b.score - a.score || a.row.id - b.row.id)
  }

  function search(text: string, near: LonLat | undefined, limit: number): Place[] {
    const [typed = '', ...rest] = text.slice(0, 120).split(',')
    if (foldName(typed) === '') return []
    const qualifiers = rest.map(foldName).filter((part) => part !== '')
    const whole = ranked(typed, qualifiers, near)
    return (isExact(whole[0]) ? whole : [...qualified(typed, qualifiers, near), ...whole])
      .filter(({ row }, i, all) => all.findIndex((other) => other.row.id === row.id) === i)
      .slice(0, limit)
      .map((found) => placeOf(found.row, isExact(found)))
  }

  /** The reading in which the last word or two are a qualifier, as in "Paris Texas". */
  function qualified(typed: string, qualifiers: readonly string[], near: LonLat | undefined): Ranked[] {
    const words = typed.trim().split(/\s+/)
    for (const count of [2, 1]) {
      if (words.length <= count) continue
      const found = ranked(words.slice(0, -count).join(' '), [foldName(words.slice(-count).join(' ')), ...qualifiers], near)
      if (isExact(found[0])) return found.filter(isExact)
    }
    return []
  }

  function at(spot: LonLat, withinKm: number): Place | undefined {
    const reach = withinKm / KM_PER_DEGREE
    const found = (around.all(spot.lat - reach, spot.lat + reach) as Row[]).find((row) => roughKilometres(row, spot) <= withinKm)
    return found && placeOf(found, true)
  }

  return { search, candidates, at, close: () => db.close() }
}

const placeOf = ({ id, name, known, country, region, population, lon, lat, zone }: Row, exact: boolean): Place => ({
  id,
  name,
  known,
  region,
  country: countryName(country),
  countryCode: country,
  population,
  lon,
  lat,
  zone,
  isExact: exact,
})

function trigrams(folded: string): string {
  const parts = new Set<string>()
  for (let i = 0; i + 3 <= folded.length; i++) parts.add(folded.slice(i, i + 3))
  return [...parts].map((part) => `"${part}"`).join(' OR ')
}

function scoreOf(row: Row, quality: number, near: LonLat | undefined): number {
  const nearness = near ? NEARNESS * Math.exp(-roughKilometres(row, near) / NEAR_KM) : 0
  const other = row.name === row.known ? 0 : OTHER_NAME
  return quality - other + POPULATION * Math.log10(row.population + 10) + nearness
}

const EXACT = 3
const isExact = (found: Ranked | undefined): boolean => found !== undefined && found.quality === EXACT

/** How well a name matches what was typed, higher is better; undefined if they have too little in common. */
function qualityOf(name: string, typed: string): number | undefined {
  if (name === typed) return EXACT
  if (name.startsWith(`${typed} `)) return 2.4
  if (name.startsWith(typed)) return 2
  if (typed.split(' ').every((word) => name.split(' ').some((part) => part.startsWith(word)))) return RIGHT
  // Compare with as much of the name as was typed, so that a slip is forgiven before the whole name is there.
  const slips = Math.min(distance(name, typed), distance(name.slice(0, typed.length), typed) + 0.5)
  const allowed = typed.length < 5 ? 1 : typed.length < 9 ? 2 : 3
  return slips <= allowed + 0.5 ? RIGHT - slips * 0.5 : undefined
}

const KM_PER_DEGREE = METRES_PER_DEGREE / 1000

/** Accurate to a few percent, which is enough for ranking: a plane around the middle latitude. */
function roughKilometres(a: LonLat, b: LonLat): number {
  const dLon = ((a.lon - b.lon + 540) % 360) - 180
  return KM_PER_DEGREE * Math.hypot(dLon * Math.cos(radians((a.lat + b.lat) / 2)), a.lat - b.lat)
}
