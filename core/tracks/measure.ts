import simplify from 'simplify-js'
import { METRES_PER_DEGREE } from '../geo/earth'
import { radians } from '../geometry/angle'
import type { Track, TrackSegment } from './track'
import { trackDistance } from '../geo/geodesic'
import type { LonLat } from '../geo/lon-lat'

/** Below this speed, in metres a second, the traveller is standing (common practice, no source). */
const STANDING = 0.3

/** A pause keeps within so many metres (common practice, no source). */
const PAUSE_METRES = 60
/** It lasts so many seconds at least if nothing else is asked for; and the least that can be told from walking slowly. */
export const USUAL_PAUSE = 300
export const LEAST_PAUSE = 120

interface TrackStop extends LonLat {
  name: string
  /** Whether it is marked in the file; else it is only a pause. */
  isMarked: boolean
  /** How long the pause was, in seconds; 0 where there was none. */
  seconds: number
}

export interface TrackSummary {
  points: number
  lengthMetres: number
  /** West, south, east, north in degrees, as in RFC 7946; west is greater than east over the antimeridian. */
  bounds: [number, number, number, number]
  start: LonLat & { time: number | null }
  end: LonLat & { time: number | null }
  /** Seconds in motion; null where the times are not known. */
  movingSeconds: number | null
  stops: TrackStop[]
}

export const pointOf = ({ lonLat }: TrackSegment, i: number): LonLat => ({ lon: lonLat[2 * i]!, lat: lonLat[2 * i + 1]! })
export const countOf = ({ lonLat }: TrackSegment): number => lonLat.length / 2

/**
 * The summary of a track; undefined if it has only waypoints. Lengths are geodesic (Karney).
 * @param leastPause in seconds
 */
export function summariseTrack({ segments, waypoints }: Track, leastPause = USUAL_PAUSE): TrackSummary | undefined {
  const [first, last] = [segments[0], segments.at(-1)]
  if (!first || !last) return undefined
  let lengthMetres = 0
  let moving = 0
  for (const segment of segments) {
    for (let i = 1; i < countOf(segment); i++) {
      const metres = trackDistance(pointOf(segment, i - 1), pointOf(segment, i))
      lengthMetres += metres
      const took = segment.times ? segment.times[i]! - segment.times[i - 1]! : 0
      if (took > 0 && metres / took >= STANDING) moving += took
    }
  }
  const hasTimes = segments.every((segment) => segment.times !== null)
  return {
    points: segments.reduce((sum, segment) => sum + countOf(segment), 0),
    lengthMetres,
    bounds: boundsOf(segments),
    start: { ...pointOf(first, 0), time: first.times?.[0] ?? null },
    end: { ...pointOf(last, countOf(last) - 1), time: last.times?.at(-1) ?? null },
    movingSeconds: hasTimes ? moving : null,
    stops: withPauses(
      waypoints,
      segments.flatMap((segment) => pausesOf(segment, leastPause)),
    ),
  }
}

/** The length of a segment on the Earth. */
export function metresOf(segment: TrackSegment): number {
  let metres = 0
  for (let i = 1; i < countOf(segment); i++) metres += trackDistance(pointOf(segment, i - 1), pointOf(segment, i))
  return metres
}

/** The smallest box that holds all lines: it leaves out the widest stretch of longitudes that none of them crosses, to a degree. */
function boundsOf(segments: readonly TrackSegment[]): TrackSummary['bounds'] {
  const taken = new Uint8Array(360)
  let [south, north] = [Infinity, -Infinity]
  for (const { lonLat } of segments) {
    for (let i = 0; i < lonLat.length; i += 2) {
      // From one point to the next a line takes the shorter way.
      const [from, to] = [binOf(lonLat[i === 0 ? 0 : i - 2]!), binOf(lonLat[i]!)]
      const step = (to - from + 540) % 360 < 180 ? -1 : 1
      for (let bin = from; bin !== to; bin = (bin + step + 360) % 360) taken[bin] = 1
      taken[to] = 1
      ;[south, north] = [Math.min(south, lonLat[i + 1]!), Math.max(north, lonLat[i + 1]!)]
    }
  }
  const start = endOfWidestGap(taken)
  // Longitudes counted on from the end of that stretch.
  const along = (lon: number) => (lon + 180 - start + 360) % 360
  let [first, last] = [Infinity, -Infinity]
  let [west, east] = [0, 0]
  for (const { lonLat } of segments) {
    for (let i = 0; i < lonLat.length; i += 2) {
      const way = along(lonLat[i]!)
      if (way < first) [first, west] = [way, lonLat[i]!]
      if (way > last) [last, east] = [way, lonLat[i]!]
    }
  }
  return [west, south, east, north]
}

const binOf = (lon: number): number => Math.min(359, Math.floor(lon + 180))

/** The end of the longest stretch without marks on a circle; the last one if several are equally long. */
function endOfWidestGap(taken: Uint8Array): number {
  const n = taken.length
  let widest = { end: 0, count: -1 }
  for (let from = 0; from < n; from++) {
    let count = 0
    while (count < n && !taken[(from + count) % n]) count++
    if (count > widest.count || (count === widest.count && from + count >= n)) widest = { end: (from + count) % n, count }
  }
  return widest.end
}

