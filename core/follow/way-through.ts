import type { Size } from '../camera/view'
import type { Point } from '../geometry/point'
import type { Likeness } from './centre-line'
import { centred, MOST_WIDTH, ON_ROAD, resampled, roadWidth, smoothedLine } from './centre-line'
import { leastCostPath } from './least-cost'
import type { PixelRect, RoadRaster } from './raster'
import { likenessIn, pooledCost } from './raster'

/** Cells of the coarse search are so many pixels wide, and the fine one looks so many cells to either side of what that found. */
const POOL = 4
const CORRIDOR = 2

/** What may interrupt a road: a bridge, a name written over it; in its own widths, and within these bounds in pixels of the level. */
const GAP_WIDTHS = 10
const LEAST_GAP = 20
const MOST_GAP = 60

/** How far the spots may lie beside the road. */
const LEAST_LEAD = 24

/** A way that was found, in pixels of a level, a point to the pixel; and what is to be said of it. */
export interface Line {
  points: Point[]
  width: number
  /** Share of its length on the road. */
  share: number
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
    points.push(...fineWay(raster, coarse.width, cells, spots[i - 1]!, spots[i]!).slice(1))
  }
  const like = likenessIn(raster)
  const rough = smoothedLine(resampled(points, 1), 2)
  const width = roadWidth(rough, like, MOST_WIDTH)
  const reach = Math.max(1.5, Math.min(width, MOST_WIDTH / 2))
  const line = smoothedLine(centred(rough, like, reach), Math.max(2, Math.round(width / 2)))
  const on = line.map((p) => isOn(like, p))
  const share = on.filter(Boolean).length / on.length
  let alike = 0
  for (let i = 0; i < raster.likeness.length; i++) if (raster.likeness[i]! >= ON_ROAD) alike++
  return { points: line, width, share, on, score: share - 2 * (alike / raster.likeness.length) }
}

function cellOf(grid: Size, { x, y }: PixelRect, p: Point, factor: number): number {
  const column = Math.min(grid.width - 1, Math.max(0, Math.floor((p.x - x) / factor)))
  const row = Math.min(grid.height - 1, Math.max(0, Math.floor((p.y - y) / factor)))
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

/** Whether a spot lies on the road, or beside it by less than a pixel. */
const isOn = (like: Likeness, { x, y }: Point): boolean =>
  Math.max(like(x, y), like(x - 1, y), like(x + 1, y), like(x, y - 1), like(x, y + 1)) >= ON_ROAD

/** What speaks against a line being a road: where it leaves the road for too long. */
export function faultOf({ points, on, width, share }: Line, least: number): { length: number; at: Point } | undefined {
  const gap = Math.min(MOST_GAP, Math.max(LEAST_GAP, GAP_WIDTHS * width))
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
