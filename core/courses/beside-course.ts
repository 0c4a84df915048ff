import { clamp } from '../geometry/clamp'
import type { Course } from '../geometry/course'
import { chordHeading, pointAt, polylineCourse } from '../geometry/course'
import { smooth } from '../pace/easing'

/** A course is sampled in no more pieces than this. */
const MOST_PIECES = 1200

/** Within so many times its distance from the ends a moved course comes back to them. */
const TAPER = 8

/**
 * A course that runs beside another one, from the same start to the same end: `by` ground units to its right, towards which it parts over a stretch at
 * its beginning, and back at its end. A course with breaks, or without length, is left as it is.
 */
export function besideCourse(course: Course, by: number): Course {
  const { length, breaks } = course
  if (by === 0 || length === 0 || breaks.length > 0) return course
  const away = Math.abs(by)
  const count = clamp(Math.ceil(length / (away / 2)), 48, MOST_PIECES)
  const taper = Math.min(length / 3, TAPER * away)
  const points = new Float64Array(2 * (count + 1))
  for (let i = 0; i <= count; i++) {
    const s = (length * i) / count
    const { x, y } = pointAt(course, s)
    // Over a chord as long as it is moved, so that it does not fold over itself in bends.
    const heading = chordHeading(course, s, 2 * away) ?? 0
    const share = by * smooth(Math.min(s, length - s) / taper)
    points[2 * i] = x - Math.sin(heading) * share
    points[2 * i + 1] = y + Math.cos(heading) * share
  }
  return polylineCourse(points)
}
