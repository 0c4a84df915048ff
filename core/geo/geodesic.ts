import geodesic from 'geographiclib-geodesic'
import type { LonLat } from './lon-lat'

const WGS84 = geodesic.Geodesic.WGS84

/** Length in metres of the shortest way over the ellipsoid. Source: Karney, Algorithms for geodesics (2013). */
export const geodesicDistance = (a: LonLat, b: LonLat): number => WGS84.Inverse(a.lat, a.lon, b.lat, b.lon).s12!
