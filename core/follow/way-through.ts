import { append } from '../geometry/extremes'
import { clamp } from '../geometry/clamp'
import type { Size } from '../geometry/size'
import type { Point } from '../geometry/point'
import { centred, isOn, MOST_WIDTH, ON_ROAD, resampled, roadWidth, smoothedLine, throughJunctions, tidied } from './centre-line'
import { leastCostPath } from './least-cost'
import type { PixelRect, RoadRaster } from './raster'
import { likenessIn, pooledCost } from './raster'

/** Width of the cells of the coarse search in pixels, and how many cells to either side of its result the fine search covers. */
const POOL = 4
const CORRIDOR = 2

/** The longest interruption of a road, such as a bridge or a name written over it: in widths of the road, and within these bounds in pixels of the level. */
const GAP_WIDTHS = 10
const LEAST_GAP = 20
const MOST_GAP = 60

/** The longest stretch of a line between two on the road, where no road is seen, in points. */
export function longestGap({ on }: Line): number {
  let longest = 0
  let last = on.indexOf(true)
  on.forEach((isOn, i) => {
    if (!isOn || last === -1) return
    longest = Math.max(longest, i - last - 1)
    last = i
  })
  return longest
}

/** How far the spots may lie beside the road, or the road be hidden under a mark at them, in pixels of the level. */
const LEAST_LEAD = 40

/** A way that was found, with one point per pixel of a level, and how good it is. */
export interface Line {
  points: Point[]
  width: number
  /** Share of the length on the road, and the same with interruptions counted as road that are no longer than the gaps of a dashed one. */
  share: number
  bridged: number
  /** Whether each point lies on the road. */
  on: boolean[]
  /** Grows with the share on the road, and the rarer the colour is elsewhere. */
  score: number
}

/** The way through some spots of a raster, whose cells can all be entered. */
export function lineThrough(raster: RoadRaster, spots: readonly Point[]): Line {
  const coarse = pooledCost(raster, POOL)
  const points: Point[] = [spots[0]!]
  for (let i = 1; i < spots.length; i++) {
    const cells = leastCostPath(coarse, cellOf(coarse, raster, spots[i - 1]!, POOL), cellOf(coarse, raster, spots[i]!, POOL))!
    append(points, fineWay(raster, coarse.width, cells, spots[i - 1]!, spots[i]!).slice(1))
  }
  const like = likenessIn(raster)
  const rough = smoothedLine(resampled(points, 1), 2)
  const width = roadWidth(rough, like, MOST_WIDTH)
  const reach = Math.max(1.5, Math.min(width, MOST_WIDTH / 2))
  const line = smoothedLine(
    tidied(throughJunctions(centred(rough, like, reach), like, width), like, width),
    Math.max(2, Math.round(width / 2)),
  )
  const on = line.map((p) => isOn(like, p))
  const share = on.filter(Boolean).length / on.length
  const bridged = bridgedOver(on, LEAST_GAP).filter(Boolean).length / on.length
  let alike = 0
  for (let i = 0; i < raster.likeness.length; i++) if (raster.likeness[i]! >= ON_ROAD) alike++
  return { points: line, width, share, bridged, on, score: share - 2 * (alike / raster.likeness.length) }
}

function cellOf(grid: Size, { x, y }: PixelRect, p: Point, factor: number): number {
  const column = clamp(Math.floor((p.x - x) / factor), 0, grid.width - 1)
  const row = clamp(Math.floor((p.y - y) / factor), 0, grid.height - 1)
  return row * grid.width + column
}

/** The cheapest way pixel by pixel within the corridor round a way over coarse cells. */
function fineWay(raster: RoadRaster, columns: number, cells: readonly number[], a: Point, b: Point): Point[] {
  const xs = cells.map((cell) => cell % columns)
  const ys = cells.map((cell) => Math.floor(cell / columns))
  const [[west, east], [north, south]] = [extent(xs), extent(ys)]
  const left = Math.max(0, (west - CORRIDOR) * POOL)
  const top = Math.max(0, (north - CORRIDOR) * POOL)
  const width = Math.min(raster.width, (east + CORRIDOR + 1) * POOL) - left
  const height = Math.min(raster.height, (south + CORRIDOR + 1) * POOL) - top
  const cost = new Uint8Array(width * height)
  cells.forEach((_, i) => {
    const x0 = Math.max(0, (xs[i]! - CORRIDOR) * POOL - left)
    const x1 = Math.min(width, (xs[i]! + CORRIDOR + 1) * POOL - left)
    for (let y = Math.max(0, (ys[i]! - CORRIDOR) * POOL - top); y < Math.min(height, (ys[i]! + CORRIDOR + 1) * POOL - top); y++) {
      const from = (y + top) * raster.width + left
      cost.set(raster.cost.subarray(from + x0, from + x1), y * width + x0)
    }
  })
  const grid = { width, height, cost }
  const origin = { x: raster.x + left, y: raster.y + top, width, height }
  const path = leastCostPath(grid, cellOf(grid, origin, a, 1), cellOf(grid, origin, b, 1))!
  const points = path.map((i) => ({ x: origin.x + (i % width) + 0.5, y: origin.y + Math.floor(i / width) + 0.5 }))
  return [a, ...points.slice(1, -1), b]
}

const extent = (values: readonly number[]): [number, number] =>
  values.reduce<[number, number]>(([low, high], v) => [Math.min(low, v), Math.max(high, v)], [Infinity, -Infinity])

/** Which points are on the road, or in an interruption shorter than a number of points. */
function bridgedOver(on: readonly boolean[], length: number): boolean[] {
  const bridged = [...on]
  let last = -Infinity
  on.forEach((isOn, i) => {
    if (!isOn) return
    if (i - last <= length) bridged.fill(true, last, i)
    last = i
  })
  return bridged
}

/**
 * Why a line is not accepted as a road: it leaves the road for too long, or too little of it is on one.
 * @param isSure whether the colour is known to be the road's, so that its patches are dashes and not chance
 */
export function faultOf({ points, on, width, ...line }: Line, least: number, isSure: boolean): { length: number; at: Point } | undefined {
  const share = isSure ? line.bridged : line.share
  const gap = clamp(GAP_WIDTHS * width, LEAST_GAP, MOST_GAP)
  const lead = Math.max(LEAST_LEAD, gap)
  let from = 0
  let worst: { length: number; at: Point } | undefined
  for (let i = 0; i <= points.length; i++) {
    if (i < points.length && !on[i]) continue
    const length = i - from
    const isEnd = from === 0 || i === points.length
    if (length > (isEnd ? lead : gap) && length > (worst?.length ?? 0)) worst = { length, at: points[from + (length >> 1)]! }
    from = i + 1
  }
  return worst ?? (share < least ? { length: points.length * (1 - share), at: points[points.length >> 1]! } : undefined)
}
