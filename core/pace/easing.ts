import { clamp } from '../geometry/clamp'
/** Maps the share of time that has passed, 0..1, to the share of the way that has been travelled. */
export type EasingFunction = (u: number) => number

/** The named curves of CSS Easing Functions Level 2, section 2.2, that are in use here. */
export const NAMED_CURVES = {
  linear: [0, 0, 1, 1],
  'ease-in': [0.42, 0, 1, 1],
  'ease-out': [0, 0, 0.58, 1],
  'ease-in-out': [0.42, 0, 0.58, 1],
} as const satisfies Record<string, readonly [number, number, number, number]>

/**
 * `cubic-bezier(x1, y1, x2, y2)` of CSS Easing Functions Level 2. x1 and x2 must be within 0..1.
 * Inverted by Newton's method, with bisection where the slope vanishes; error under 1e-9.
 */
export function cubicBezier(x1: number, y1: number, x2: number, y2: number): EasingFunction {
  if (x1 === y1 && x2 === y2) return (u) => clamp(u, 0, 1)
  const along = (a: number, b: number, v: number) => 3 * a * v * (1 - v) ** 2 + 3 * b * v * v * (1 - v) + v ** 3
  const slope = (a: number, b: number, v: number) => 3 * a * (1 - v) ** 2 + 6 * (b - a) * v * (1 - v) + 3 * (1 - b) * v * v
  return (u) => {
    if (u <= 0) return 0
    if (u >= 1) return 1
    let low = 0
    let high = 1
    let v = u
    for (let i = 0; i < 64; i++) {
      const error = along(x1, x2, v) - u
      if (Math.abs(error) < 1e-12) break
      if (error > 0) high = v
      else low = v
      const newton = v - error / slope(x1, x2, v)
      v = newton > low && newton < high ? newton : (low + high) / 2
    }
    return along(y1, y2, v)
  }
}

/**
 * Cubic Hermite progress from 0 to 1 with given speeds at both ends (1 = the mean speed of the leg).
 * Monotone for speeds within 0..3: F. Fritsch and R. Carlson, Monotone piecewise cubic interpolation (1980).
 */
export function hermite(startSpeed: number, endSpeed: number): EasingFunction {
  return (t) => {
    const u = clamp(t, 0, 1)
    return u * u * (3 - 2 * u) + startSpeed * u * (1 - u) ** 2 - endSpeed * u * u * (1 - u)
  }
}

/** Smooth progress from 0 to 1 without speed at the ends; for fades, turns and settling. */
export const smooth: EasingFunction = hermite(0, 0)

/** Overshoots by a tenth and settles at 1: R. Penner's "back" easing, Programming Macromedia Flash MX (2002). */
export function overshoot(t: number): number {
  const u = clamp(t, 0, 1) - 1
  return 1 + 2.70158 * u ** 3 + 1.70158 * u ** 2
}