/** Accurate to a hundredth over short ways away from the poles. */
export function roughMetres(a: LonLat, b: LonLat): number {
  const dLon = ((a.lon - b.lon + 540) % 360) - 180
  return METRES_PER_DEGREE * Math.hypot(dLon * Math.cos(radians(a.lat)), a.lat - b.lat)
}

/** A pause this close to a marked place, in metres, was made there. */
const AT_PLACE = 150

/** Marked places with the pauses that were made at them, and the other pauses. */
function withPauses(waypoints: Track['waypoints'], pauses: readonly TrackStop[]): TrackStop[] {
  const places = waypoints.map((waypoint): TrackStop => ({ ...waypoint, isMarked: true, seconds: 0 }))
  const others = pauses.filter((pause) => {
    const place = places.find((each) => roughMetres(each, pause) <= AT_PLACE)
    if (place) place.seconds += pause.seconds
    return !place
  })
  return [...places, ...others]
}

/**
 * The points of a segment that belong to the pause around one of them, or just that point if there was no pause.
 * @returns the numbers of the first and of the last
 */
export function pauseAt(segment: TrackSegment, i: number): [number, number] {
  const { times } = segment
  if (!times) return [i, i]
  const isNear = (k: number) => k >= 0 && k < times.length && roughMetres(pointOf(segment, i), pointOf(segment, k)) <= PAUSE_METRES
  let [first, last] = [i, i]
  while (isNear(first - 1)) first--
  while (isNear(last + 1)) last++
  return times[last]! - times[first]! >= LEAST_PAUSE ? [first, last] : [i, i]
}

/** Whether the recorder stood still, or was off, from one point to the next: for so long that going there cannot have taken it. */
export function standsAfter(segment: TrackSegment, i: number): boolean {
  const { times } = segment
  if (!times || i + 1 >= times.length) return false
  const took = times[i + 1]! - times[i]!
  return took >= LEAST_PAUSE && roughMetres(pointOf(segment, i), pointOf(segment, i + 1)) / took < STANDING
}

/** The stays near one spot that last so many seconds. */
function pausesOf(segment: TrackSegment, least: number): TrackStop[] {
  const { times } = segment
  if (!times) return []
  const stops: TrackStop[] = []
  let from = 0
  for (let i = 1; i <= times.length; i++) {
    const isNear = i < times.length && roughMetres(pointOf(segment, from), pointOf(segment, i)) <= PAUSE_METRES
    if (isNear) continue
    // A recorder that stops with its carrier leaves a gap, and goes on a little further.
    const stayed = (standsAfter(segment, i - 1) ? times[i]! : times[i - 1]!) - times[from]!
    if (stayed >= least) stops.push({ ...pointOf(segment, from), name: '', isMarked: false, seconds: stayed })
    from = i
  }
  return stops
}

/** Long tracks are simplified in stretches of this many points, whose ends are kept: the algorithm's time may grow with the square of their number. */
const STRETCH = 4000

/** The most degrees of latitude in a stretch: a degree of longitude gets shorter towards the poles. */
const STRETCH_LATITUDE = 4

/**
 * Which points of a segment remain when none of those left out lies further than `metres` from the line of the rest.
 * Source: D. Douglas and T. Peucker, Algorithms for the reduction of the number of points required to represent a digitized line (1973); package simplify-js.
 */
export function simplifySegment(segment: TrackSegment, metres: number): TrackSegment {
  if (metres <= 0) return segment
  const { lonLat, times, heights } = segment
  const count = countOf(segment)
  const kept: number[] = [0]
  for (let from = 0; from < count - 1;) {
    const to = endOfStretch(lonLat, from)
    for (const i of keptOf(lonLat, from, to, metres)) if (i > from) kept.push(i)
    from = to
  }
  const pick = (array: Float64Array) => Float64Array.from(kept, (i) => array[i]!)
  return {
    lonLat: Float64Array.from(kept.flatMap((i) => [lonLat[2 * i]!, lonLat[2 * i + 1]!])),
    times: times && pick(times),
    heights: heights && pick(heights),
  }
}

function endOfStretch(lonLat: Float64Array, from: number): number {
  const last = Math.min(from + STRETCH, lonLat.length / 2 - 1)
  let [south, north] = [Infinity, -Infinity]
  for (let i = from; i <= last; i++) {
    const lat = lonLat[2 * i + 1]!
    ;[south, north] = [Math.min(south, lat), Math.max(north, lat)]
    if (north - south > STRETCH_LATITUDE && i > from + 1) return i - 1
  }
  return last
}

/** Indexes of the points of a stretch that remain. Longitudes are measured where they are longest, so that no point is left out by mistake. */
function keptOf(lonLat: Float64Array, from: number, to: number, metres: number): number[] {
  let cos = 0
  for (let i = from; i <= to; i++) cos = Math.max(cos, Math.cos(radians(lonLat[2 * i + 1]!)))
  let turn = 0
  const points = Array.from({ length: to - from + 1 }, (_, k) => {
    const i = from + k
    // Over the antimeridian longitudes run on.
    if (k > 0 && Math.abs(lonLat[2 * i]! - lonLat[2 * i - 2]!) > 180) turn += lonLat[2 * i]! < 0 ? 360 : -360
    return { x: (lonLat[2 * i]! + turn) * METRES_PER_DEGREE * cos, y: lonLat[2 * i + 1]! * METRES_PER_DEGREE, i }
  })
  return (simplify(points, metres, true) as typeof points).map(({ i }) => i)
}
