import type { Point } from './point'

export interface Segment {
  from: Point
  to: Point
}

/** Whether two segments cross; where they only touch, they do not. */
export function doCross(a: Segment, b: Segment): boolean {
  return areApart(a, b.from, b.to) && areApart(b, a.from, a.to)
}

/** Whether two points are on different sides of the line through a segment. */
const areApart = (line: Segment, p: Point, q: Point): boolean => sideOf(line, p) * sideOf(line, q) < 0

/** Positive on one side of the line through a segment, negative on the other: twice the area of the triangle with the point. */
const sideOf = ({ from, to }: Segment, { x, y }: Point): number => (to.x - from.x) * (y - from.y) - (to.y - from.y) * (x - from.x)
