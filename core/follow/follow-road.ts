import type { Size } from '../camera/view'
import type { Cubic } from '../geometry/cubic'
import { fitStroke } from '../geometry/fit-stroke'
import type { Point } from '../geometry/point'
import { centred, ON_ROAD, resampled, roadWidth, smoothedLine } from './centre-line'
import type { Likeness } from './centre-line'
import { leastCostPath } from './least-cost'
import { coarsestLevel } from '../sheet/pyramid'
import type { Rgb } from './oklab'
import type { PixelRect, Pixels, RoadRaster } from './raster'
import { likenessOf, likenessTable, pooledCost, roadRaster } from './raster'
import { roadColours } from './road-colour'

/** An image whose levels can be read part by part; a pixel of level k is 2^k of its pixels wide. */
export interface PictureSource extends Size {
  /** The pixels of a rectangle of a level, all of it within the image. */
  read(level: number, rect: PixelRect): Promise<Pixels>
}

export interface FollowRequest {
  /** From the start over the spots that the road is to pass to the end, in pixels of the image; at least two. */
  through: readonly Point[]
  /** Colour of the road; null to have it found near these spots. */
  colour: Rgb | null
}

export type Followed =
  | {
      found: true
      /** From the first spot to the last, in pixels of the image. */
      course: Cubic[]
      colour: Rgb
      /** Share of its length that lies on the road, 0..1. */
      onRoad: number
      /** Width of the road in pixels of the image. */
      width: number
    }
  | {
      found: false
      colour: Rgb | null
      /** Why not, in one sentence. */
      reason: string
      /** Where the way is interrupted, in pixels of the image. */
      at: Point | null
    }

/** As many pixels are looked at in the first go. */
const MOST_PIXELS = 3_000_000

/** Cells of the coarse search are so many pixels wide, and the fine one looks so many cells to either side of what that found. */
const POOL = 4
const CORRIDOR = 2

/** Roads wider than this are no longer roads; in pixels of the level that is looked at. */
const MOST_WIDTH = 64

/** At levels where the road is this wide or more, its middle is found well enough. */
const SURE_WIDTH = 6

/** What may interrupt a road: a bridge, a name written over it; in its own widths, and within these bounds in pixels of the level. */
const GAP_WIDTHS = 10
const LEAST_GAP = 20
const MOST_GAP = 60

/** How much of the way must be road: more where the colour was only guessed, as there is always some way along something. */
const SHARE = { chosen: 0.7, guessed: 0.93 } as const

/** How far the spots may lie beside the road. */
const LEAST_LEAD = 24

/**
 * Finds the road that is to be seen in a picture between two spots: the least-cost path over likeness to its colour, narrowness and edges, first on
 * coarse cells, then in a corridor round what that found; then moved to the road's middle, at finer levels too, and fitted with smooth nodes.
 * @param onProgress told the share that is done, 0..1
 */
export async function followRoad(source: PictureSource, request: FollowRequest, onProgress: (share: number) => void): Promise<Followed> {
  const { through } = request
  const region = regionAround(source, through)
  const wanted = Math.ceil(Math.log2(Math.sqrt((region.width * region.height) / MOST_PIXELS)))
  const level = Math.min(coarsestLevel(source), Math.max(0, wanted))
  const pixels = await source.read(level, onLevel(source, region, level))
  onProgress(0.3)
  const colours = request.colour ? [request.colour] : await likelyColours(source, region, level, pixels, through)
  onProgress(0.6)
  const scale = 2 ** level
  const least = request.colour ? SHARE.chosen : SHARE.guessed
  let failure: Followed = { found: false, colour: null, reason: 'No colour of a road is found at both spots.', at: null }
  for (const colour of colours) {
    const line = lineThrough(roadRaster(pixels, likenessTable(colour)), spotsAt(through, level))
    const fault = faultOf(line, least)
    if (!fault) {
      const course = await refined(source, level, line, colour, onProgress)
      onProgress(1)
      return { found: true, course, colour, onRoad: line.share, width: line.width * scale }
    }
    if (failure.colour) continue
    const isHopeless = line.width === 0 || line.share < least / 2
    const reason = isHopeless
      ? 'There is no road of this colour between these spots.'
      : `The road is lost for ${Math.round(fault.length * scale)} px of the sheet.`
    failure = { found: false, colour, reason, at: { x: fault.at.x * scale, y: fault.at.y * scale } }
  }
  return failure
}

const spotsAt = (points: readonly Point[], level: number): Point[] => points.map(({ x, y }) => ({ x: x / 2 ** level, y: y / 2 ** level }))

/** So many of the colours that a road might have are tried in earnest. */
const MOST_TRIED = 3

/** Of the colours near all the spots those by which there are the best ways through them, seen from a level further off, where there is one. */
async function likelyColours(
  source: PictureSource,
  region: PixelRect,
  level: number,
  pixels: Pixels,
  through: readonly Point[],
): Promise<Rgb[]> {
  const candidates = roadColours(pixels, spotsAt(through, level))
  // Small images have no coarser level, and need none.
  const coarser = Math.min(level + 1, Math.max(level, coarsestLevel(source)))
  const coarse = coarser === level ? pixels : await source.read(coarser, onLevel(source, region, coarser))
  return candidates
    .map((colour) => ({ colour, score: lineThrough(roadRaster(coarse, likenessTable(colour)), spotsAt(through, coarser)).score }))
    .sort((a, b) => b.score - a.score)
    .slice(0, MOST_TRIED)
    .map(({ colour }) => colour)
}

