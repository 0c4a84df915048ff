import { geoConicConformal, geoDistance, geoEquirectangular, geoMercator, geoOrthographic } from 'd3-geo'
import type { GeoProjection } from 'd3-geo'
import proj4 from 'proj4'
import { degrees, radians } from '../geometry/angle'
import type { Point } from '../geometry/point'
import { JourneyError } from '../error'
import type { Plane } from '../journey/schema'
import { SEMI_MAJOR_AXIS } from './earth'
import type { LonLat } from './lon-lat'

/** The way from the Earth to a flat plane and back. Places that the plane does not show have no image: undefined. */
export interface PlaneMap {
  forward(at: LonLat): Point | undefined
  inverse(p: Point): LonLat | undefined
}

/** The poles lie at infinity in Mercator's projection; places nearer to them have no image. Below this y stays under a few widths of the map. */
const MERCATOR_LATITUDE = 89.9

/** EPSG:3857, in metres, x east and y north. Source: IOGP Guidance Note 373-7-2, 3.2.1.2, Popular Visualisation Pseudo Mercator. */
export const webMercator: PlaneMap = {
  forward: ({ lon, lat }) =>
    Math.abs(lat) <= MERCATOR_LATITUDE
      ? { x: SEMI_MAJOR_AXIS * radians(lon), y: SEMI_MAJOR_AXIS * Math.asinh(Math.tan(radians(lat))) }
      : undefined,
  inverse: ({ x, y }) => ({ lon: degrees(x / SEMI_MAJOR_AXIS), lat: degrees(Math.atan(Math.sinh(y / SEMI_MAJOR_AXIS))) }),
}

/** Longitude and latitude themselves, in degrees: EPSG:4326 with x east and y north. */
const plateCarree: PlaneMap = {
  forward: ({ lon, lat }) => ({ x: lon, y: lat }),
  inverse: ({ x, y }) => (Math.abs(y) <= 90 ? { lon: x, lat: y } : undefined),
}

function utm(zone: number, south: boolean): PlaneMap {
  const converter = proj4(`+proj=utm +zone=${zone} ${south ? '+south ' : ''}+datum=WGS84 +units=m`)
  return {
    forward({ lon, lat }) {
      // Far from its middle the transverse Mercator projection folds over.
      if (Math.abs(((lon - (zone * 6 - 183) + 540) % 360) - 180) > 60) return undefined
      const [x, y] = converter.forward([lon, lat])
      return { x, y }
    },
    inverse(p) {
      const [lon, lat] = converter.inverse([p.x, p.y])
      return Number.isFinite(lon) && Number.isFinite(lat) ? { lon, lat } : undefined
    },
  }
}

/** Spots of a projected system that do not lead back to within so many degrees lie where its projection folds over. */
const LEADS_BACK = 1e-4

/** Nothing on the Earth lies further out than this, in the system's units, except poles at infinity. */
const FAR = 1e9

/** @throws JourneyError if proj4 does not understand the definition. */
function crs({ name, definition }: Extract<Plane, { kind: 'crs' }>): PlaneMap {
  let converter: proj4.Converter
  try {
    converter = proj4(definition)
  } catch {
    throw new JourneyError(`The coordinate system “${name}” cannot be used: set control points instead.`)
  }
  const inverse = ({ x, y }: Point): LonLat | undefined => {
    const [lon, lat] = converter.inverse([x, y])
    return Number.isFinite(lon) && Number.isFinite(lat) && Math.abs(lat) <= 90 ? { lon, lat } : undefined
  }
  return {
    inverse,
    forward(at) {
      const [x, y] = converter.forward([at.lon, at.lat])
      if (!(Math.hypot(x, y) < FAR)) return undefined
      const back = inverse({ x, y })
      const isBack = back && Math.abs(((back.lon - at.lon + 540) % 360) - 180) < LEADS_BACK && Math.abs(back.lat - at.lat) < LEADS_BACK
      return isBack ? { x, y } : undefined
    },
  }
}

/** What a plane is called. */
export function planeName(plane: Plane): string {
  switch (plane.kind) {
    case 'degrees':
      return 'longitude and latitude in degrees'
    case 'mercator':
      return 'Web Mercator'
    case 'utm':
      return `UTM zone ${plane.zone} ${plane.south ? 'south' : 'north'}`
    case 'crs':
      return plane.name
    case 'drawn':
      return 'its own projection'
  }
}

/** The projection of a drawn map as d3-geo has it, on the unit sphere: x right, y down. */
export function d3Projection(plane: Extract<Plane, { kind: 'drawn' }>): GeoProjection {
  const { projection, lon, lat, parallels } = plane
  const made = {
    mercator: () => geoMercator().rotate([-lon, 0]),
    equirectangular: () => geoEquirectangular().rotate([-lon, 0]),
    // Conformal conic maps keep their middle meridian upright; the latitude only says where the middle is.
    conic: () => geoConicConformal().rotate([-lon, 0]).parallels(parallels),
    orthographic: () => geoOrthographic().rotate([-lon, -lat]),
  }[projection]()
  return made.scale(1).translate([0, 0])
}

function drawn(plane: Extract<Plane, { kind: 'drawn' }>): PlaneMap {
  const projection = d3Projection(plane)
  const shows = ({ lon, lat }: LonLat): boolean => {
    switch (plane.projection) {
      case 'orthographic':
        return geoDistance([lon, lat], [plane.lon, plane.lat]) < Math.PI / 2
      case 'mercator':
        return Math.abs(lat) <= MERCATOR_LATITUDE
      case 'conic':
        return Math.abs(lat) < 90
      case 'equirectangular':
        return true
    }
  }
  return {
    forward(at) {
      if (!shows(at)) return undefined
      const [x, y] = projection([at.lon, at.lat])!
      return { x, y }
    },
    inverse(p) {
      const found = projection.invert!([p.x, p.y])
      // Beyond the poles the equirectangular projection goes on.
      if (!found || !found.every(Number.isFinite) || Math.abs(found[1]) > 90) return undefined
      // What lies outside the map has no place: d3-geo still gives one, which does not lead back.
      const [x, y] = projection(found)!
      return Math.hypot(x - p.x, y - p.y) < 1e-6 ? { lon: found[0], lat: found[1] } : undefined
    },
  }
}

/** The two ways between the Earth and a plane. */
export function planeMap(plane: Plane): PlaneMap {
  switch (plane.kind) {
    case 'degrees':
      return plateCarree
    case 'mercator':
      return webMercator
    case 'utm':
      return utm(plane.zone, plane.south)
    case 'crs':
      return crs(plane)
    case 'drawn':
      return drawn(plane)
  }
}
