import type { WorldFile } from '../formats/world-file'
import { worldFileOfMatrix } from '../formats/world-file'
import type { Point } from '../geometry/point'
import { JourneyError } from '../journey/error'
import type { ControlPoint, Georeference, Plane } from '../journey/schema'
import type { FitKind, Match } from './fit'
import { FEWEST_MATCHES, fit, fitKindFor } from './fit'
import { geodesicDistance } from './geodesic'
import type { Homography } from './homography'
import { affine, inverted, transformed } from './homography'
import type { LonLat } from './lon-lat'
import { wrapLongitude } from './lon-lat'
import { planeMap } from './plane'

/** How well a control point agrees with the others: how far off it lies on the sheet in pixels, and on the Earth in metres. */
export interface Residual {
  point: ControlPoint
  px: number
  metres: number
}

export interface Residuals {
  rmsPx: number
  rmsMetres: number
  each: Residual[]
  worst: Residual
}

/** A georeferenced sheet: the ways between the Earth and its pixels. */
export interface GeoSheet {
  kind: FitKind
  /** Undefined for places that the map's projection does not show. */
  toSheet(at: LonLat): Point | undefined
  toLonLat(p: Point): LonLat | undefined
  /** From sheet pixels to the plane; what a world file can tell, where the plane is in degrees or Web Mercator and the map is affine. */
  toPlane: { plane: Plane; map: Homography }
  /** Only for control points. */
  residuals: Residuals | undefined
}

const compiled = new WeakMap<Georeference, GeoSheet>()

/**
 * Compiles a georeference; the same one is compiled once.
 * @throws JourneyError if control points are too few or determine nothing.
 */
export function geoSheet(georeference: Georeference): GeoSheet {
  const known = compiled.get(georeference)
  if (known) return known
  const made = georeference.kind === 'points' ? fromPoints(georeference) : fromMatrix(georeference)
  compiled.set(georeference, made)
  return made
}

/** As geoSheet, but undefined where there is no georeference or it is not determined yet. */
export function tryGeoSheet(georeference: Georeference | null): GeoSheet | undefined {
  if (!georeference) return undefined
  try {
    return geoSheet(georeference)
  } catch (error) {
    if (error instanceof JourneyError) return undefined
    throw error
  }
}

function between(plane: Plane, toPlane: Homography, toSheet: Homography, middleLon: number): Pick<GeoSheet, 'toSheet' | 'toLonLat'> {
  const map = planeMap(plane)
  const isCylindrical = plane.kind === 'degrees' || plane.kind === 'mercator'
  return {
    toSheet(at) {
      // On maps that cross the antimeridian longitudes run on past 180.
      const near = isCylindrical ? { lon: at.lon + 360 * Math.round((middleLon - at.lon) / 360), lat: at.lat } : at
      const p = map.forward(near)
      return p && transformed(toSheet, p)
    },
    toLonLat(p) {
      const inPlane = transformed(toPlane, p)
      const at = inPlane && map.inverse(inPlane)
      return at && { lon: wrapLongitude(at.lon), lat: at.lat }
    },
  }
}

function fromMatrix({ plane, matrix }: Extract<Georeference, { kind: 'affine' }>): GeoSheet {
  const toPlane = affine(...matrix)
  const toSheet = inverted(toPlane)
  if (!toSheet) throw new JourneyError('The georeference gives the sheet’s pixels no size: give it control points instead.')
  // The longitude at the sheet's upper left corner is near enough to tell which way round the Earth is meant.
  const middleLon = planeMap(plane).inverse({ x: matrix[2], y: matrix[5] })?.lon ?? 0
  const isSimilar =
    Math.abs(Math.abs(matrix[0]) - Math.abs(matrix[4])) < 1e-9 * Math.abs(matrix[0]) &&
    Math.abs(matrix[1]) + Math.abs(matrix[3]) < 1e-9 * Math.abs(matrix[0])
  return {
    toPlane: { plane, map: toPlane },
    kind: isSimilar ? 'similarity' : 'affine',
    ...between(plane, toPlane, toSheet, middleLon),
    residuals: undefined,
  }
}

function fromPoints({ points, fit: chosen, plane }: Extract<Georeference, { kind: 'points' }>): GeoSheet {
  if (points.length < 2) throw new JourneyError('A sheet needs at least two control points to lie on the Earth.')
  const kind = chosen && points.length >= FEWEST_MATCHES[chosen] ? chosen : fitKindFor(points.length)
  const map = planeMap({ kind: plane })
  const middleLon = points[0]!.lon
  const matches = points.map((point): Match => {
    const to = map.forward({ lon: point.lon + 360 * Math.round((middleLon - point.lon) / 360), lat: point.lat })
    if (!to) throw new JourneyError(`“${point.name}” lies too near a pole for this projection.`)
    return { from: to, to: point.at }
  })
  // Fitted towards the sheet, so that what is made least is the distance on the sheet; a map of the Earth is never mirrored but for its y axis.
  const toSheet = kind === 'similarity' ? fitUpright(matches) : fit(kind, matches)
  const toPlane = inverted(toSheet)
  if (!toPlane) throw new JourneyError('The control points lie on one line, or nearly: set one well off it.')
  const ways = between({ kind: plane }, toPlane, toSheet, middleLon)
  return { kind, ...ways, toPlane: { plane: { kind: plane }, map: toPlane }, residuals: residualsOf(points, ways) }
}

/** The similarity from a plane whose y axis points north to the sheet, whose y axis points down: its mirroring is known, so that two points are enough. */
function fitUpright(matches: readonly Match[]): Homography {
  const flipped = fit(
    'similarity',
    matches.map(({ from, to }) => ({ from: { x: from.x, y: -from.y }, to })),
  )
  const [a, b, c, d, e, f] = flipped
  return affine(a, -b, c, d, -e, f)
}

function residualsOf(points: readonly ControlPoint[], { toSheet, toLonLat }: Pick<GeoSheet, 'toSheet' | 'toLonLat'>): Residuals {
  const each = points.map((point): Residual => {
    const p = toSheet(point)
    const at = toLonLat(point.at)
    return {
      point,
      px: p ? Math.hypot(p.x - point.at.x, p.y - point.at.y) : Infinity,
      metres: at ? geodesicDistance(at, point) : Infinity,
    }
  })
  const rms = (values: number[]) => Math.sqrt(values.reduce((sum, v) => sum + v * v, 0) / values.length)
  return {
    rmsPx: rms(each.map((residual) => residual.px)),
    rmsMetres: rms(each.map((residual) => residual.metres)),
    each,
    worst: each.reduce((worst, residual) => (residual.px > worst.px ? residual : worst)),
  }
}

/** The world file of a sheet: undefined where it lies in another plane than degrees or Web Mercator, or in perspective. */
export function worldFileOf({ kind, toPlane: { plane, map } }: GeoSheet): WorldFile | undefined {
  if (kind === 'projective' || (plane.kind !== 'degrees' && plane.kind !== 'mercator')) return undefined
  const [a, b, c, d, e, f] = map.map((v) => v / map[8]) as unknown as Homography
  return worldFileOfMatrix([a, b, c, d, e, f])
}

/** The four corners of a sheet on the Earth, clockwise from its upper left; null where a corner is not on the map's Earth. */
export function geoCorners(sheet: GeoSheet, { width, height }: { width: number; height: number }): (LonLat | null)[] {
  return [
    [0, 0],
    [width, 0],
    [width, height],
    [0, height],
  ].map(([x, y]) => sheet.toLonLat({ x: x!, y: y! }) ?? null)
}
