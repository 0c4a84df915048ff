import simplify from 'simplify-js'
import type { Track, TrackSegment } from '../formats/track'
import { trackDistance } from './geodesic'
import type { LonLat } from './lon-lat'

/** Below this many metres a second one is standing (common practice, no source). */
const STANDING = 0.3

/** A pause counts as a stop after so many seconds within so many metres (common practice, no source). */
const PAUSE = { seconds: 300, metres: 60 } as const

export interface TrackStop extends LonLat {
  name: string
  /** How long one stayed, in seconds; 0 for a place that was only marked. */
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

/** What a track amounts to; undefined for one that has only waypoints. Lengths are geodesic (Karney). */
export function summariseTrack({ segments, waypoints }: Track): TrackSummary | undefined {
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
    stops: [...waypoints.map((waypoint) => ({ ...waypoint, seconds: 0 })), ...segments.flatMap(pausesOf)],
  }
}

function boundsOf(segments: readonly TrackSegment[]): TrackSummary['bounds'] {
  let [west, south, east, north] = [Infinity, Infinity, -Infinity, -Infinity]
  let crosses = false
  for (const segment of segments) {
    for (let i = 0; i < countOf(segment); i++) {
      const { lon, lat } = pointOf(segment, i)
      if (i > 0 && Math.abs(lon - segment.lonLat[2 * i - 2]!) > 180) crosses = true
      ;[west, east] = [Math.min(west, lon), Math.max(east, lon)]
      ;[south, north] = [Math.min(south, lat), Math.max(north, lat)]
    }
  }
  if (!crosses) return [west, south, east, north]
  // Over the antimeridian the west is the least of the eastern longitudes, and the other way round.
  ;[west, east] = [180, -180]
  for (const { lonLat } of segments) {
    for (let i = 0; i < lonLat.length; i += 2) {
      if (lonLat[i]! >= 0) west = Math.min(west, lonLat[i]!)
      else east = Math.max(east, lonLat[i]!)
    }
  }
  return [west, south, east, north]
}

/** Good to a hundredth over short ways away from the poles. */
export function roughMetres(a: LonLat, b: LonLat): number {
  const dLon = ((a.lon - b.lon + 540) % 360) - 180
  return DEGREE * Math.hypot(dLon * Math.cos((a.lat * Math.PI) / 180), a.lat - b.lat)
}

/** Where one stayed for long near one spot. */
function pausesOf(segment: TrackSegment): TrackStop[] {
  const { times } = segment
  if (!times) return []
  const stops: TrackStop[] = []
  let from = 0
  for (let i = 1; i <= times.length; i++) {
    const isNear = i < times.length && roughMetres(pointOf(segment, from), pointOf(segment, i)) <= PAUSE.metres
    if (isNear) continue
    const stayed = times[i - 1]! - times[from]!
    if (stayed >= PAUSE.seconds) stops.push({ ...pointOf(segment, from), name: '', seconds: stayed })
    from = i
  }
  return stops
}

/** Long tracks are simplified in stretches of so many points, whose ends stay: the algorithm's time may grow with the square of their number. */
const STRETCH = 4000

/** Metres to the degree of latitude, near enough for leaving points out. */
const DEGREE = 111_195

/**
 * Which points of a segment remain when none of those left out lies further than `metres` from the line of the rest.
 * Source: D. Douglas and T. Peucker, Algorithms for the reduction of the number of points required to represent a digitized line (1973); package simplify-js.
 */
export function simplifySegment(segment: TrackSegment, metres: number): TrackSegment {
  if (metres <= 0) return segment
  const { lonLat, times } = segment
  const cos = Math.cos((lonLat[1]! * Math.PI) / 180)
  let turn = 0
  const points = Array.from({ length: countOf(segment) }, (_, i) => {
    // Over the antimeridian longitudes run on.
    if (i > 0 && Math.abs(lonLat[2 * i]! - lonLat[2 * i - 2]!) > 180) turn += lonLat[2 * i]! < 0 ? 360 : -360
    return { x: (lonLat[2 * i]! + turn) * DEGREE * cos, y: lonLat[2 * i + 1]! * DEGREE, i }
  })
  const kept: typeof points = []
  for (let from = 0; from < points.length - 1; from += STRETCH) {
    const part = simplify(points.slice(from, from + STRETCH + 1), metres, true) as typeof points
    kept.push(...(from === 0 ? part : part.slice(1)))
  }
  const pick = (array: Float64Array, at: (i: number) => number[]) => Float64Array.from(kept.flatMap(({ i }) => at(i).map((k) => array[k]!)))
  return { lonLat: pick(lonLat, (i) => [2 * i, 2 * i + 1]), times: times && pick(times, (i) => [i]) }
}
