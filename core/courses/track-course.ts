import type { Course } from '../geometry/course'
import { pieceAt, pointAt } from '../geometry/course'
import { JourneyError } from '../error'
import type { TrackCourse } from '../journey/schema'
import { LIMITS } from '../journey/schema'
import { readHeights, readTimes, writeHeights, writePoints, writeTimes } from '../journey/track-line'

/** Recorded tracks as courses: made, cut, put together and turned round. */

/**
 * A track as a course.
 * @param points x and y in turn, in gu; at least two
 * @param times seconds since 1970, rising, as many as there are points; null where they are not known
 * @param isDated whether these are the recorded times themselves, and not only times relative to each other
 * @param heights metres above the sea, as many; null where they are not known
 */
export function trackCourse(
  points: ArrayLike<number>,
  times: ArrayLike<number> | null,
  heights: ArrayLike<number> | null = null,
  isDated = true,
): TrackCourse {
  if (points.length / 2 > LIMITS.trackPoints)
    throw new JourneyError(`A leg has at most ${LIMITS.trackPoints} recorded points: simplify the track, or cut it at stops.`)
  return {
    kind: 'track',
    points: writePoints(points),
    times: times && writeTimes(times),
    began: times && isDated ? Math.round(times[0]! * 10) / 10 : null,
    heights: heights && writeHeights(heights),
  }
}

/** The two parts of a track before and after a length of its course. */
export function splitTrack(track: TrackCourse, course: Course, s: number): [TrackCourse, TrackCourse] {
  const i = pieceAt(course, s)
  const { x, y } = pointAt(course, s)
  const { points, lengths } = course
  const span = lengths[i + 1]! - lengths[i]!
  const share = span > 0 ? (s - lengths[i]!) / span : 0
  /** Values of the points before and after, with the value at the cut between them. */
  const parted = (values: Float64Array | null): [number[] | null, number[] | null] => {
    if (!values) return [null, null]
    const at = values[i]! + share * (values[i + 1]! - values[i]!)
    return [
      [...values.subarray(0, i + 1), at],
      [at, ...values.subarray(i + 1)],
    ]
  }
  const { began } = track
  const times = parted(track.times === null ? null : readTimes(track.times).map((time) => (began ?? 0) + time))
  const heights = parted(track.heights === null ? null : readHeights(track.heights))
  return [
    trackCourse([...points.subarray(0, 2 * i + 2), x, y], times[0], heights[0], began !== null),
    trackCourse([x, y, ...points.subarray(2 * i + 2)], times[1], heights[1], began !== null),
  ]
}

/** The recorded values of a leg's track; empty for other courses. */
export type Recorded = Pick<TrackCourse, 'times' | 'heights' | 'began'>

/** Joins two lines to one track. If both have times, the second follows the first without a pause; heights are kept if both have them. */
export function joinedTrack(first: Course, second: Course, a: Recorded, b: Recorded): TrackCourse {
  const points = [...first.points, ...second.points.subarray(2)]
  const times = a.times === null || b.times === null ? null : following(readTimes(a.times), readTimes(b.times))
  const heights = a.heights === null || b.heights === null ? null : [...readHeights(a.heights), ...readHeights(b.heights).subarray(1)]
  return { ...trackCourse(points, times, heights, false), began: times && a.began }
}

/** The times of one line followed by those of another that begins when the first ends. */
const following = (first: Float64Array, second: Float64Array): number[] => [
  ...first,
  ...second.subarray(1).map((time) => first.at(-1)! + time - second[0]!),
]

/** A track travelled the other way, in the times it took. */
export function reversedTrack({ times: text, heights }: TrackCourse, { points }: Course): TrackCourse {
  const turned = new Float64Array(points.length)
  for (let i = 0; i < points.length; i += 2) turned.set([points[points.length - 2 - i]!, points[points.length - 1 - i]!], i)
  const climbed = heights === null ? null : readHeights(heights).reverse()
  // Travelled the other way it was not recorded at any time.
  if (text === null) return trackCourse(turned, null, climbed)
  const times = readTimes(text)
  const last = times.at(-1)!
  return trackCourse(turned, times.map((time) => last - time).reverse(), climbed, false)
}

/** How far along a track's course the recorder was at a time, in seconds since 1970; undefined if it was not recording then. */
export function lengthAtTime({ times: text, began }: TrackCourse, { lengths }: Course, time: number): number | undefined {
  if (text === null || began === null) return undefined
  const times = readTimes(text)
  const t = time - began
  if (t < 0 || t > times.at(-1)!) return undefined
  const next = Math.max(
    1,
    times.findIndex((each) => each >= t),
  )
  const span = times[next]! - times[next - 1]!
  const share = span > 0 ? (t - times[next - 1]!) / span : 0
  return lengths[next - 1]! + share * (lengths[next]! - lengths[next - 1]!)
}

/** When the recorder was at a length of a track's course, in seconds since 1970; undefined where its times are not known. */
export function timeAtLength({ times: text, began }: TrackCourse, course: Course, s: number): number | undefined {
  if (text === null || began === null) return undefined
  const times = readTimes(text)
  const i = pieceAt(course, s)
  const span = course.lengths[i + 1]! - course.lengths[i]!
  const share = span > 0 ? (s - course.lengths[i]!) / span : 0
  return began + times[i]! + share * (times[i + 1]! - times[i]!)
}
