import { formatCoordinates } from '../formats/coordinates'
import type { LonLat } from '../geo/lon-lat'
import { inYears } from './dates'
import type { TripPlace } from './make-journey'
import type { Mode } from './modes'
import type { WrittenPlace } from './written-trip'

/** A place that was written and has been found: by its coordinates, or as one of the list of places. */
export interface FoundPlace {
  /** As it was written; '' where there are coordinates alone. */
  name: string
  said: WrittenPlace
  at: LonLat | null
  option: (LonLat & { id: number; known: string }) | undefined
  by: Mode | null
}

/** The places of a trip as a journey is made of them; those that were not found are left out. @param year of the first day that is written without one */
export function tripPlaces(found: readonly FoundPlace[], year: number): TripPlace[] {
  const known = found.flatMap((place) => {
    const at = place.at ?? place.option
    return at ? [{ ...place, place: { lon: at.lon, lat: at.lat } }] : []
  })
  const dates = inYears(
    known.map(({ said }) => said.day),
    year,
  )
  return known.map(({ name, said, at, option, place, by }, i) => ({
    key: option && !at ? String(option.id) : keyOf(name, place),
    // The code of an airport is no name.
    name: option && /^[A-Z]{3}$/.test(name) ? option.known : name || formatCoordinates(place),
    place,
    isListed: !at,
    by,
    nights: said.nights,
    date: dates[i]!,
    note: said.note,
  }))
}

/** The same name at the same spot is the same place. */
const keyOf = (name: string, { lon, lat }: LonLat): string => `${name} ${lon} ${lat}`.replaceAll(/[^\w-]+/g, '-').slice(0, 30)
