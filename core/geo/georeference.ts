import type { Size } from '../geometry/size'
import type { Point } from '../geometry/point'
import { JourneyError } from '../error'
import type { ControlPoint, Georeference, Plane } from '../journey/schema'
import { clearly, fitUpright, greatestDifference, leftOutError, planeError } from './choose-plane'
import type { FitKind, Match } from './fit'
import { canBeChecked, FEWEST_MATCHES, fit } from './fit'
import { geodesicDistance } from './geodesic'
import type { Homography } from './homography'
import { affine, inverted, transformed } from './homography'
import type { LonLat } from './lon-lat'
import { wrapLongitude } from './lon-lat'
import { planeMap } from './plane'

/** How well a control point agrees with the others: its error on the sheet in pixels, and on the Earth in metres. */
interface Residual {
  point: ControlPoint
  px: number
  metres: number
}

interface Residuals {
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
  /** From sheet pixels to the plane. A world file can hold it if the plane is in degrees or Web Mercator and the map is affine. */
  toPlane: { plane: Plane; map: Homography }
  /** Only for control points, and only if there are more than the fit needs: otherwise nothing can be checked. */
  residuals: Residuals | undefined
  /** If two or three points cannot decide between two planes, and it matters: how far apart the planes put a spot, in sheet pixels. */
  doubt: { plane: 'mercator' | 'degrees'; other: 'mercator' | 'degrees'; px: number } | undefined
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
    doubt: undefined,
  }
}

type PointPlane = 'mercator' | 'degrees'
type LonOf = (point: ControlPoint) => number

/** Control points in a plane and on the sheet; their longitudes may run on beyond 180. */
function matchesIn(points: readonly ControlPoint[], plane: PointPlane, lonOf: LonOf): Match[] {
  const map = planeMap({ kind: plane })
  return points.map((point): Match => {
    const to = map.forward({ lon: lonOf(point), lat: point.lat })
    if (!to) throw new JourneyError(`“${point.name}” lies too near a pole for this projection.`)
    return { from: to, to: point.at }
  })
}

/** A projective fit is chosen from this many points on, if leaving points out gives errors this many times smaller, and smaller by this many pixels. */
const FOR_PERSPECTIVE = 5
const BETTER = 3
const BETTER_BY = 3

/** The kind of fit where none was chosen: projective only if enough control points support it. */
function kindFor(matches: readonly Match[]): FitKind {
  if (matches.length < 3) return 'similarity'
  if (matches.length < FOR_PERSPECTIVE) return 'affine'
  const [flat, tilted] = (['affine', 'projective'] as const).map((kind) => leftOutError(matches, (some) => fit(kind, some)))
  return flat! > BETTER * tilted! && flat! - tilted! > BETTER_BY ? 'projective' : 'affine'
}

interface Candidate {
  plane: PointPlane
  matches: readonly Match[]
  sheet: GeoSheet
}

function fromPoints({ points, fit: chosen, plane }: Extract<Georeference, { kind: 'points' }>, size: Size | undefined): GeoSheet {
  if (points.length < 2) throw new JourneyError('A sheet needs at least two control points to lie on the Earth.')
  if (plane) return candidateIn(plane, points, chosen, size).sheet
  const candidates: Candidate[] = []
  let fault: unknown
  for (const each of ['mercator', 'degrees'] as const) {
    try {
      candidates.push(candidateIn(each, points, chosen, size))
    } catch (error) {
      fault ??= error
    }
  }
  const [first, second] = candidates
  if (!first) throw fault
  return second ? likelier(first, second, size) : first.sheet
}

/** Which of the two planes the points support; `doubt` if they do not tell and it matters. */
function likelier(first: Candidate, second: Candidate, size: Size | undefined): GeoSheet {
  const [a, b] = [planeError(first.matches), planeError(second.matches)]
  const clear = clearly(a, b)
  if (clear !== undefined) return [first, second][clear]!.sheet
  const [taken, other] = a !== undefined && b !== undefined && b < a ? [second, first] : [first, second]
  if (!size) return taken.sheet
  const px = greatestDifference(size, (p) => {
    const at = taken.sheet.toLonLat(p)
    return at && other.sheet.toSheet(at)
  })
  const matters = px > DOUBTFUL * Math.max(size.width, size.height)
  return { ...taken.sheet, doubt: matters ? { plane: taken.plane, other: other.plane, px } : undefined }
}

/** How far apart two planes may put a spot before the user is asked to choose, as a share of the sheet's longer side. */
const DOUBTFUL = 0.01

function candidateIn(plane: PointPlane, points: readonly ControlPoint[], chosen: FitKind | null, size: Size | undefined): Candidate {
  const first = points[0]!.lon
  const along: LonOf = ({ lon }) => lon + 360 * Math.round((first - lon) / 360)
  const asTheyAre: LonOf = ({ lon }) => lon
  const made = (lonOf: LonOf): Candidate & { error: number } => {
    const matches = matchesIn(points, plane, lonOf)
    const kind = chosen && points.length >= FEWEST_MATCHES[chosen] ? chosen : kindFor(matches)
    // Fitted towards the sheet, so that what is made least is the distance on the sheet; a map of the Earth is never mirrored but for its y axis.
    const toSheet = kind === 'similarity' ? fitUpright(matches) : fit(kind, matches)
    const toPlane = inverted(toSheet)
    if (!toPlane) throw new JourneyError('The control points lie on one line, or nearly: set one well off it.')
    const ways = between({ kind: plane }, toPlane, toSheet, (size && lonOfMiddle({ kind: plane }, toPlane, size)) ?? first)
    const all = residualsOf(points, ways)
    const residuals = canBeChecked(kind, points.length) ? all : undefined
    const sheet = { kind, ...ways, toPlane: { plane: { kind: plane }, map: toPlane }, residuals, doubt: undefined }
    return { plane, matches, sheet, error: planeError(matches) ?? all.rmsPx }
  }
  // With points more than half the Earth apart, the map crosses the antimeridian or shows most of the world: take what fits better.
  const across = made(along)
  if (points.every((point) => along(point) === point.lon)) return across
  const plain = made(asTheyAre)
  return plain.error < across.error ? plain : across
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

/** The four corners of a sheet on the Earth, clockwise from its upper left; null where a corner is not on the map's Earth. */
export function geoCorners(sheet: GeoSheet, { width, height }: { width: number; height: number }): (LonLat | null)[] {
  return [
    [0, 0],
    [width, 0],
    [width, height],
    [0, height],
  ].map(([x, y]) => sheet.toLonLat({ x: x!, y: y! }) ?? null)
}
