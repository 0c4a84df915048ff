import type { Size } from '../geometry/size'

/**
 * Images are kept as pyramids of square tiles. A pixel of level k is 2^k pixels of the image wide; the coarsest level is one tile. Vector
 * images also have levels below 0, which are drawn when asked for.
 */
export const TILE = 512

/** The finest level of vector images: 1/32 of a nominal pixel; and of generated maps, of which only what is near is read: from the whole Earth to a street. */
const FINEST_VECTOR_LEVEL = -5
const FINEST_MAP_LEVEL = -12

/** An image that has tiles; a generated map has a pen, see `pen.ts`. */
interface Tiled extends Size {
  vector: boolean
  pen?: number
}

/** The longer side of a vector image in its nominal pixels. */
export const VECTOR_SIDE = 4096

export interface TileAddress {
  level: number
  column: number
  row: number
}

/** The level at which an image fits into one tile. */
export const coarsestLevel = ({ width, height }: Size): number => Math.max(0, Math.ceil(Math.log2(Math.max(width, height) / TILE)))

const finestLevel = ({ vector, pen }: Tiled): number => (pen !== undefined ? FINEST_MAP_LEVEL : vector ? FINEST_VECTOR_LEVEL : 0)

/** Size of a level in its pixels; the last column and row may reach beyond the image by a part of a pixel. */
export const levelSize = ({ width, height }: Size, level: number): Size => ({
  width: Math.ceil(width / 2 ** level),
  height: Math.ceil(height / 2 ** level),
})

/** The number of tiles of a level, in columns and rows. */
export function tileGrid(size: Size, level: number): { columns: number; rows: number } {
  const { width, height } = levelSize(size, level)
  return { columns: Math.ceil(width / TILE), rows: Math.ceil(height / TILE) }
}

/** Size of a tile in pixels: those at the right and lower edges are smaller. */
export function tileSize(size: Size, { level, column, row }: TileAddress): Size {
  const { width, height } = levelSize(size, level)
  return { width: Math.min(TILE, width - column * TILE), height: Math.min(TILE, height - row * TILE) }
}

/** Whether a tile is within the image. */
export function hasTile(image: Tiled, { level, column, row }: TileAddress): boolean {
  if (![level, column, row].every(Number.isInteger)) return false
  if (level < finestLevel(image) || level > coarsestLevel(image)) return false
  const { columns, rows } = tileGrid(image, level)
  return column >= 0 && row >= 0 && column < columns && row < rows
}

/** The coarsest level with at least one pixel per output pixel, given the `density` of image pixels per output pixel; the finest if there is none. */
export function levelFor(image: Tiled, density: number): number {
  const wanted = Math.floor(Math.log2(density) + 1e-9)
  return Math.min(coarsestLevel(image), Math.max(finestLevel(image), wanted))
}
