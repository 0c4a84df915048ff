import { remembered } from '../remembered'
import { groundGeo } from '../geo/ground'
import type { GroundGeo } from '../geo/ground'
import { greatCircle } from '../geo/great-circle'
import { bowedCubics } from '../geometry/bow'
import type { Course } from '../geometry/course'
import { courseOf, FLATTENING, partsOf, polylineCourse } from '../geometry/course'
import type { Cubic } from '../geometry/cubic'
import { lineCubic } from '../geometry/cubic'
import { fitStroke } from '../geometry/fit-stroke'
import type { Point } from '../geometry/point'
import { add, scaleBy } from '../geometry/point'
import type { CourseNode, CourseShape, Journey, TrackCourse } from '../journey/schema'
import { readPoints } from '../journey/track-line'
import { routeOver } from '../network/route-over'

/** What the courses of legs depend on, besides their own shapes and ends. */
export interface CourseGround {
  geo: GroundGeo | undefined
  networks: Journey['networks']
}

/** The ground that a journey's courses lie on; the same object as long as nothing of it has changed. */
export const courseGround = ({ sheets, networks }: Pick<Journey, 'sheets' | 'networks'>): CourseGround => groundWith(sheets, networks)

const geoOf = remembered((sheets: Journey['sheets']) => groundGeo({ sheets }))
const groundWith = remembered((sheets: Journey['sheets'], networks: Journey['networks']) => ({ geo: geoOf(sheets), networks }))

/** Courses that are chains of curves, and those that are lines of many points. */
type Curve = Extract<CourseShape, { kind: 'straight' | 'bowed' | 'drawn' }>
type Line = Exclude<CourseShape, Curve>

export const isCurve = (shape: CourseShape): shape is Curve => shape.kind === 'straight' || shape.kind === 'bowed' || shape.kind === 'drawn'

/** The cubics of a curved course from stop a to stop b through its nodes, in ground units, before smoothing; none across a break. */
export function curveCubics(shape: Curve, a: Point, b: Point): Cubic[] {
  if (shape.kind === 'straight') return [lineCubic(a, b)]
  if (shape.kind === 'bowed') return bowedCubics(a, b, shape.bow)
  const none = { x: 0, y: 0 }
  const knots: Omit<CourseNode, 'kind'>[] = [
    { at: a, before: none, after: shape.leave },
    ...shape.nodes,
    { at: b, before: shape.arrive, after: none },
  ]
  return knots.slice(1).flatMap((to, i): Cubic[] => {
    const from = knots[i]!
    return from.break ? [] : [[from.at, add(from.at, from.after), add(to.at, to.before), to.at]]
  })
}

/** The cubics of a curved course as it is seen. */
function seenCubics(shape: Curve, a: Point, b: Point): Cubic[] {
  const cubics = curveCubics(shape, a, b)
  const { smoothing } = shape.kind === 'drawn' ? shape : {}
  return smoothing === undefined ? cubics : partsOf(courseOf(cubics, smoothing / 40)).flatMap((part) => smoothLine(part, smoothing))
}

/** A line smoothed alike on a ground of any scale: it is fitted in units of what it may be off, as the fit has limits of its own in absolute numbers. */
function smoothLine(points: readonly Point[], within: number): Cubic[] {
  const small = points.map((p) => scaleBy(p, 1 / within))
  const cubics = fitStroke(small, 1).map((cubic) => cubic.map((p) => scaleBy(p, within)) as unknown as Cubic)
  // Its ends are the very places that they were.
  const [, b, c, d] = cubics[0]!
  cubics[0] = [points[0]!, b, c, d]
  const [e, f, g] = cubics.at(-1)!
  cubics[cubics.length - 1] = [e, f, g, points.at(-1)!]
  return cubics
}

/** The cubics of any course, as it is seen: of a line, one for each of its pieces, without the breaks. */
export function cubicsOf(shape: CourseShape, a: Point, b: Point, ground: CourseGround): Cubic[] {
  if (isCurve(shape)) return seenCubics(shape, a, b)
  const { points, breaks } = compiledCourse(shape, a, b, ground)
  const at = (i: number): Point => ({ x: points[2 * i]!, y: points[2 * i + 1]! })
  const broken = new Set(breaks)
  return Array.from({ length: points.length / 2 - 1 }, (_, i) => i).flatMap((i) => (broken.has(i) ? [] : [lineCubic(at(i), at(i + 1))]))
}

interface Compiled {
  a: Point
  b: Point
  ground: CourseGround
  course: Course
}

const compiled = new WeakMap<CourseShape, Compiled>()

/** The compiled course of a leg; recompiled only when its shape, one of its ends, or something it depends on has changed. */
export function compiledCourse(shape: CourseShape, a: Point, b: Point, ground: CourseGround): Course {
  const known = compiled.get(shape)
  const isSame = known && known.a.x === a.x && known.a.y === a.y && known.b.x === b.x && known.b.y === b.y
  if (isSame && (known.ground === ground || isCurve(shape) || shape.kind === 'track')) return known.course
  const course = isCurve(shape) ? courseOf(seenCubics(shape, a, b)) : lineCourse(shape, a, b, ground)
  compiled.set(shape, { a, b, ground, course })
  return course
}

/** The points of a track, which are read once; not to be changed. */
const trackPoints = remembered((track: TrackCourse): Float64Array => readPoints(track.points))

function lineCourse(shape: Line, a: Point, b: Point, { geo, networks }: CourseGround): Course {
  const straight = () => polylineCourse(Float64Array.of(a.x, a.y, b.x, b.y))
  switch (shape.kind) {
    case 'track': {
      // The recorded line leads from stop to stop, wherever these are moved.
      const points = trackPoints(shape).slice()
      points.set([a.x, a.y], 0)
      points.set([b.x, b.y], points.length - 2)
      return polylineCourse(points)
    }
    case 'great-circle': {
      const line = geo && greatCircle(a, b, geo, FLATTENING)
      return line ? polylineCourse(line.points, line.breaks) : straight()
    }
    case 'network': {
      const found = routeOver(networks, shape, a, b)
      return found ? polylineCourse(found) : straight()
    }
  }
}
