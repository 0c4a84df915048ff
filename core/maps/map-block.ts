import { geoConicConformalRaw, geoEquirectangularRaw, geoMercatorRaw } from 'd3-geo'
import type { GeoProjection } from 'd3-geo'
import { degrees, radians } from '../geometry/angle'
import { clamp } from '../geometry/clamp'
import type { Point } from '../geometry/point'
import type { Size } from '../geometry/size'
import { MEAN_RADIUS } from '../geo/earth'
import { geodesicDistance } from '../geo/geodesic'
import type { LonLat } from '../geo/lon-lat'
import { d3Projection, planeMap } from '../geo/plane'
import type { LonLatBox } from './land-index'
import type { MapLayout } from './layout'

/** A rectangle of a map that is drawn into pixels of its own. */
export interface Block extends Size {
  /** Its upper left corner in the map's pixels. */
  left: number
  top: number
  /** The map's pixels to one of its own. */
  step: number
}

/** Where things are in a block. */
export interface BlockPlan extends Block {
  /** From degrees to the block's pixels, for d3-geo, which cuts shapes where the map is cut, and a little way outside the block. */
  projection: GeoProjection
  /** From degrees to the block's pixels, near the block: longitudes may go on beyond 180 degrees. */
  toPixels(lon: number, lat: number): Point
  /** The place at a pixel; undefined beyond the edge of the Earth. */
  toLonLat(p: Point): LonLat | undefined
  /** Metres to a pixel, in the middle of the map: all blocks of a level have the same, so that what depends on it changes nowhere between two of them. */
  metres: number
  /** The part of the Earth that the block shows; undefined where that is too large a part of it for plain bounds to mean much. */
  bounds: LonLatBox | undefined
}

/** Shapes are cut so far outside the block, in its pixels, that the widest line along the cut is not seen. */
const MARGIN = 96

/** Places of a block that are looked at for its bounds, along each side. */
const LOOKS = 12

/** Bounds wider than this, or nearer to a pole, in degrees, are not used. */
const WIDEST = 150
const POLAR = 84

/** Works out where things are in a block of a map. */
export function planBlock({ plane, scale, x, y, size }: MapLayout, block: Block): BlockPlan {
  const { left, top, step, width, height } = block
  const k = scale / step
  const [tx, ty] = [(x - left) / step, (y - top) / step]
  const projection = d3Projection(plane)
    .scale(k)
    .translate([tx, ty])
    .clipExtent([
      [-MARGIN, -MARGIN],
      [width + MARGIN, height + MARGIN],
    ])
  const { inverse } = planeMap(plane)
  const onMap = Math.max(size.width, size.height) / step
  const toLonLat = (p: Point) => {
    // Far outside the map, projections fold over.
    if (Math.abs(p.x * step + left - size.width / 2) / step > onMap || Math.abs(p.y * step + top - size.height / 2) / step > onMap)
      return undefined
    return inverse({ x: (p.x - tx) / k, y: (p.y - ty) / k })
  }
  const raw = unwrapped(plane)
  const toPixels = (lon: number, lat: number): Point => {
    const at = raw(lon, lat)
    return { x: k * at.x + tx, y: k * at.y + ty }
  }
  const middle = { x: (size.width / 2 - left) / step, y: (size.height / 2 - top) / step }
  const [here, beside] = [toLonLat(middle), toLonLat({ x: middle.x + 1, y: middle.y })]
  // The unit of the plane is the Earth's radius.
  const metres = here && beside ? geodesicDistance(here, beside) : MEAN_RADIUS / k
  const bounds = boundsOf(plane.lon, toLonLat, block)
  return { ...block, projection, toPixels, toLonLat, metres, bounds }
}

type DrawnPlane = MapLayout['plane']

/** A plane's projection with longitudes that do not wrap round, so that shapes near a block stay whole wherever the map is cut. */
function unwrapped(plane: DrawnPlane): (lon: number, lat: number) => Point {
  if (plane.projection === 'orthographic') {
    const project = d3Projection(plane)
    return (lon, lat) => {
      const [x, y] = project([lon, lat])!
      return { x, y }
    }
  }
  const raw = {
    mercator: () => geoMercatorRaw,
    equirectangular: () => geoEquirectangularRaw,
    conic: () => geoConicConformalRaw(radians(plane.parallels[0]), radians(plane.parallels[1])),
  }[plane.projection]()
  // d3-geo puts the origin of longitude and latitude at the origin of the plane, and turns the y axis over.
  const [x0, y0] = raw(0, 0)
  return (lon, lat) => {
    const [x, y] = raw(radians(lon - plane.lon), radians(clamp(lat, -89, 89)))
    return { x: x - x0, y: y0 - y }
  }
}

/** The bounds of a block in degrees, with longitudes that go on from the map's middle one. */
function boundsOf(middle: number, toLonLat: (p: Point) => LonLat | undefined, { width, height }: Size): LonLatBox | undefined {
  const box = { west: Infinity, south: Infinity, east: -Infinity, north: -Infinity }
  for (let i = 0; i <= LOOKS; i++) {
    for (let j = 0; j <= LOOKS; j++) {
      // With a margin of an eighth, so that what lies just outside the block is there to be seen at its edges.
      const at = toLonLat({ x: width * (-0.125 + (1.25 * i) / LOOKS), y: height * (-0.125 + (1.25 * j) / LOOKS) })
      if (!at) continue
      const lon = middle + degrees(Math.atan2(Math.sin(radians(at.lon - middle)), Math.cos(radians(at.lon - middle))))
      box.west = Math.min(box.west, lon)
      box.east = Math.max(box.east, lon)
      box.south = Math.min(box.south, at.lat)
      box.north = Math.max(box.north, at.lat)
    }
  }
  const isPlain = box.east - box.west < WIDEST && box.south > -POLAR && box.north < POLAR && box.west < box.east && box.south < box.north
  return isPlain ? box : undefined
}
