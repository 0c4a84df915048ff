import { clamp } from './clamp'
import type { Cubic } from './cubic'
import { cubicPoint, flatteningSteps, isBreak } from './cubic'
import type { Point } from './point'
import { nearestShare } from './point'

/**
 * A compiled course: a flattened polyline with a table of cumulative length.
 * `points` holds x, y in turn (ground units); `lengths[i]` is the length up to point i; both have at least two points.
 * `breaks` are the indexes, rising, of the points after which the course continues elsewhere, as where a map of the world is cut: a break has no
 * length, and nothing is drawn over it.
 */
export interface Course {
  readonly points: Float64Array
  readonly lengths: Float64Array
  readonly length: number
  readonly breaks: readonly number[]
}

/** How far, in ground units, the polyline may lie off the curve it stands for: under half a pixel at any zoom up to 25. */
export const FLATTENING = 0.02

/** Flattens a chain of cubics to a course, which is broken where one does not start where the one before ends. At least one cubic is needed. */
export function courseOf(cubics: readonly Cubic[], tolerance = FLATTENING): Course {
  const first = cubics[0]
  if (!first) throw new RangeError('A course needs at least one segment.')
  const xy: number[] = [first[0].x, first[0].y]
  const breaks: number[] = []
  for (const [i, cubic] of cubics.entries()) {
    if (isBreak(cubics, i)) {
      breaks.push(xy.length / 2 - 1)
      xy.push(cubic[0].x, cubic[0].y)
    }
    const steps = flatteningSteps(cubic, tolerance)
    for (let i = 1; i <= steps; i++) {
      const p = i === steps ? cubic[3] : cubicPoint(cubic, i / steps)
      xy.push(p.x, p.y)
    }
  }
  return polylineCourse(Float64Array.from(xy), breaks)
}

/** The points of a course, split at its breaks. */
export function partsOf({ points, breaks }: Course): Point[][] {
  const all = Array.from({ length: points.length / 2 }, (_, i) => ({ x: points[2 * i]!, y: points[2 * i + 1]! }))
  return [...breaks, all.length - 1].map((last, k) => all.slice(k === 0 ? 0 : breaks[k - 1]! + 1, last + 1))
}

/** Joins courses end to end; the shared point is kept once. */
export function joinCourses(courses: readonly Course[]): Course {
  if (courses.length === 1) return courses[0]!
  const size = courses.reduce((n, c) => n + c.points.length - 2, 2)
  const points = new Float64Array(size)
  const breaks: number[] = []
  let at = 0
  for (const course of courses) {
    points.set(course.points, at)
    for (const i of course.breaks) breaks.push(at / 2 + i)
    at += course.points.length - 2
  }
  return polylineCourse(points, breaks)
}

/** A course of straight pieces through points, x and y in turn, broken after those whose numbers are in `breaks`. */
export function polylineCourse(points: Float64Array, breaks: readonly number[] = []): Course {
  const n = points.length / 2
  const lengths = new Float64Array(n)
  let next = 0
  for (let i = 1; i < n; i++) {
    const isBroken = breaks[next] === i - 1
    if (isBroken) next++
    const dx = points[2 * i]! - points[2 * i - 2]!
    const dy = points[2 * i + 1]! - points[2 * i - 1]!
    // Math.hypot takes ten times as long, which tells on a track of a hundred thousand points.
    lengths[i] = lengths[i - 1]! + (isBroken ? 0 : Math.sqrt(dx * dx + dy * dy))
  }
  return { points, lengths, length: lengths[n - 1]!, breaks }
}

/** A spot of a course: the length up to it, its position, and its distance from the query. */
export interface OnCourse {
  s: number
  at: Point
  distance: number
}

/** The spot of a course that is nearest to a point. */
export function nearestOnCourse({ points, lengths, breaks }: Course, p: Point): OnCourse {
  let best: OnCourse = { s: 0, at: { x: points[0]!, y: points[1]! }, distance: Infinity }
  let next = 0
  for (let i = 0; i + 1 < lengths.length; i++) {
    if (breaks[next] === i) {
      next++
      continue
    }
    const spot = nearestOnPiece(points, lengths, i, p)
    if (spot.distance < best.distance) best = spot
  }
  return best
}

/** The spots at which a course comes by a point, within a reach: all at which it is nearer than just before and just after. */
export function passesBy({ points, lengths, breaks }: Course, p: Point, reach: number): OnCourse[] {
  const passes: OnCourse[] = []
  /** Whether the course comes nearer at the end of the piece before. */
  let comesNearer = true
  let next = 0
  for (let i = 0; i + 1 < lengths.length; i++) {
    if (breaks[next] === i) {
      next++
      comesNearer = true
      continue
    }
    const spot = nearestOnPiece(points, lengths, i, p)
    const isAtStart = spot.s === lengths[i]
    const goesOn = spot.s === lengths[i + 1] && i + 2 < lengths.length
    if (!goesOn && (!isAtStart || comesNearer) && spot.distance < reach) passes.push(spot)
    comesNearer = goesOn
  }
  return passes
}

function nearestOnPiece(points: Float64Array, lengths: Float64Array, i: number, p: Point): OnCourse {
  const [x, y] = [points[2 * i]!, points[2 * i + 1]!]
  const [dx, dy] = [points[2 * i + 2]! - x, points[2 * i + 3]! - y]
  const u = nearestShare(p.x - x, p.y - y, dx, dy)
  const at = { x: x + u * dx, y: y + u * dy }
  return { s: lengths[i]! + u * (lengths[i + 1]! - lengths[i]!), at, distance: Math.sqrt((p.x - at.x) ** 2 + (p.y - at.y) ** 2) }
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

/** The point at length s along the course; s is clamped to 0..length. */
export function pointAt(course: Course, s: number): Point {
  const { points, lengths, length } = course
  const within = clamp(s, 0, length)
  const i = pieceAt(course, within)
  const span = lengths[i + 1]! - lengths[i]!
  const u = span > 0 ? (within - lengths[i]!) / span : 0
  const x = points[2 * i]!
  const y = points[2 * i + 1]!
  return { x: x + (points[2 * i + 2]! - x) * u, y: y + (points[2 * i + 3]! - y) * u }
}

/** The ends of the part of a course, between breaks, that holds length s. */
function partAt({ lengths, length, breaks }: Course, s: number): [number, number] {
  let start = 0
  for (const i of breaks) {
    if (s < lengths[i]!) return [start, lengths[i]!]
    start = lengths[i]!
  }
  return [start, length]
}

/** At a break two points have the same length; this much to either side tells them apart. */
const HAIR = 1e-6

/**
 * Direction of the chord between s - window/2 and s + window/2, in radians, 0 to the right and clockwise positive (y down).
 * Near the ends, and at breaks, the window shrinks on one side. Undefined where the chord has no length.
 */
export function chordHeading(course: Course, s: number, window: number): number | undefined {
  const [start, end] = course.breaks.length > 0 ? partAt(course, s) : [0, course.length]
  const from = pointAt(course, Math.max(start, s - window / 2))
  const to = pointAt(course, end < course.length ? Math.min(end - HAIR, s + window / 2) : s + window / 2)
  const dx = to.x - from.x
  const dy = to.y - from.y
  return dx === 0 && dy === 0 ? undefined : Math.atan2(dy, dx)
}
