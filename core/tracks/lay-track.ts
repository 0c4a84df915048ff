import type { Track, TrackSegment } from './track'
import { radians } from '../geometry/angle'
import type { Point } from '../geometry/point'
import { JourneyError } from '../error'
import type { LonLat } from '../geo/lon-lat'
import { countOf, pauseAt, pointOf, roughMetres, simplifySegment, standsAfter } from './measure'

/** Which part of a track is laid onto the ground, and how. */
export interface LayOptions {
  /** The number of the segment that is taken; null takes all, one after the other. */
  segment: number | null
  /** The part that is kept, as shares of the number of points; 0 <= from < to <= 1. */
  from: number
  to: number
  reversed: boolean
  /** Tolerance in metres: points this close to the line of the others are left out. */
  metres: number
  /** Places at which the track is cut, each where it passes nearest. */
  stops: readonly (LonLat & { name: string })[]
}

export interface LaidTrack {
  /** One more than the legs; `time` is when each was reached, in seconds since 1970, null where that is not known. */
  stops: { name: string; at: Point; place: LonLat; time: number | null }[]
  /** Points in gu, x and y in turn; times in seconds since 1970 and heights in metres, each null where they are not known. */
  legs: { points: Float64Array; times: Float64Array | null; heights: Float64Array | null }[]
}

/** A stop nearer to an end of the track than this many metres is that end. */
const END_REACH = 150

/** The part of a track that is taken, as one segment. */
export function takenPart({ segments }: Track, { segment, from, to, reversed }: Omit<LayOptions, 'metres' | 'stops'>): TrackSegment {
  const chosen = segment === null ? segments : segments.slice(segment, segment + 1)
  const lonLat = chosen.length === 1 ? chosen[0]!.lonLat : joined(chosen.map((part) => part.lonLat))
  const whole = (parts: readonly (Float64Array | null)[]): Float64Array | null => {
    const known = parts.flatMap((part) => (part ? [part] : []))
    return known.length === parts.length ? (known.length === 1 ? known[0]! : joined(known)) : null
  }
  const known = chosen.flatMap(({ times }) => (times ? [times] : []))
  const all = whole(chosen.map(({ times }) => times))
  const heights = whole(chosen.map((part) => part.heights))
  const isRising = all === null || known.every((part, i) => i === 0 || part[0]! >= known[i - 1]!.at(-1)!)
  const count = lonLat.length / 2
  const first = Math.min(count - 2, Math.floor(from * (count - 1)))
  const last = Math.max(first + 1, Math.ceil(to * (count - 1)))
  const kept: TrackSegment = {
    lonLat: lonLat.subarray(2 * first, 2 * last + 2),
    times: all && isRising ? all.subarray(first, last + 1) : null,
    heights: heights && heights.subarray(first, last + 1),
  }
  return reversed ? turned(kept) : kept
}

function joined(parts: readonly Float64Array[]): Float64Array {
  const whole = new Float64Array(parts.reduce((sum, part) => sum + part.length, 0))
  let at = 0
  for (const part of parts) {
    whole.set(part, at)
    at += part.length
  }
  return whole
}

function turned(segment: TrackSegment): TrackSegment {
  const { lonLat, times, heights } = segment
  const count = countOf(segment)
  const back = new Float64Array(lonLat.length)
  for (let i = 0; i < count; i++) {
    const { lon, lat } = pointOf(segment, count - 1 - i)
    back[2 * i] = lon
    back[2 * i + 1] = lat
  }
  // It is travelled the other way in the times it took.
  return {
    lonLat: back,
    times: times && times.map((_, i) => times.at(-1)! - times[count - 1 - i]!),
    heights: heights && heights.slice().reverse(),
  }
}

/**
 * Lays a track onto the ground: a leg from stop to stop.
 * @param toGround where places on the Earth lie on the ground; undefined where they do not
 * @throws JourneyError where the track has no line, or leaves what the map shows
 */
