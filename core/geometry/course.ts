import type { Cubic } from './cubic'
import { cubicPoint, flatteningSteps } from './cubic'
import type { Point } from './point'

/**
 * A compiled course: a flattened polyline with a table of cumulative length.
 * `points` holds x, y in turn (ground units); `lengths[i]` is the length up to point i; both have at least two points.
 */
export interface Course {
  readonly points: Float64Array
  readonly lengths: Float64Array
  readonly length: number
}

/** How far, in ground units, the polyline may lie off the curve it stands for: under half a pixel at any zoom up to 25. */
const TOLERANCE = 0.02

/** Flattens a chain of cubics, each starting where the one before ends, to a course. At least one cubic is needed. */
export function courseOf(cubics: readonly Cubic[], tolerance = TOLERANCE): Course {
  const first = cubics[0]
  if (!first) throw new RangeError('A course needs at least one segment.')
  const xy: number[] = [first[0].x, first[0].y]
  for (const cubic of cubics) {
    const steps = flatteningSteps(cubic, tolerance)
    for (let i = 1; i <= steps; i++) {
      const p = i === steps ? cubic[3] : cubicPoint(cubic, i / steps)
      xy.push(p.x, p.y)
    }
  }
  return measured(Float64Array.from(xy))
}

/** Puts courses end to end into one; where they meet the shared point stands once. */
export function joinCourses(courses: readonly Course[]): Course {
  if (courses.length === 1) return courses[0]!
  const size = courses.reduce((n, c) => n + c.points.length - 2, 2)
  const points = new Float64Array(size)
  let at = 0
  for (const course of courses) {
    points.set(course.points, at)
    at += course.points.length - 2
  }
  return measured(points)
}

function measured(points: Float64Array): Course {
  const n = points.length / 2
  const lengths = new Float64Array(n)
  for (let i = 1; i < n; i++) {
    lengths[i] = lengths[i - 1]! + Math.hypot(points[2 * i]! - points[2 * i - 2]!, points[2 * i + 1]! - points[2 * i - 1]!)
  }
  return { points, lengths, length: lengths[n - 1]! }
}

/** The index i of the piece that holds length s: lengths[i] <= s <= lengths[i + 1], by binary search. */
export function pieceAt(course: Course, s: number): number {
  let low = 0
  let high = course.lengths.length - 2
  while (low < high) {
    const middle = (low + high + 1) >> 1
    if (course.lengths[middle]! <= s) low = middle
    else high = middle - 1
  }
  return low
}

/** The point at length s along the course; s is held within 0..length. */
export function pointAt(course: Course, s: number): Point {
  const { points, lengths, length } = course
  const held = Math.min(Math.max(s, 0), length)
  const i = pieceAt(course, held)
  const span = lengths[i + 1]! - lengths[i]!
  const u = span > 0 ? (held - lengths[i]!) / span : 0
  const x = points[2 * i]!
  const y = points[2 * i + 1]!
  return { x: x + (points[2 * i + 2]! - x) * u, y: y + (points[2 * i + 3]! - y) * u }
}

/**
 * Direction of the chord between s - window/2 and s + window/2, in radians, 0 to the right and clockwise positive (y down).
 * Near the ends the window shrinks on one side. Undefined where the chord has no length.
 */
export function chordHeading(course: Course, s: number, window: number): number | undefined {
  const from = pointAt(course, s - window / 2)
  const to = pointAt(course, s + window / 2)
  const dx = to.x - from.x
  const dy = to.y - from.y
  return dx === 0 && dy === 0 ? undefined : Math.atan2(dy, dx)
}