/** The colour of a picture at a spot, in its pixels; held within it. */
export async function colourAt(source: PictureSource, { x, y }: Point): Promise<Rgb> {
  const held = (value: number, most: number) => Math.min(most - 1, Math.max(0, Math.floor(value)))
  const { rgba } = await source.read(0, { x: held(x, source.width), y: held(y, source.height), width: 1, height: 1 })
  return [rgba[0]!, rgba[1]!, rgba[2]!]
}

/** The part of an image in which a road between some spots may wind about. */
function regionAround({ width, height }: Size, spots: readonly Point[]): PixelRect {
  const [xs, ys] = [spots.map((p) => p.x), spots.map((p) => p.y)]
  const pad = 200 + 0.5 * Math.max(Math.max(...xs) - Math.min(...xs), Math.max(...ys) - Math.min(...ys))
  const x = Math.max(0, Math.floor(Math.min(...xs) - pad))
  const y = Math.max(0, Math.floor(Math.min(...ys) - pad))
  return {
    x,
    y,
    width: Math.min(width, Math.ceil(Math.max(...xs) + pad)) - x,
    height: Math.min(height, Math.ceil(Math.max(...ys) + pad)) - y,
  }
}

function onLevel(size: Size, { x, y, width, height }: PixelRect, level: number): PixelRect {
  const k = 2 ** level
  const [left, top] = [Math.floor(x / k), Math.floor(y / k)]
  return {
    x: left,
    y: top,
    width: Math.min(Math.ceil((x + width) / k), Math.ceil(size.width / k)) - left,
    height: Math.min(Math.ceil((y + height) / k), Math.ceil(size.height / k)) - top,
  }
}

/** A way that was found, in pixels of a level, a point to the pixel; and what is to be said of it. */
interface Line {
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
function lineThrough(raster: RoadRaster, spots: readonly Point[]): Line {
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

/** Likeness between the pixels of a raster, by bilinear interpolation; none beyond them. */
function likenessIn({ x: left, y: top, width, height, likeness }: Omit<RoadRaster, 'cost'>): Likeness {
  return (x, y) => {
    const [px, py] = [x - left - 0.5, y - top - 0.5]
    const [i, j] = [Math.floor(px), Math.floor(py)]
    if (i < 0 || j < 0 || i >= width - 1 || j >= height - 1) return 0
    const [u, v] = [px - i, py - j]
    const at = j * width + i
    const upper = likeness[at]! * (1 - u) + likeness[at + 1]! * u
    const lower = likeness[at + width]! * (1 - u) + likeness[at + width + 1]! * u
    return upper * (1 - v) + lower * v
  }
}

/** Whether a spot lies on the road, or beside it by less than a pixel. */
const isOn = (like: Likeness, { x, y }: Point): boolean =>
  Math.max(like(x, y), like(x - 1, y), like(x + 1, y), like(x, y - 1), like(x, y + 1)) >= ON_ROAD

/** What speaks against a line being a road: where it leaves the road for too long. */
function faultOf({ points, on, width, share }: Line, least: number): { length: number; at: Point } | undefined {
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

/** Blocks of a finer level that are read where a line passes. */
const BLOCK = 256

/** Moves a line to the middle of its road as finer levels show it, while the road is narrow, and fits it with smooth nodes. */
async function refined(
  source: PictureSource,
  level: number,
  found: Line,
  colour: Rgb,
  onProgress: (share: number) => void,
): Promise<Cubic[]> {
  const table = likenessTable(colour)
  let { points, width } = found
  let at = level
  while (at > 0 && width < SURE_WIDTH) {
    at--
    points = resampled(
      points.map(({ x, y }) => ({ x: 2 * x, y: 2 * y })),
      1,
    )
    width *= 2
    const like = await likenessAlong(source, at, points, table)
    points = smoothedLine(centred(points, like, Math.max(2, Math.min(width, MOST_WIDTH / 2))), Math.max(2, Math.round(width / 2)))
    onProgress(0.8 + (0.2 * (level - at)) / (level + 1))
  }
  const k = 2 ** at
  const tolerance = Math.max(0.6, 0.2 * Math.min(width, MOST_WIDTH)) * k
  return fitStroke(
    points.map(({ x, y }) => ({ x: x * k, y: y * k })),
    tolerance,
  )
}

async function likenessAlong(source: PictureSource, level: number, points: readonly Point[], table: Uint8Array): Promise<Likeness> {
  const whole = onLevel(source, { x: 0, y: 0, ...source }, level)
  const blocks = new Map<string, Likeness>()
  const key = (x: number, y: number) => `${Math.floor(x / BLOCK)} ${Math.floor(y / BLOCK)}`
  const read = async (x: number, y: number) => {
    const name = key(x, y)
    if (blocks.has(name) || x < 0 || y < 0 || x >= whole.width || y >= whole.height) return
    const left = Math.max(0, Math.floor(x / BLOCK) * BLOCK - 2)
    const top = Math.max(0, Math.floor(y / BLOCK) * BLOCK - 2)
    const size = BLOCK + 4
    const rect = { x: left, y: top, width: Math.min(size, whole.width - left), height: Math.min(size, whole.height - top) }
    const { rgba } = await source.read(level, rect)
    blocks.set(name, likenessIn({ ...rect, likeness: likenessOf(rgba, table) }))
  }
  for (const { x, y } of points) for (const dx of [-20, 0, 20]) for (const dy of [-20, 0, 20]) await read(x + dx, y + dy)
  return (x, y) => blocks.get(key(x, y))?.(x, y) ?? 0
}
