import geodesic from 'geographiclib-geodesic'
import { radians } from '../geometry/angle'
import { ECCENTRICITY_SQUARED, SEMI_MAJOR_AXIS } from './earth'
import type { LonLat } from './lon-lat'

const WGS84 = geodesic.Geodesic.WGS84

/** Ways shorter than this in degrees are measured on the ellipsoid that touches them, to a ten-millionth of their length. */
const SHORT = 0.02

/** Length in metres, as `geodesicDistance` but quicker for short ways; for tracks of a million points. */
export function trackDistance(a: LonLat, b: LonLat): number {
  const dLat = b.lat - a.lat
  const dLon = ((b.lon - a.lon + 540) % 360) - 180
  if (Math.abs(dLat) > SHORT || Math.abs(dLon) > SHORT || Math.abs(a.lat) > 85) return geodesicDistance(a, b)
  // Radii of curvature along the meridian and across it. Source: Rapp, Geometric geodesy, part I (1991), section 3.
  const lat = radians((a.lat + b.lat) / 2)
  const w = 1 - ECCENTRICITY_SQUARED * Math.sin(lat) ** 2
  const across = SEMI_MAJOR_AXIS / Math.sqrt(w)
  const along = (across * (1 - ECCENTRICITY_SQUARED)) / w
  const [north, east] = [radians(dLat) * along, radians(dLon) * across * Math.cos(lat)]
  return Math.sqrt(north * north + east * east)
}

/** Length in metres of the shortest way over the ellipsoid. Source: Karney, Algorithms for geodesics (2013). */
export const geodesicDistance = (a: LonLat, b: LonLat): number => WGS84.Inverse(a.lat, a.lon, b.lat, b.lon).s12!
