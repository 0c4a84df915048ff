import { clamp } from './clamp'
import type { Cubic } from './cubic'
import { cubicPoint, flatteningSteps } from './cubic'
import type { Point } from './point'
import { distance } from './point'

/** A spot on a chain of cubics: the index of the cubic, the parameter on it, its position, and its distance from the query. */
export interface OnChain {
  segment: number
  u: number
  at: Point
  distance: number
}

/** The spot of a chain that is nearest to a point: on each cubic the best of some samples, refined by golden-section search. */
export function nearestOnChain(cubics: readonly Cubic[], p: Point): OnChain {
  let best: OnChain = { segment: 0, u: 0, at: cubics[0]![0], distance: distance(cubics[0]![0], p) }
  cubics.forEach((cubic, segment) => {
    const steps = clamp(flatteningSteps(cubic, 1), 8, 200)
    let sample = 0
    let nearest = Infinity
    for (let i = 0; i <= steps; i++) {
      const d = distance(cubicPoint(cubic, i / steps), p)
      if (d < nearest) [nearest, sample] = [d, i]
    }
    // A bound on how close the curve comes between two samples: its control polygon is never shorter than the curve.
    const [a, b, c, d] = cubic
    const reach = (3 * Math.max(distance(a, b), distance(b, c), distance(c, d))) / steps
    if (nearest - reach > best.distance) return
    const u = goldenSection((v) => distance(cubicPoint(cubic, v), p), Math.max(0, (sample - 1) / steps), Math.min(1, (sample + 1) / steps))
    for (const v of [u, sample / steps]) {
      const at = cubicPoint(cubic, v)
      const off = distance(at, p)
      if (off < best.distance) best = { segment, u: v, at, distance: off }
    }
  })
  return best
}

const GOLDEN = (Math.sqrt(5) - 1) / 2

/** Finds the minimum of a unimodal function between two numbers. Source: J. Kiefer, Sequential minimax search for a maximum (1953). */
function goldenSection(f: (x: number) => number, from: number, to: number): number {
  let [a, b] = [from, to]
  let [c, d] = [b - GOLDEN * (b - a), a + GOLDEN * (b - a)]
  let [fc, fd] = [f(c), f(d)]
  for (let i = 0; i < 40; i++) {
    if (fc < fd) {
      ;[b, d, fd] = [d, c, fc]
      c = b - GOLDEN * (b - a)
      fc = f(c)
    } else {
      ;[a, c, fc] = [c, d, fd]
      d = a + GOLDEN * (b - a)
      fd = f(d)
    }
  }
  return (a + b) / 2
}
