import { clamp } from '../geometry/clamp'
import type { Likeness } from './centre-line'
import type { Rgb } from '../colour/srgb'
import type { OkLab } from '../colour/oklab'
import { colourDistance, okLab } from '../colour/oklab'

/** A rectangle of pixels of one level of an image: where it lies on that level, and how large it is. */
export interface PixelRect {
  x: number
  y: number
  width: number
  height: number
}

/** Pixels as a canvas gives them: RGBA, row by row. */
export interface Pixels extends PixelRect {
  rgba: Uint8ClampedArray
}

/** How much each pixel looks like the road, 0..255, and the cost of a step onto it, 1..255; 0 cannot be entered. */
export interface RoadRaster extends PixelRect {
  likeness: Uint8Array
  cost: Uint8Array
}

/** At this distance in OKLab the likeness of a colour to the road's has fallen to 1/e. */
const SPREAD = 0.07

/** The number of upper bits of each channel by which colours are looked up. */
const BITS = 6

let shades: OkLab[] | undefined

/** All colours that differ in their upper bits, in ascending order of those bits; computed on first use. */
function allShades(): OkLab[] {
  const steps = 1 << BITS
  const middles = Array.from({ length: steps }, (_, i) => ((i + 0.5) * 256) / steps)
  return (shades ??= middles.flatMap((r) => middles.flatMap((g) => middles.map((b) => okLab([r, g, b])))))
}

/** How much every colour looks like a given one, 0..255, indexed by the upper bits of red, green and blue. */
export function likenessTable(colour: Rgb): Uint8Array {
  const target = okLab(colour)
  const all = allShades()
  const table = new Uint8Array(all.length)
  for (let i = 0; i < table.length; i++) table[i] = 255 * Math.exp(-((colourDistance(all[i]!, target) / SPREAD) ** 2)) + 0.5
  return table
}

/** How much each pixel looks like the road, 0..255; transparent pixels are not road. */
export function likenessOf(rgba: Uint8ClampedArray, table: Uint8Array): Uint8Array {
  const shift = 8 - BITS
  const likeness = new Uint8Array(rgba.length / 4)
  for (let i = 0, k = 0; i < likeness.length; i++, k += 4) {
    if (rgba[k + 3]! < 128) continue
    likeness[i] = table[((rgba[k]! >> shift) << (2 * BITS)) | ((rgba[k + 1]! >> shift) << BITS) | (rgba[k + 2]! >> shift)]!
  }
  return likeness
}

/** A step along the road costs this much, one off it at least COST_OFF, so that even a long way round by road is better than a short cut. */
const COST_ON = 4
const COST_OFF = 130
/** Added where there is much of the colour all around, as in fields or snow: a road is narrow. */
const COST_BROAD = 60
/** Added on the edges of things; the middle of a road has none. */
const COST_EDGE = 40

/** Breadth is judged over squares that reach this many cells to either side; a road fills less than half of one. */
const CELL = 4
const CELLS_AROUND = 3

/** Computes the cost of each pixel for following a road of a colour. */
export function roadRaster({ rgba, ...rect }: Pixels, table: Uint8Array): RoadRaster {
  const { width, height } = rect
  const likeness = likenessOf(rgba, table)
  const columns = Math.ceil(width / CELL)
  const around = meanAround(likeness, width, height)
  const cost = new Uint8Array(likeness.length)
  for (let y = 0; y < height; y++) {
    const cells = Math.floor(y / CELL) * columns
    const isInside = y > 0 && y < height - 1
    for (let x = 0; x < width; x++) {
      const i = y * width + x
      const like = likeness[i]! / 255
      const broad = like > 0 ? clamp((around[cells + Math.floor(x / CELL)]! - 128) / 90, 0, 1) : 0
      // Green is most of what is seen as lightness, and near enough for finding edges.
      const green = 4 * i + 1
      const dx = x > 0 && x < width - 1 ? rgba[green + 4]! - rgba[green - 4]! : 0
      const dy = isInside ? rgba[green + 4 * width]! - rgba[green - 4 * width]! : 0
      const edge = Math.min(1, (Math.abs(dx) + Math.abs(dy)) / 200)
      cost[i] = COST_ON + (COST_OFF - COST_ON) * (1 - like) + COST_BROAD * broad * like + COST_EDGE * edge
    }
  }
  return { ...rect, likeness, cost }
}

/** For each cell of pixels the mean over the square of cells around it; what lies beyond the border counts as nothing. */
function meanAround(likeness: Uint8Array, width: number, height: number): Float32Array {
  const [columns, rows] = [Math.ceil(width / CELL), Math.ceil(height / CELL)]
  // Sums over all cells above and to the left: a square's sum is read off its corners. Source: F. Crow, Summed-area tables for texture mapping (1984).
  const sums = new Float64Array((columns + 1) * (rows + 1))
  for (let y = 0; y < height; y++) {
    const row = (Math.floor(y / CELL) + 1) * (columns + 1) + 1
    for (let x = 0; x < width; x++) sums[row + Math.floor(x / CELL)]! += likeness[y * width + x]!
  }
  for (let i = columns + 1; i < sums.length; i++) {
    const isFirst = i % (columns + 1) === 0
    if (!isFirst) sums[i]! += sums[i - 1]! + sums[i - columns - 1]! - sums[i - columns - 2]!
  }
  const area = ((2 * CELLS_AROUND + 1) * CELL) ** 2
  const means = new Float32Array(columns * rows)
  for (let row = 0; row < rows; row++) {
    const top = Math.max(0, row - CELLS_AROUND) * (columns + 1)
    const bottom = Math.min(rows, row + CELLS_AROUND + 1) * (columns + 1)
    for (let column = 0; column < columns; column++) {
      const left = Math.max(0, column - CELLS_AROUND)
      const right = Math.min(columns, column + CELLS_AROUND + 1)
      means[row * columns + column] = (sums[bottom + right]! - sums[bottom + left]! - sums[top + right]! + sums[top + left]!) / area
    }
  }
  return means
}

/** Added to every step where a way is to be direct: with it a step off the road costs about twice one on it, and no more thirty times as much. */
const COST_DIRECT = 100

/** The same raster for a way that rather leaves the road than goes far round. */
export const forDirectWay = (raster: RoadRaster): RoadRaster => ({
  ...raster,
  cost: raster.cost.map((cost) => (cost === 0 ? 0 : Math.min(255, cost + COST_DIRECT))),
})

/** A coarser raster: each cell of `factor` by `factor` pixels costs as much as its cheapest one, so that narrow roads are not lost. */
export function pooledCost({ width, height, cost }: RoadRaster, factor: number): { width: number; height: number; cost: Uint8Array } {
  const [columns, rows] = [Math.ceil(width / factor), Math.ceil(height / factor)]
  const pooled = new Uint8Array(columns * rows)
  for (let y = 0; y < height; y++) {
    const row = Math.floor(y / factor) * columns
    for (let x = 0; x < width; x++) {
      const cell = row + Math.floor(x / factor)
      const value = cost[y * width + x]!
      if (value > 0 && (pooled[cell] === 0 || value < pooled[cell]!)) pooled[cell] = value
    }
  }
  return { width: columns, height: rows, cost: pooled }
}

/** Likeness between the pixels of a raster, by bilinear interpolation; none beyond them. */
export function likenessIn({ x: left, y: top, width, height, likeness }: Omit<RoadRaster, 'cost'>): Likeness {
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
