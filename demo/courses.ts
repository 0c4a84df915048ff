import { curveCubics } from '#core/courses/compile-course'
import type { Course } from '#core/geometry/course'
import { courseOf } from '#core/geometry/course'
import type { Point } from '#core/geometry/point'
import type { DrawnCourse } from '#core/journey/schema'
import { COAST_ROAD, FERRIES, RAILWAY, ROADS, TOWNS } from './places'

/** A smooth curve through points: Catmull-Rom tangents as Bezier handles. */
export function through(points: readonly Point[]): Course {
  const handle = (i: number): Point => {
    const a = points[Math.max(0, i - 1)]!
    const b = points[Math.min(points.length - 1, i + 1)]!
    return { x: (b.x - a.x) / 6, y: (b.y - a.y) / 6 }
  }
  const minus = (p: Point): Point => ({ x: -p.x, y: -p.y })
  const nodes = points.slice(1, -1).map((at, i) => ({ at, kind: 'smooth' as const, before: minus(handle(i + 1)), after: handle(i + 1) }))
  const shape: DrawnCourse = { kind: 'drawn', leave: handle(0), nodes, arrive: minus(handle(points.length - 1)) }
  return courseOf(curveCubics(shape, points[0]!, points.at(-1)!))
}

export const roadCourses = (): Course[] => [courseOf(curveCubics(COAST_ROAD, TOWNS.quillhaven.at, TOWNS.oarsend.at)), ...ROADS.map(through)]
export const railwayCourse = (): Course => courseOf(curveCubics(RAILWAY, TOWNS.harrowmere.at, TOWNS.quillhaven.at))
export const ferryCourses = (): Course[] => FERRIES.map(through)
