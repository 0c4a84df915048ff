import { clamp } from '../geometry/clamp'
import { geoDistance, geoGraticule, geoPath } from 'd3-geo'
import type { GeoProjection } from 'd3-geo'
import type { FeatureCollection, MultiLineString, Position } from 'geojson'
import type { Size } from '../geometry/size'
import { MEAN_RADIUS } from '../geo/earth'
import { d3Projection } from '../geo/plane'
import type { DrawnMap, Georeference, Plane } from '../journey/schema'
import { JourneyError } from '../error'
import { STYLE_SHEETS } from './map-styles'
import { VECTOR_SIDE } from '../sheet/pyramid'
import { lonWidth } from './region'

/** The shapes a map is drawn from, in degrees. */
export interface WorldShapes {
  land: FeatureCollection
  /** Lines between countries, without the coasts. */
  borders: MultiLineString
}

export interface MapLayout {
  /** In pixels, the longer side being that of vector images. */
  size: Size
  projection: GeoProjection
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
  const projection = raw
    .scale(k)
    .translate([tx, ty])
    .clipExtent([
      [-MARGIN, -MARGIN],
      [size.width + MARGIN, size.height + MARGIN],
    ])
  return { size, projection, georeference: { kind: 'affine', source: 'drawn', plane, matrix: [1 / k, 0, -tx / k, 0, 1 / k, -ty / k] } }
}

/** Shapes are clipped this far outside the picture, so that no outline runs along its edge. */
const MARGIN = 60

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

/** Draws a map as SVG, without names. */
export function drawMap(map: DrawnMap, shapes: WorldShapes): { svg: string; layout: MapLayout } {
  const layout = layoutMap(map)
  const { width, height } = layout.size
  const style = STYLE_SHEETS[map.style]
  const path = geoPath(layout.projection).digits(1)
  const land = path(shapes.land) ?? ''
  const stroke = (colour: string, w: number) =>
    `fill="none" stroke="${colour}" stroke-width="${w}" stroke-linejoin="round" stroke-linecap="round"`
  const graticule = map.graticule ? (path(graticuleFor(map)) ?? '') : ''
  const earth = outlineOfEarth(map, layout, path({ type: 'Sphere' }) ?? '')
  const parts = [
    `<rect width="${width}" height="${height}" fill="${style.sea}"/>`,
    ...style.shores.map((shore) => `<use href="#land" ${stroke(shore.colour, shore.width)}/>`),
    graticule && `<path d="${graticule}" ${stroke(style.graticule.colour, style.graticule.width)}/>`,
    `<use href="#land" fill="${style.land}"/>`,
    map.borders &&
      `<path d="${path(shapes.borders) ?? ''}" ${stroke(style.border.colour, style.border.width)} stroke-dasharray="${style.border.dash || 'none'}"/>`,
    `<use href="#land" ${stroke(style.coast.colour, style.coast.width)}/>`,
    // Cover lines that run along the Earth's edge, so that the edge is clean.
    earth &&
      `<path d="M${-MARGIN} ${-MARGIN}H${width + MARGIN}V${height + MARGIN}H${-MARGIN}Z${earth}" fill="${style.beyond}" fill-rule="evenodd"/>`,
    earth && `<path d="${earth}" ${stroke(style.coast.colour, style.coast.width * 1.5)}/>`,
  ]
  const svg = `<svg xmlns="http://www.w3.org/2000/svg" viewBox="0 0 ${width} ${height}"><defs><path id="land" d="${land}"/></defs>${parts.filter(Boolean).join('')}</svg>`
  return { svg, layout }
}

/** The detail of the coasts in a map: the median length of their segments, on the Earth in metres and in a picture in pixels. */
export interface CoastDetail {
  metres: number
  pixels: number
}

/** Undefined if no coast is visible. @param width of the picture in pixels */
export function coastDetail(map: DrawnMap, { land }: WorldShapes, width: number): CoastDetail | undefined {
  const { projection, size } = layoutMap(map)
  const { west, south, north } = map.region
  const across = lonWidth(map.region)
  const isInside = ([lon, lat]: Position) => lat! >= south && lat! <= north && (lon! - west + 720) % 360 <= across
  const pieces: CoastDetail[] = []
  for (const { geometry } of land.features) {
    const polygons = geometry.type === 'Polygon' ? [geometry.coordinates] : geometry.type === 'MultiPolygon' ? geometry.coordinates : []
    for (const ring of polygons.flat()) {
      for (let i = 1; i < ring.length; i++) {
        const [a, b] = [ring[i - 1]!, ring[i]!]
        if (!isInside(a) || !isInside(b)) continue
        const [p, q] = [projection([a[0]!, a[1]!]), projection([b[0]!, b[1]!])]
        if (!p || !q) continue
        const metres = MEAN_RADIUS * geoDistance([a[0]!, a[1]!], [b[0]!, b[1]!])
        pieces.push({ metres, pixels: Math.hypot(p[0] - q[0], p[1] - q[1]) * (width / size.width) })
      }
    }
  }
  return pieces.sort((a, b) => a.metres - b.metres)[Math.floor(pieces.length / 2)]
}

/** The edge of the Earth as SVG path data, for the globe or a whole flat map; none is visible on conic maps. */
function outlineOfEarth({ projection }: DrawnMap, { georeference: { matrix } }: MapLayout, sphere: string): string {
  if (projection === 'orthographic') return sphere
  if (projection === 'conic') return ''
  const [step, , left, , , top] = matrix
  const x = (plane: number) => ((plane - left) / step).toFixed(1)
  const y = (plane: number) => ((plane - top) / step).toFixed(1)
  const pole = projection === 'mercator' ? 1e3 : Math.PI / 2
  return `M${x(-Math.PI)} ${y(-pole)}H${x(Math.PI)}V${y(pole)}H${x(-Math.PI)}Z`
}

/** Lines of latitude and longitude at round degrees, about eight across the map, and a map's width beyond it on each side. */
function graticuleFor({ region }: DrawnMap): MultiLineString {
  const [width, height] = [lonWidth(region), region.north - region.south]
  const span = Math.max(width, height)
  const step = STEPS.find((s) => span / s <= 10) ?? 30
  if (span > 60) return geoGraticule().step([step, step])()
  const west = region.west - span
  const east = region.west + width + span
  const south = Math.max(-90, region.south - span)
  const north = Math.min(90, region.north + span)
  const rounds = (from: number, to: number) =>
    Array.from({ length: Math.floor(to / step) - Math.ceil(from / step) + 1 }, (_, i) => (Math.ceil(from / step) + i) * step)
  const even = (from: number, to: number) => Array.from({ length: 33 }, (_, i) => from + ((to - from) * i) / 32)
  return {
    type: 'MultiLineString',
    coordinates: [
      ...rounds(west, east).map((lon) => even(south, north).map((lat) => [lon, lat])),
      ...rounds(south, north).map((lat) => even(west, east).map((lon) => [lon, lat])),
    ],
  }
}

const STEPS = [0.0002, 0.0005, 0.001, 0.002, 0.005, 0.01, 0.02, 0.05, 0.1, 0.25, 0.5, 1, 2, 5, 10, 15, 20, 30]
