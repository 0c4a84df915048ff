import type { LonLat } from '#core/geo/lon-lat'
import type { Choosing } from '#core/writing/choose-places'
import { chooseTogether } from '#core/writing/choose-places'
import type { Mode } from '#core/writing/modes'
import type { Place, PlaceSearch } from './search'

/** A place as it was written: see core/writing/written-trip.ts. */
export interface Wanted {
  name: string
  within: readonly string[]
  at: LonLat | null
  by: Mode | null
}

/** A place of a trip that has been looked up. */
export interface Resolved {
  /** The number of what was written; one that names several places by commas has several. */
  from: number
  name: string
  /** Where it is by its coordinates; then there is nothing to choose. */
  at: LonLat | null
  /** Possible places, the likeliest first; none where nobody knows it. */
  options: Place[]
  isUncertain: boolean
}

/** At most so many candidates of a name are weighed, and so many told. */
const MOST_CANDIDATES = 40
const MOST_TOLD = 8
/** So many words after commas may say which place is meant: a state and a country. */
const MOST_QUALIFIERS = 3

interface Looked {
  from: number
  name: string
  at: LonLat | null
  by: Mode | null
  options: Place[]
}

/** Looks up the places of a trip, and chooses among those of one name the ones that fit together. */
export function resolveTrip(wanted: readonly Wanted[], search: PlaceSearch): Resolved[] {
  const looked = wanted.flatMap((place, from) => lookUp(place, from, search))
  const choices = chooseTogether(looked.map(choosingOf))
  return looked.map(({ from, name, at, options }, i) => {
    const { order, isUncertain } = choices[i]!
    return {
      from,
      name,
      at,
      options: at ? [] : order.slice(0, MOST_TOLD).map((k) => options[k]!),
      isUncertain: at === null && isUncertain,
    }
  })
}

/** What follows a name after commas says which one is meant, if there is one there; else it is a place of its own, as in a list. */
function lookUp({ name, within, at, by }: Wanted, from: number, search: PlaceSearch): Looked[] {
  if (at) return [{ from, name, at, by, options: [] }]
  for (let count = Math.min(within.length, MOST_QUALIFIERS); count > 0; count--) {
    const options = search.candidates(name, within.slice(0, count), MOST_CANDIDATES)
    if (!options.some(({ isExact }) => isExact)) continue
    const rest = within.slice(count)
    const [next, ...others] = rest
    return [{ from, name, at: null, by, options }, ...(next === undefined ? [] : lookUp({ name: next, within: others, at: null, by: null }, from, search))] // prettier-ignore
  }
  const [next, ...others] = within
  // As in "Frankfurt (Oder)".
  const both = next === undefined ? [] : search.candidates(`${name} ${next}`, others, MOST_CANDIDATES)
  if (both.some(({ isExact }) => isExact)) return [{ from, name: `${name} (${next})`, at: null, by, options: both }]
  const options = search.candidates(name, [], MOST_CANDIDATES)
  const alone: Looked = { from, name, at: null, by, options }
  if (next === undefined) return [alone]
  // A second name that nobody knows either belongs to the first: "Aunt Mary's, round the corner".
  const following = lookUp({ name: next, within: others, at: null, by: null }, from, search)
  return following.every((place) => place.options.length > 0) ? [alone, ...following] : [alone]
}

/** What has coordinates is where it is, whatever its name. */
const choosingOf = ({ at, by, options }: Looked): Choosing => ({
  by,
  candidates: at
    ? [{ ...at, country: '', population: 0, isExact: true, isMainName: true }]
    : options.map(({ lon, lat, countryCode, population, isExact, name, known }) => ({
        lon,
        lat,
        country: countryCode,
        population,
        isExact,
        isMainName: name === known,
      })),
})
