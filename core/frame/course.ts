import { bowedCubics } from '../geometry/bow'
import type { Course } from '../geometry/course'
import { courseOf } from '../geometry/course'
import type { Cubic } from '../geometry/cubic'
import { lineCubic } from '../geometry/cubic'
import type { Point } from '../geometry/point'
import { add } from '../geometry/point'
import type { CourseNode, CourseShape } from '../journey/schema'

/** The cubics of a leg's course from stop a to stop b, in ground units. */
export function cubicsOf(shape: CourseShape, a: Point, b: Point): Cubic[] {
  if (shape.kind === 'straight') return [lineCubic(a, b)]
  if (shape.kind === 'bowed') return bowedCubics(a, b, shape.bow)
  const none = { x: 0, y: 0 }
  const knots: Omit<CourseNode, 'kind'>[] = [
    { at: a, before: none, after: shape.leave },
    ...shape.nodes,
    { at: b, before: shape.arrive, after: none },
  ]
  return knots.slice(1).map((to, i) => {
    const from = knots[i]!
    return [from.at, add(from.at, from.after), add(to.at, to.before), to.at]
  })
}

interface Compiled {
  a: Point
  b: Point
  course: Course
}

const compiled = new WeakMap<CourseShape, Compiled>()

/** The compiled course of a leg; made anew only when its shape or one of its ends has changed. */
export function compiledCourse(shape: CourseShape, a: Point, b: Point): Course {
  const known = compiled.get(shape)
  if (known && known.a.x === a.x && known.a.y === a.y && known.b.x === b.x && known.b.y === b.y) return known.course
  const course = courseOf(cubicsOf(shape, a, b))
  compiled.set(shape, { a, b, course })
  return course
}
