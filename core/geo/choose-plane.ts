import { least } from '../geometry/extremes'
import type { Size } from '../geometry/size'
import type { Point } from '../geometry/point'
import type { Match } from './fit'
import { fit } from './fit'
import { affine, transformed } from './homography'
import type { Homography } from './homography'

/** Chooses the plane of a map, and how the map lies in it, from control points. */

/** A matched spot: `from` in the plane, x east and y north, `to` on the sheet. */
type Fitted = (matches: readonly Match[]) => Homography

/** The similarity from a plane whose y axis points north to the sheet, whose y axis points down: its mirroring is known, so that two points are enough. */
export function fitUpright(matches: readonly Match[]): Homography {
  const flipped = fit(
    'similarity',
    matches.map(({ from, to }) => ({ from: { x: from.x, y: -from.y }, to })),
  )
  const [a, b, c, d, e, f] = flipped
  return affine(a, -b, c, d, -e, f)
}

/** A map that is neither turned nor sheared, each axis with a scale of its own, by least squares. */
function fitAxes(matches: readonly Match[]): Homography {
  const line = (axis: 'x' | 'y'): [number, number] => {
    const n = matches.length
    const from = matches.reduce((sum, match) => sum + match.from[axis], 0) / n
    const to = matches.reduce((sum, match) => sum + match.to[axis], 0) / n
    const squares = matches.reduce((sum, match) => sum + (match.from[axis] - from) ** 2, 0)
    const scale = matches.reduce((sum, match) => sum + (match.from[axis] - from) * (match.to[axis] - to), 0) / squares
    return [scale, to - scale * from]
  }
  const [[a, c], [e, f]] = [line('x'), line('y')]
  return affine(a, 0, c, 0, e, f)
}

const MODELS: readonly { fewest: number; fitted: Fitted }[] = [
  { fewest: 2, fitted: fitUpright },
  { fewest: 2, fitted: fitAxes },
  { fewest: 3, fitted: (matches) => fit('affine', matches) },
]

/** The error of each point when the fit leaves it out, in sheet pixels, root mean square. Infinite if the others determine no fit. */
export function leftOutError(matches: readonly Match[], fitted: Fitted): number {
  let sum = 0
  for (const [i, { from, to }] of matches.entries()) {
    let p: Point | undefined
    try {
      p = transformed(fitted(matches.filter((_, k) => k !== i)), from)
    } catch {
      return Infinity
    }
    sum += p ? (p.x - to.x) ** 2 + (p.y - to.y) ** 2 : Infinity
  }
  const rms = Math.sqrt(sum / matches.length)
  return Number.isFinite(rms) ? rms : Infinity
}

/** How well a plane fits the points: the least such error of all kinds of fit. Undefined for fewer than three points. */
export function planeError(matches: readonly Match[]): number | undefined {
  if (matches.length < 3) return undefined
  const errors = MODELS.filter(({ fewest }) => matches.length > fewest).map(({ fitted }) => leftOutError(matches, fitted))
  const error = least(errors)
  return Number.isFinite(error) ? error : undefined
}

/** The smaller of two errors decides if the other is this many times as large, and larger by this many pixels, which is how well a hand clicks. */
const CLEARLY = 2
const CLICK = 2

/** The plane that fits the points better; undefined if they do not decide. */
export function clearly(a: number | undefined, b: number | undefined): 0 | 1 | undefined {
  if (a === undefined || b === undefined) return undefined
  if (b > CLEARLY * a && b - a > CLICK) return 0
  return a > CLEARLY * b && a - b > CLICK ? 1 : undefined
}

/** The greatest distance between the images of a spot under two maps, in sheet pixels; spots that only one of them covers are left out. */
export function greatestDifference({ width, height }: Size, other: (p: Point) => Point | undefined): number {
  let greatest = 0
  for (let i = 0; i <= 8; i++) {
    for (let k = 0; k <= 8; k++) {
      const p = { x: (width * i) / 8, y: (height * k) / 8 }
      const q = other(p)
      if (q) greatest = Math.max(greatest, Math.hypot(p.x - q.x, p.y - q.y))
    }
  }
  return greatest
}
