import type { Point } from './point'
import { distance, mix } from './point'

/** A cubic Bezier segment: start, two handles, end. */
export type Cubic = readonly [Point, Point, Point, Point]

/** Ends closer to each other than this, in ground units, are the same but for rounding. */
const SAME = 1e-6

/** Whether a chain of cubics is broken before one of them: this one does not start where the one before ends. */
export function isBreak(chain: readonly Cubic[], i: number): boolean {
  const [before, next] = [chain[i - 1], chain[i]]
  return before !== undefined && next !== undefined && distance(before[3], next[0]) > SAME
}

/** A straight line as a cubic, its handles at a third and two thirds, so that the parameter runs evenly. */
export function lineCubic(a: Point, b: Point): Cubic {
  const third = (u: number) => ({ x: a.x + (b.x - a.x) * u, y: a.y + (b.y - a.y) * u })
  return [a, third(1 / 3), third(2 / 3), b]
}

/** The point of a cubic at parameter u in 0..1 (Bernstein form). */
export function cubicPoint([a, b, c, d]: Cubic, u: number): Point {
  const v = 1 - u
  const k0 = v * v * v
  const k1 = 3 * v * v * u
  const k2 = 3 * v * u * u
  const k3 = u * u * u
  return { x: k0 * a.x + k1 * b.x + k2 * c.x + k3 * d.x, y: k0 * a.y + k1 * b.y + k2 * c.y + k3 * d.y }
}

/** The two parts of a cubic before and after parameter u, which together are the same curve. Source: de Casteljau's algorithm. */
export function splitCubic([a, b, c, d]: Cubic, u: number): [Cubic, Cubic] {
  const ab = mix(a, b, u)
  const bc = mix(b, c, u)
  const cd = mix(c, d, u)
  const abc = mix(ab, bc, u)
  const bcd = mix(bc, cd, u)
  const middle = mix(abc, bcd, u)
  return [
    [a, ab, abc, middle],
    [middle, bcd, cd, d],
  ]
}

/** The same curve run the other way. */
export const reversedCubic = ([a, b, c, d]: Cubic): Cubic => [d, c, b, a]

/**
 * How many equal parameter steps keep the chords of a cubic within `tolerance` of it.
 * Source: Wang's formula, R. Goldman, Pyramid Algorithms (2003), section 5.6.3.
 */
export function flatteningSteps([a, b, c, d]: Cubic, tolerance: number): number {
  const bend = Math.max(Math.hypot(a.x - 2 * b.x + c.x, a.y - 2 * b.y + c.y), Math.hypot(b.x - 2 * c.x + d.x, b.y - 2 * c.y + d.y))
  return Math.max(1, Math.ceil(Math.sqrt((0.75 * bend) / tolerance)))
}