export function layTrack(track: Track, options: LayOptions, toGround: (at: LonLat) => Point | undefined): LaidTrack {
  if (track.segments.length === 0) throw new JourneyError('This file has places, but no track: there is no line to lay.')
  const whole = takenPart(track, options)
  const count = countOf(whole)
  const cuts: { i: number; name: string }[] = []
  const ends = { first: '', last: '' }
  for (const stop of options.stops) {
    const { i, metres } = nearestPoint(whole, stop)
    // Skip places that the kept part does not pass.
    if (metres > Math.max(END_REACH, 1000)) continue
    if (roughMetres(pointOf(whole, i), pointOf(whole, 0)) < END_REACH) ends.first ||= stop.name
    else if (roughMetres(pointOf(whole, i), pointOf(whole, count - 1)) < END_REACH) ends.last ||= stop.name
    else if (cuts.every((cut) => cut.i !== i)) cuts.push({ i, name: stop.name })
  }
  cuts.sort((a, b) => a.i - b.i)
  const bounds = [{ i: 0, name: ends.first }, ...cuts, { i: count - 1, name: ends.last }]
  const ground = (at: LonLat): Point => {
    const p = toGround(at)
    if (!p) throw new JourneyError('The track leaves the part of the Earth that the map shows: keep less of it, or lay it on another map.')
    return p
  }
  // Time spent at a stop counts for neither of its legs.
  const stays = bounds.map(({ i }) => pauseAt(whole, i))
  return {
    stops: bounds.map(({ i, name }, k) => ({
      name,
      at: ground(pointOf(whole, i)),
      place: pointOf(whole, i),
      // The times of a track that is reversed are not those of a clock.
      time: options.reversed ? null : (whole.times?.[stays[k]![0]] ?? null),
    })),
    legs: bounds.slice(1).map((_, k) => {
      const from = Math.min(stays[k]![1], count - 2)
      const to = Math.max(from + 1, stays[k + 1]![0])
      const part = simplifySegment(
        {
          lonLat: whole.lonLat.subarray(2 * from, 2 * to + 2),
          times: whole.times && setOffAt(whole, from, to),
          heights: whole.heights && whole.heights.subarray(from, to + 1),
        },
        options.metres,
      )
      const points = new Float64Array(part.lonLat.length)
      for (let j = 0; j < countOf(part); j++) {
        const { x, y } = ground(pointOf(part, j))
        points[2 * j] = x
        points[2 * j + 1] = y
      }
      return { points, times: part.times, heights: part.heights }
    }),
  }
}

/** How fast a traveller goes on where the recorder was off while it rested, in metres a second: at a walk (common practice, no source). */
const WALK = 1.3

/** The times of a part of a track, which does not begin before the traveller goes on from a stay that left a gap. */
function setOffAt(segment: TrackSegment, from: number, to: number): Float64Array {
  const times = segment.times!.slice(from, to + 1)
  if (standsAfter(segment, from)) times[0] = times[1]! - roughMetres(pointOf(segment, from), pointOf(segment, from + 1)) / WALK
  return times
}

function nearestPoint(segment: TrackSegment, at: LonLat): { i: number; metres: number } {
  let best = { i: 0, metres: Infinity }
  for (let i = 0; i < countOf(segment); i++) {
    const metres = roughMetres(pointOf(segment, i), at)
    if (metres < best.metres) best = { i, metres }
  }
  return best
}

/**
 * Places of a track by which it can be laid on a map that does not know where it lies: where it begins, what of it is furthest from there, and what
 * is furthest from the line between the two.
 */
export function matchPlaces(segment: TrackSegment): [LonLat, LonLat, LonLat] {
  const first = pointOf(segment, 0)
  const furthest = (far: (at: LonLat) => number): LonLat => {
    let best = { at: first, value: -1 }
    for (let i = 0; i < countOf(segment); i++) {
      const at = pointOf(segment, i)
      const value = far(at)
      if (value > best.value) best = { at, value }
    }
    return best.at
  }
  const second = furthest((at) => roughMetres(first, at))
  const cos = Math.cos(radians(first.lat))
  const east = (at: LonLat) => (((at.lon - first.lon + 540) % 360) - 180) * cos
  const third = furthest((at) => Math.abs(east(at) * (second.lat - first.lat) - (at.lat - first.lat) * east(second)))
  return [first, second, third]
}
