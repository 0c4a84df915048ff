import { polygonHull } from 'd3-polygon'
import type { Point } from './point'

/** In so many directions the farthest point is looked for. */
const DIRECTIONS = 32

/**
 * The convex hull of points. Of very many points most lie inside the polygon of those that are farthest in some directions, and so on no hull
 * (Akl and Toussaint, A fast convex hull algorithm, 1978): only the others are sorted.
 *
 * @param points x and y in turn
 * @returns its corners, in turn; all points where they are on one line
 */
export function convexHull(points: ArrayLike<number>): Point[] {
  const isInside = insideOf(farthest(points))
  const left: [number, number][] = []
  for (let i = 0; i < points.length; i += 2) {
    const [x, y] = [points[i]!, points[i + 1]!]
    if (!isInside(x, y)) left.push([x, y])
  }
  return (polygonHull(left) ?? left).map(([x, y]) => ({ x, y }))
}

/** The points that are farthest in each of the directions, in turn, without those that are the same as the one before. */
function farthest(points: ArrayLike<number>): Point[] {
  const corners: Point[] = []
  for (let k = 0; k < DIRECTIONS; k++) {
    const [dx, dy] = [Math.cos((2 * Math.PI * k) / DIRECTIONS), Math.sin((2 * Math.PI * k) / DIRECTIONS)]
    let [best, most] = [0, -Infinity]
    for (let i = 0; i < points.length; i += 2) {
      const along = points[i]! * dx + points[i + 1]! * dy
      if (along > most) {
        best = i
        most = along
      }
    }
    const [x, y] = [points[best]!, points[best + 1]!]
    const last = corners.at(-1)
    if (last?.x !== x || last.y !== y) corners.push({ x, y })
  }
  return corners
}

/** Tells whether points lie inside a convex polygon that turns from x to y, not on its edge. */
function insideOf(corners: readonly Point[]): (x: number, y: number) => boolean {
  // Each edge as a, b and c: a point is to its inner side where a x + b y > c.
  const edges = corners.flatMap((from, i) => {
    const to = corners[(i + 1) % corners.length]!
    const [a, b] = [from.y - to.y, to.x - from.x]
    return a === 0 && b === 0 ? [] : [a, b, a * from.x + b * from.y]
  })
  const count = edges.length
  if (count < 9) return () => false
  return (x, y) => {
    for (let i = 0; i < count; i += 3) if (edges[i]! * x + edges[i + 1]! * y <= edges[i + 2]!) return false
    return true
  }
}
