import { clamp } from '../geometry/clamp'
/** A place on the Earth in degrees, WGS 84: longitude east of Greenwich -180..180, latitude north of the equator -90..90. */
export interface LonLat {
  lon: number
  lat: number
}

/** Rounding may put the edge of the world this far beyond its bounds, in degrees. */
const SLACK = 1e-9

/** Brings a longitude into -180..180. */
export const wrapLongitude = (lon: number): number =>
  Math.abs(lon) <= 180 + SLACK ? clamp(lon, -180, 180) : ((((lon + 180) % 360) + 360) % 360) - 180
