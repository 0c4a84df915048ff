import { railwayCourse, roadCourses } from '#demo/courses'
import type { Course } from '#core/geometry/course'
import { pointAt } from '#core/geometry/course'
import type { Point } from '#core/geometry/point'
import { distance } from '#core/geometry/point'

/** Half the width, casing and all, of the roads and of the railway as the Lantern Isles' sheet has them. */
const HALF_ROAD = 7.5

const lines: Point[] = [...roadCourses(), railwayCourse()].flatMap((course) =>
  Array.from({ length: Math.ceil(course.length / 2) }, (_, i) => pointAt(course, 2 * i)),
)

/** Share of a course's length that lies on the roads and the railway that were drawn on the sheet. */
export function shareOnRoads(course: Course): number {
  let on = 0
  const steps = Math.ceil(course.length / 5)
  for (let i = 0; i <= steps; i++) {
    const p = pointAt(course, (course.length * i) / steps)
    if (lines.some((q) => distance(p, q) <= HALF_ROAD)) on++
  }
  return on / (steps + 1)
}
