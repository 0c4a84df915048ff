import type { Track, TrackSegment } from './track'
import { radians } from '../geometry/angle'
import type { LonLat } from '../geo/lon-lat'
import { matchPlaces, takenPart } from './lay-track'
import { countOf, LEAST_PAUSE, pointOf, simplifySegment, summariseTrack } from './measure'

/** A track in short: enough to show it and to choose what becomes of it. */
export interface TrackOverview {
  points: number
  /** How many points each segment has. */
  segments: number[]
  lengthMetres: number
  hasTimes: boolean
  /** The number of points whose time was interpolated from its neighbours. */
  badTimes: number
  hasHeights: boolean
  /** Seconds since 1970, where they are known. */
  start: number | null
  end: number | null
  movingSeconds: number | null
  /** West, south, east, north in degrees; west is greater than east over the antimeridian. */
  bounds: [number, number, number, number]
  /** Places that could become stops: marked ones, and pauses with the seconds they took. */
  places: (LonLat & { name: string; isMarked: boolean; seconds: number })[]
  /** Its outline for a small picture: east and south in turn, within a square of side 1. */
  outline: Float64Array
  /** Three places by which it can be laid on a map that does not know where it lies; `x` and `y` in the picture. */
  match: (LonLat & { x: number; y: number })[]
}

/** The outline is drawn in a few hundred pixels: so many points are more than enough. */
const OUTLINE_STEPS = 400

/** Undefined for a track without a line. */
export function overviewOf(track: Track): TrackOverview | undefined {
  const summary = summariseTrack(track, LEAST_PAUSE)
  if (!summary) return undefined
  const whole = takenPart(track, { segment: null, from: 0, to: 1, reversed: false })
  const thinned = simplifySegment(everyFew(whole), summary.lengthMetres / (4 * OUTLINE_STEPS))
  const match = matchPlaces(whole)
  const picture = inUnitSquare([...match, ...Array.from({ length: countOf(thinned) }, (_, i) => pointOf(thinned, i))])
  return {
    points: summary.points,
    segments: track.segments.map(countOf),
    lengthMetres: summary.lengthMetres,
    hasTimes: whole.times !== null,
    badTimes: track.badTimes,
    hasHeights: whole.heights !== null,
    start: summary.start.time,
    end: summary.end.time,
    movingSeconds: summary.movingSeconds,
    bounds: summary.bounds,
    places: summary.stops.map(({ lon, lat, name, isMarked, seconds }) => ({ lon, lat, name, isMarked, seconds })),
    outline: picture.subarray(2 * match.length),
    match: match.map((at, i) => ({ ...at, x: picture[2 * i]!, y: picture[2 * i + 1]! })),
  }
}

/** The number of points of the outline. */
const OUTLINE_POINTS = 20_000

/** A segment with only some of its points, evenly spread, and the last. */
function everyFew(segment: TrackSegment): TrackSegment {
  const count = countOf(segment)
  const stride = Math.ceil(count / OUTLINE_POINTS)
  if (stride === 1) return segment
  const places = Array.from({ length: Math.ceil((count - 1) / stride) }, (_, i) => pointOf(segment, i * stride))
  return {
    lonLat: Float64Array.from([...places, pointOf(segment, count - 1)].flatMap(({ lon, lat }) => [lon, lat])),
    times: null,
    heights: null,
  }
}

function inUnitSquare(places: readonly LonLat[]): Float64Array {
  const { lon, lat } = places[0]!
  const cos = Math.cos(radians(lat))
  const xy = places.map((at) => ({ x: (((at.lon - lon + 540) % 360) - 180) * cos, y: lat - at.lat }))
  let [left, right, top, bottom] = [Infinity, -Infinity, Infinity, -Infinity]
  for (const { x, y } of xy) [left, right, top, bottom] = [Math.min(left, x), Math.max(right, x), Math.min(top, y), Math.max(bottom, y)]
  const side = Math.max(right - left, bottom - top) || 1
  const [dx, dy] = [(side - (right - left)) / 2 - left, (side - (bottom - top)) / 2 - top]
  return Float64Array.from(xy.flatMap(({ x, y }) => [(x + dx) / side, (y + dy) / side]))
}
