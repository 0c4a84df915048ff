import type { Point } from '../geometry/point'

/** A projective map of the plane, row by row: [x', y', w'] = H [x, y, 1]. Affine maps and similarities are those whose last row is 0 0 1. */
export type Homography = readonly [number, number, number, number, number, number, number, number, number]

/** The image of a point, or undefined where the map sends it to infinity. */
export function transformed([a, b, c, d, e, f, g, h, i]: Homography, { x, y }: Point): Point | undefined {
  const w = g * x + h * y + i
  return Math.abs(w) < 1e-12 ? undefined : { x: (a * x + b * y + c) / w, y: (d * x + e * y + f) / w }
}

/** First p, then q. */
export function after(p: Homography, q: Homography): Homography {
  const cell = (row: number, column: number) =>
    q[3 * row]! * p[column]! + q[3 * row + 1]! * p[3 + column]! + q[3 * row + 2]! * p[6 + column]!
  return [0, 1, 2].flatMap((row) => [0, 1, 2].map((column) => cell(row, column))) as unknown as Homography
}

/** The inverse, by the adjugate matrix, which is as good as the inverse for points of the plane; undefined if there is none. */
export function inverted([a, b, c, d, e, f, g, h, i]: Homography): Homography | undefined {
  const inverse = [
    e * i - f * h,
    c * h - b * i,
    b * f - c * e,
    f * g - d * i,
    a * i - c * g,
    c * d - a * f,
    d * h - e * g,
    b * g - a * h,
    a * e - b * d,
  ]
  const determinant = a * inverse[0]! + b * inverse[3]! + c * inverse[6]!
  return determinant === 0 || !Number.isFinite(determinant) ? undefined : (inverse.map((v) => v / determinant) as unknown as Homography)
}

/** The affine map x' = a x + b y + c, y' = d x + e y + f. */
export const affine = (a: number, b: number, c: number, d: number, e: number, f: number): Homography => [a, b, c, d, e, f, 0, 0, 1]
