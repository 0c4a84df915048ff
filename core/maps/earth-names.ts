import names from './earth-names.json'

/** A place where a name has room: the middle of it in degrees, and half the width that a name may have there, in km. */
export type NamePlace = readonly [lon: number, lat: number, halfKm: number]

/** The name of a country or a sea in English. */
export interface EarthName {
  kind: 'country' | 'sea'
  name: string
  /** The area that it names, of a sea about. */
  km2: number
  /** The best first. */
  places: readonly NamePlace[]
}

/** The largest first. Made by `npm run earth-names` of Natural Earth's countries and coasts, and our own list of seas. */
export const EARTH_NAMES = names as unknown as readonly EarthName[]
