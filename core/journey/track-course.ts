import type { Course } from '../geometry/course'
import { pieceAt, pointAt } from '../geometry/course'
import { JourneyError } from './error'
import type { TrackCourse } from './schema'
import { LIMITS } from './schema'
import { readTimes, writePoints, writeTimes } from './track-line'

/** Recorded tracks as courses: made, cut, put together and turned round. */

/**
 * A track as a course.
 * @param points x and y in turn, in gu; at least two
 * @param times seconds, rising, as many as there are points; null where they are not known
 */
export function trackCourse(points: ArrayLike<number>, times: ArrayLike<number> | null): TrackCourse {
  if (points.length / 2 > LIMITS.trackPoints)
    throw new JourneyError(`A leg has at most ${LIMITS.trackPoints} recorded points: simplify the track, or cut it at stops.`)
  return { kind: 'track', points: writePoints(points), times: times && writeTimes(times) }
}

/** The two parts of a track before and after a length of its course. */
export function splitTrack({ times: text }: TrackCourse, course: Course, s: number): [TrackCourse, TrackCourse] {
  const i = pieceAt(course, s)
  const { x, y } = pointAt(course, s)
  const { points, lengths } = course
  const before = [...points.subarray(0, 2 * i + 2), x, y]
  const after = [x, y, ...points.subarray(2 * i + 2)]
  if (text === null) return [trackCourse(before, null), trackCourse(after, null)]
  const times = readTimes(text)
  const span = lengths[i + 1]! - lengths[i]!
  const at = times[i]! + (span > 0 ? (s - lengths[i]!) / span : 0) * (times[i + 1]! - times[i]!)
  return [trackCourse(before, [...times.subarray(0, i + 1), at]), trackCourse(after, [at, ...times.subarray(i + 1)])]
}

/** Two lines, one after the other, as one track. Where both have times they follow each other without a pause. */
export function joinedTrack(first: Course, second: Course, firstTimes: string | null, secondTimes: string | null): TrackCourse {
  const points = [...first.points, ...second.points.subarray(2)]
  if (firstTimes === null || secondTimes === null) return trackCourse(points, null)
  const times = readTimes(firstTimes)
  const last = times.at(-1)!
  return trackCourse(
    points,
    [...times, ...readTimes(secondTimes).subarray(1)].map((time, i) => (i < times.length ? time : last + time)),
  )
}

/** A track travelled the other way, in the times it took. */
export function reversedTrack({ times: text }: TrackCourse, { points }: Course): TrackCourse {
  const turned = new Float64Array(points.length)
  for (let i = 0; i < points.length; i += 2) turned.set([points[points.length - 2 - i]!, points[points.length - 1 - i]!], i)
  if (text === null) return trackCourse(turned, null)
  const times = readTimes(text)
  const last = times.at(-1)!
  return trackCourse(turned, times.map((time) => last - time).reverse())
}
