import { Matrix, SingularValueDecomposition, solve } from 'ml-matrix'
import type { Point } from '../geometry/point'
import { JourneyError } from '../error'
import type { Homography } from './homography'
import { affine, after, inverted, transformed } from './homography'

/** A matched point: its position in one plane and in the other. */
export interface Match {
  from: Point
  to: Point
}

export const FIT_KINDS = ['similarity', 'affine', 'projective'] as const
export type FitKind = (typeof FIT_KINDS)[number]

/** Fewest matches that determine a map of each kind. */
export const FEWEST_MATCHES: Record<FitKind, number> = { similarity: 2, affine: 3, projective: 4 }

/** How many numbers a map of each kind is made of; each match gives two equations. */
const UNKNOWNS: Record<FitKind, number> = { similarity: 4, affine: 6, projective: 8 }

/** Whether this many matches can check a fit of a kind: with fewer, any fit is exact. */
export const canBeChecked = (kind: FitKind, matches: number): boolean => 2 * matches > UNKNOWNS[kind]

/**
 * The best map of a kind for the matches, by least squares of the distances in the second plane.
 *
 * @throws JourneyError if there are too few matches, or they determine nothing because they lie on one spot or on one line.
 */
export function fit(kind: FitKind, matches: readonly Match[]): Homography {
  if (matches.length < FEWEST_MATCHES[kind]) {
    throw new JourneyError(`${matches.length} control points are too few: a fit of this kind needs ${FEWEST_MATCHES[kind]}.`)
  }
  // Centred and scaled coordinates keep the equations well conditioned. Source: R. Hartley, In Defense of the Eight-Point Algorithm (1997).
  const source = normalising(matches.map((match) => match.from))
  const target = normalising(matches.map((match) => match.to))
  const even = matches.map(({ from, to }) => ({ from: transformed(source, from)!, to: transformed(target, to)! }))
  const back = inverted(target)!
  return scaled(after(after(source, SOLVERS[kind](even)), back))
}

/** The same map scaled so that its last number is 1, if that is possible. */
const scaled = (h: Homography): Homography => (h[8] === 0 ? h : (h.map((v) => v / h[8]) as unknown as Homography))

const SOLVERS: Record<FitKind, (matches: readonly Match[]) => Homography> = {
  similarity: fitSimilarity,
  affine: fitAffine,
  projective: fitProjective,
}

function normalising(points: readonly Point[]): Homography {
  const n = points.length
  const x = points.reduce((sum, p) => sum + p.x, 0) / n
  const y = points.reduce((sum, p) => sum + p.y, 0) / n
  const spread = Math.sqrt(points.reduce((sum, p) => sum + (p.x - x) ** 2 + (p.y - y) ** 2, 0) / n)
  if (spread < 1e-9 * Math.max(1, Math.abs(x), Math.abs(y)))
    throw new JourneyError('The control points lie on one spot: set them far apart.')
  return affine(1 / spread, 0, -x / spread, 0, 1 / spread, -y / spread)
}

/** x' = a x - b y, y' = b x + a y; the shifts vanish about the middle. */
function fitSimilarity(matches: readonly Match[]): Homography {
  const squares = matches.reduce((sum, { from }) => sum + from.x ** 2 + from.y ** 2, 0)
  const a = matches.reduce((sum, { from, to }) => sum + from.x * to.x + from.y * to.y, 0) / squares
  const b = matches.reduce((sum, { from, to }) => sum + from.x * to.y - from.y * to.x, 0) / squares
  return affine(a, -b, 0, b, a, 0)
}

const ON_A_LINE = 'The control points lie on one line, or nearly: set one well off it.'

const CONTRADICTION = 'The control points contradict each other: no map of this kind has them in this order. Check each of them.'

/** Least singular value, relative to the largest, of points that still span a plane. */
const FLAT = 1e-4

function fitAffine(matches: readonly Match[]): Homography {
  const spread = new SingularValueDecomposition(new Matrix(matches.map(({ from }) => [from.x, from.y]))).diagonal
  if (spread[1]! < FLAT * spread[0]!) throw new JourneyError(ON_A_LINE)
  const design = new Matrix(matches.map(({ from }) => [from.x, from.y, 1]))
  const rows = ['x', 'y'] as const
  const [x, y] = rows.map((axis) => solve(design, Matrix.columnVector(matches.map(({ to }) => to[axis])), true).to1DArray())
  return affine(x![0]!, x![1]!, x![2]!, y![0]!, y![1]!, y![2]!)
}

/** The direct linear transformation, then Gauss-Newton steps. Source: Hartley and Zisserman, Multiple View Geometry (2004), algorithms 4.2 and 4.3. */
function fitProjective(matches: readonly Match[]): Homography {
  const equations = matches.flatMap(({ from: { x, y }, to }) => [
    [x, y, 1, 0, 0, 0, -to.x * x, -to.x * y, -to.x],
    [0, 0, 0, x, y, 1, -to.y * x, -to.y * y, -to.y],
  ])
  // A row of zeros more, where there are fewer equations than unknowns, gives the decomposition its ninth vector.
  while (equations.length < 9) equations.push(new Array<number>(9).fill(0))
  const { diagonal, rightSingularVectors } = new SingularValueDecomposition(new Matrix(equations), { autoTranspose: true })
  if (diagonal[7]! < FLAT * diagonal[0]!)
    throw new JourneyError('Too many of the control points lie on one line: four of them must have no three on a line.')
  let h = rightSingularVectors.getColumn(8)
  if (Math.abs(h[8]!) < 1e-9) throw new JourneyError(CONTRADICTION)
  h = h.map((v) => v / h[8]!)
  for (let step = 0; step < 20; step++) {
    const { jacobian, residuals } = linearised(h, matches)
    const change = solve(jacobian, residuals, true).to1DArray()
    const next = h.map((v, i) => v + (change[i] ?? 0))
    if (sumOfSquares(next as unknown as Homography, matches) >= sumOfSquares(h as unknown as Homography, matches)) break
    h = next
  }
  const found = h as unknown as Homography
  const horizon = matches.map(({ from }) => found[6] * from.x + found[7] * from.y + 1)
  if (horizon.some((w) => w <= 0)) throw new JourneyError(CONTRADICTION)
  return found
}

function linearised([a, b, c, d, e, f, g, h]: readonly number[], matches: readonly Match[]) {
  const rows: number[][] = []
  const residuals: number[] = []
  for (const { from, to } of matches) {
    const { x, y } = from
    const w = g! * x + h! * y + 1
    const px = (a! * x + b! * y + c!) / w
    const py = (d! * x + e! * y + f!) / w
    rows.push([x / w, y / w, 1 / w, 0, 0, 0, (-px * x) / w, (-px * y) / w], [0, 0, 0, x / w, y / w, 1 / w, (-py * x) / w, (-py * y) / w])
    residuals.push(to.x - px, to.y - py)
  }
  return { jacobian: new Matrix(rows), residuals: Matrix.columnVector(residuals) }
}

function sumOfSquares(map: Homography, matches: readonly Match[]): number {
  return matches.reduce((sum, { from, to }) => {
    const p = transformed(map, from)
    return p ? sum + (p.x - to.x) ** 2 + (p.y - to.y) ** 2 : Infinity
  }, 0)
}
