import { clamp } from './clamp'

/** A point or a vector on a plane; the unit is the caller's (ground units or reference pixels). */
export interface Point {
  x: number
  y: number
}

export const add = (a: Point, b: Point): Point => ({ x: a.x + b.x, y: a.y + b.y })
export const subtract = (a: Point, b: Point): Point => ({ x: a.x - b.x, y: a.y - b.y })
export const scaleBy = (a: Point, k: number): Point => ({ x: a.x * k, y: a.y * k })
export const distance = (a: Point, b: Point): number => Math.hypot(b.x - a.x, b.y - a.y)

/** The point a fraction u of the way from a to b. */
export const mix = (a: Point, b: Point, u: number): Point => ({ x: a.x + (b.x - a.x) * u, y: a.y + (b.y - a.y) * u })

/** The vector turned by an angle in radians; with y down, positive turns clockwise on the screen. */
export function rotate(a: Point, angle: number): Point {
  const c = Math.cos(angle)
  const s = Math.sin(angle)
  return { x: a.x * c - a.y * s, y: a.x * s + a.y * c }
}

/**
 * How far along a segment its nearest spot to a point lies, 0 to 1. The point (x, y) and the segment (dx, dy) are given as offsets from where the segment
 * begins, and not as points, as this is asked for each of a hundred thousand pieces.
 */
export function nearestShare(x: number, y: number, dx: number, dy: number): number {
  const square = dx * dx + dy * dy
  return square > 0 ? clamp((x * dx + y * dy) / square, 0, 1) : 0
}
