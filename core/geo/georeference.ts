import type { WorldFile } from '../formats/world-file'
import { worldFileOfMatrix } from '../formats/world-file'
import type { Size } from '../camera/view'
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

const compiled = new WeakMap<Georeference, { sheet: GeoSheet; size: Size | undefined }>()

/**
 * Compiles a georeference; the same one is compiled once.
 * @param size of the sheet in its pixels, so that on a map of all longitudes each place comes to lie on it, and not a turn of the Earth beside it
 * @throws JourneyError if control points are too few or determine nothing.
 */
export function geoSheet(georeference: Georeference, size?: Size): GeoSheet {
  const known = compiled.get(georeference)
  if (known && (!size || (known.size?.width === size.width && known.size.height === size.height))) return known.sheet
  const made = georeference.kind === 'points' ? fromPoints(georeference, size) : fromMatrix(georeference, size)
  compiled.set(georeference, { sheet: made, size })
  return made
}

/** As geoSheet, but undefined where there is no georeference or it is not determined yet. */
export function tryGeoSheet(georeference: Georeference | null, size: Size): GeoSheet | undefined {
  if (!georeference) return undefined
  try {
    return geoSheet(georeference, size)
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

/** The longitude in the middle of a sheet on a map in which longitudes run along x, beyond 180 where it crosses the antimeridian. */
function lonOfMiddle(plane: Plane, toPlane: Homography, { width, height }: Size): number | undefined {
  const middle = transformed(toPlane, { x: width / 2, y: height / 2 })
  return middle && planeMap(plane).inverse({ x: middle.x, y: 0 })?.lon
}

function fromMatrix({ plane, matrix }: Extract<Georeference, { kind: 'affine' }>, size: Size | undefined): GeoSheet {
  const toPlane = affine(...matrix)
  const toSheet = inverted(toPlane)
  if (!toSheet) throw new JourneyError('The georeference gives the sheet’s pixels no size: give it control points instead.')
  // Without a size the upper left corner is near enough to tell which way round the Earth is meant, unless the map shows much of it.
  const middleLon = lonOfMiddle(plane, toPlane, size ?? { width: 0, height: 0 }) ?? 0
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

/** Fits a map to control points, whose longitudes may run on beyond 180. */
function fittedBy(
  points: readonly ControlPoint[],
  kind: FitKind,
  plane: 'mercator' | 'degrees',
  lonOf: (point: ControlPoint) => number,
): Homography {
  const map = planeMap({ kind: plane })
  const matches = points.map((point): Match => {
    const to = map.forward({ lon: lonOf(point), lat: point.lat })
    if (!to) throw new JourneyError(`“${point.name}” lies too near a pole for this projection.`)
    return { from: to, to: point.at }
  })
  // Fitted towards the sheet, so that what is made least is the distance on the sheet; a map of the Earth is never mirrored but for its y axis.
  return kind === 'similarity' ? fitUpright(matches) : fit(kind, matches)
}

function fromPoints({ points, fit: chosen, plane }: Extract<Georeference, { kind: 'points' }>, size: Size | undefined): GeoSheet {
  if (points.length < 2) throw new JourneyError('A sheet needs at least two control points to lie on the Earth.')
  const kind = chosen && points.length >= FEWEST_MATCHES[chosen] ? chosen : fitKindFor(points.length)
  const first = points[0]!.lon
  const along = ({ lon }: ControlPoint) => lon + 360 * Math.round((first - lon) / 360)
  const asTheyAre = ({ lon }: ControlPoint) => lon
  const made = (lonOf: (point: ControlPoint) => number): GeoSheet => {
    const toSheet = fittedBy(points, kind, plane, lonOf)
    const toPlane = inverted(toSheet)
    if (!toPlane) throw new JourneyError('The control points lie on one line, or nearly: set one well off it.')
    const ways = between({ kind: plane }, toPlane, toSheet, (size && lonOfMiddle({ kind: plane }, toPlane, size)) ?? first)
    return { kind, ...ways, toPlane: { plane: { kind: plane }, map: toPlane }, residuals: residualsOf(points, ways) }
  }
  // Where points lie more than half the Earth apart, the map crosses the antimeridian or shows most of the world: whichever fits.
  const across = made(along)
  if (points.every((point) => along(point) === point.lon)) return across
  const plain = made(asTheyAre)
  return plain.residuals!.rmsPx < across.residuals!.rmsPx ? plain : across
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
