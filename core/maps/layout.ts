import { clamp } from '../geometry/clamp'
import type { GeoProjection } from 'd3-geo'
import type { Size } from '../geometry/size'
import { d3Projection } from '../geo/plane'
import type { DrawnMap, Georeference, Plane } from '../journey/schema'
import { JourneyError } from '../error'
import { VECTOR_SIDE } from '../sheet/pyramid'
import { lonWidth } from './region'

export interface MapLayout {
  /** In pixels, the longer side being that of vector images. */
  size: Size
  plane: Extract<Plane, { kind: 'drawn' }>
  /** From the plane to pixels: so many to its unit, and where its origin is. */
  scale: number
  x: number
  y: number
  georeference: Extract<Georeference, { kind: 'affine' }>
}

/** Mercator's map grows without bounds closer to a pole, in degrees. */
const MERCATOR_EDGE = 84

const middleLon = (west: number, east: number): number => {
  const width = east > west ? east - west : east - west + 360
  const middle = west + width / 2
  return middle > 180 ? middle - 360 : middle
}

function planeOf({ region: { west, south, east, north }, projection }: DrawnMap): Extract<Plane, { kind: 'drawn' }> {
  // A conic map touches the Earth a sixth of its height from its upper and lower edges. Source: V. V. Kavrayskiy's constant as given by
  // J. P. Snyder, Map Projections: A Working Manual (1987), p. 99, for regions not much higher than wide; from memory.
  const sixth = (north - south) / 6
  const clampLatitude = (lat: number) => clamp(lat, -89, 89)
  return {
    kind: 'drawn',
    projection,
    lon: middleLon(west, east),
    lat: (south + north) / 2,
    parallels: [clampLatitude(south + sixth), clampLatitude(north - sixth)],
  }
}

/** The least width and height of a region in degrees, about a hundred metres: the coasts have nothing to show in less. */
const LEAST_SIDE = 0.001

/**
 * Lays out a map so that its region just fits into its shape, centred.
 * @throws JourneyError for a region that its projection cannot show
 */
export function layoutMap(map: DrawnMap): MapLayout {
  if (Math.min(lonWidth(map.region), map.region.north - map.region.south) < 0.999 * LEAST_SIDE)
    throw new JourneyError(`The region is too small for a map: make it at least ${LEAST_SIDE}° wide and high.`)
  const plane = planeOf(map)
  const raw = d3Projection(plane)
  const size =
    map.aspect >= 1
      ? { width: VECTOR_SIDE, height: Math.round(VECTOR_SIDE / map.aspect) }
      : { width: Math.round(VECTOR_SIDE * map.aspect), height: VECTOR_SIDE }
  const box = boundsOf(map, raw)
  const k = Math.min(size.width / (box.right - box.left), size.height / (box.bottom - box.top))
  const tx = size.width / 2 - (k * (box.left + box.right)) / 2
  const ty = size.height / 2 - (k * (box.top + box.bottom)) / 2
  return {
    size,
    plane,
    scale: k,
    x: tx,
    y: ty,
    georeference: { kind: 'affine', source: 'drawn', plane, matrix: [1 / k, 0, -tx / k, 0, 1 / k, -ty / k] },
  }
}

/** The region's outline in the plane. */
function boundsOf({ region, projection }: DrawnMap, raw: GeoProjection): { left: number; top: number; right: number; bottom: number } {
  const { west, south, north } = region
  const width = lonWidth(region)
  const clampLatitude = (lat: number) => (projection === 'mercator' ? clamp(lat, -MERCATOR_EDGE, MERCATOR_EDGE) : lat)
  if (clampLatitude(south) >= clampLatitude(north))
    throw new JourneyError('Mercator’s projection does not reach that near to a pole: choose the orthographic one.')
  if (projection === 'orthographic' && (width > 160 || north - south > 160)) return { left: -1.04, top: -1.04, right: 1.04, bottom: 1.04 }
  if (projection === 'conic' && width > 200)
    throw new JourneyError('A conic map is for a region up to half the way round the Earth: choose a narrower one, or another projection.')
  const box = { left: Infinity, top: Infinity, right: -Infinity, bottom: -Infinity }
  const steps = 32
  for (let i = 0; i <= steps; i++) {
    for (let j = 0; j <= steps; j++) {
      // Slightly inside, as the east and west edges of the world are the same meridian.
      const lon = west + width * (0.0005 + (0.999 * i) / steps)
      const [x, y] = raw([lon, clampLatitude(south) + ((clampLatitude(north) - clampLatitude(south)) * j) / steps]) ?? [NaN, NaN]
      if (!Number.isFinite(x) || !Number.isFinite(y)) continue
      box.left = Math.min(box.left, x)
      box.right = Math.max(box.right, x)
      box.top = Math.min(box.top, y)
      box.bottom = Math.max(box.bottom, y)
    }
  }
  return box
}
