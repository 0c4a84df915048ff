import { append } from './extremes'
import { radians } from './angle'
import fitCurve from 'fit-curve'
import simplify from 'simplify-js'
import type { Cubic } from './cubic'
import { lineCubic } from './cubic'
import type { Point } from './point'
import { distance } from './point'

/** A turn sharper than this, in radians, was meant as a corner. */
const CORNER = radians(65)

/** Points closer to each other than this share of the tolerance add nothing to the stroke. */
const DENSE = 0.25

/**
 * Fits a chain of few cubics to a stroke drawn by hand, no point of it further off than about `tolerance`; sharp corners stay corners.
 * Source: P. J. Schneider, An algorithm for automatically fitting digitized curves, Graphics Gems (1990).
 *
 * @param points at least two, in the order of drawing
 * @param tolerance in the unit of the points
 */
export function fitStroke(points: readonly Point[], tolerance: number): Cubic[] {
  const thinned = thin(points, tolerance * DENSE)
  if (thinned.length < 2) return [lineCubic(points[0]!, points.at(-1)!)]
  const cubics: Cubic[] = []
  let start = 0
  for (const end of [...cornersOf(thinned, tolerance), thinned.length - 1]) {
    const part = thinned.slice(start, end + 1).map(({ x, y }): [number, number] => [x, y])
    // The package counts errors squared.
    const fitted = fitCurve(part, tolerance * tolerance) as [number, number][][]
    const isSound = fitted.every((curve) => curve.every(([x, y]) => Number.isFinite(x) && Number.isFinite(y)))
    append(
      cubics,
      isSound
        ? fitted.map((curve) => curve.map(([x, y]) => ({ x, y })) as unknown as Cubic)
        : straightThrough(thinned.slice(start, end + 1), tolerance),
    )
    start = end
  }
  return cubics
}

/** Straight pieces, for the rare stroke that turns back on itself so exactly that it has no tangent; the package returns NaN for it. */
function straightThrough(points: readonly Point[], tolerance: number): Cubic[] {
  const kept = simplify([...points], tolerance, true)
  return kept.slice(1).map((to, i) => lineCubic(kept[i]!, to))
}

/** Leaves out points closer than `least` to the one before; the last is kept. */
function thin(points: readonly Point[], least: number): Point[] {
  const kept: Point[] = []
  for (const p of points) if (kept.length === 0 || distance(kept.at(-1)!, p) >= least) kept.push(p)
  const last = points.at(-1)!
  if (kept.length > 1 && kept.at(-1) !== last) kept[kept.length - 1] = last
  return kept
}

/** The places where the stroke turns sharply, measured over a distance on either side, so that a trembling hand makes none. */
function cornersOf(points: readonly Point[], tolerance: number): number[] {
  const reach = tolerance * 3
  const turns = points.map((p, i) => {
    const before = points.slice(0, i).findLast((q) => distance(p, q) >= reach)
    const after = points.slice(i + 1).find((q) => distance(p, q) >= reach)
    if (!before || !after) return 0
    const turn = Math.atan2(after.y - p.y, after.x - p.x) - Math.atan2(p.y - before.y, p.x - before.x)
    return Math.abs(Math.atan2(Math.sin(turn), Math.cos(turn)))
  })
  const corners: number[] = []
  turns.forEach((turn, i) => {
    if (turn < CORNER) return
    // Of neighbours that see the same corner, keep the sharpest.
    const last = corners.at(-1)
    if (last !== undefined && distance(points[last]!, points[i]!) < reach) {
      if (turn > turns[last]!) corners[corners.length - 1] = i
    } else corners.push(i)
  })
  return corners
}
