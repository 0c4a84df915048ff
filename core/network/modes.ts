import type { NetworkMode } from '../journey/schema'

/** Names of the kinds of network. */
export const MODE_NAMES: Record<NetworkMode, string> = { road: 'Road', rail: 'Rail', water: 'Water' }

/** Default travel speed on a line, in km/h (common practice, no source). */
export const USUAL_SPEED: Record<NetworkMode, number> = { road: 60, rail: 80, water: 30 }

/** Speeds on the classes of roads, railways and ferries as OpenStreetMap names them, in km/h (common practice, no source). */
export const CLASS_SPEEDS: Record<string, number> = {
  motorway: 110,
  trunk: 90,
  primary: 80,
  secondary: 70,
  tertiary: 60,
  unclassified: 50,
  residential: 40,
  service: 20,
  track: 20,
  cycleway: 18,
  path: 5,
  footway: 5,
  rail: 80,
  light_rail: 50,
  tram: 30,
  ferry: 30,
}
