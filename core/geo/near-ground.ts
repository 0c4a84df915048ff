import type { View } from '../camera/view'
import type { Point } from '../geometry/point'
import type { Size } from '../geometry/size'
import type { Georeference, Journey } from '../journey/schema'
import { geoSheet } from './georeference'
import { groundGeo } from './ground'
import type { LonLat } from './lon-lat'
import { webMercator } from './plane'

/** Where places on the Earth lie on a ground, or would if it knew. */

/** The share of the frame that bounds fill. */
const FILL = 0.75

/**
 * A plane that shows bounds in the middle of the frame: ground units are its pixels.
 * @param bounds west, south, east, north in degrees; west is greater than east over the antimeridian
 */
export function georeferenceInFrame(
  [west, south, east, north]: readonly [number, number, number, number],
  { centre, zoom }: View,
  { width, height }: Size,
): Georeference {
  const sw = webMercator.forward({ lon: west, lat: Math.max(-85, south) })!
  const ne = webMercator.forward({ lon: east < west ? east + 360 : east, lat: Math.min(85, north) })!
  const metres = Math.max((ne.x - sw.x) / (FILL * width), (ne.y - sw.y) / (FILL * height), 1e-3) * zoom
  const [x, y] = [(sw.x + ne.x) / 2, (sw.y + ne.y) / 2]
  return {
    kind: 'affine',
    source: 'world-file',
    plane: { kind: 'mercator' },
    matrix: [metres, 0, x - metres * centre.x, 0, -metres, y + metres * centre.y],
  }
}

/**
 * Where places lie on the ground: by its georeferenced sheet, else by the stops that know where on the Earth they are, such as those of a track; undefined
 * where nothing says it.
 */
export function toGroundBy(journey: Journey): ((at: LonLat) => Point | undefined) | undefined {
  const geo = groundGeo(journey)
  if (geo) return geo.toGround
  const points = journey.stops.flatMap(({ id, at, place }) => (place ? [{ id, name: '', at, ...place }] : []))
  // Of stops that lie together only one says anything.
  const apart = points.filter(({ lon, lat }, i) => points.findIndex((other) => other.lon === lon && other.lat === lat) === i)
  if (apart.length < 2) return undefined
  return geoSheet({ kind: 'points', plane: null, fit: null, points: apart }).toSheet
}
