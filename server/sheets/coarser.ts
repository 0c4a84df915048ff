import sharp from 'sharp'
import type { Size } from '#core/geometry/size'
import type { TileAddress } from '#core/sheet/pyramid'
import { coarsestLevel, TILE, tileSize } from '#core/sheet/pyramid'
import type { TileFile } from './tile-file'

/** So many pixels round what is enlarged are enlarged with it, so that its edges fit those of its neighbours. */
const ROUND = 2

/**
 * What the next coarser tile that is there shows where a tile is missing, enlarged to the tile's size.
 * @returns raw pixels, RGBA; undefined if no coarser one is there
 */
export async function partOfCoarser(file: Pick<TileFile, 'get'>, image: Size, tile: TileAddress): Promise<Buffer | undefined> {
  const size = tileSize(image, tile)
  for (let level = tile.level + 1; level <= coarsestLevel(image); level++) {
    const step = 2 ** (level - tile.level)
    const over = { level, column: Math.floor(tile.column / step), row: Math.floor(tile.row / step) }
    const data = file.get(over)
    if (data) return enlarged(data, tileSize(image, over), { x: (tile.column * TILE) / step - over.column * TILE, y: (tile.row * TILE) / step - over.row * TILE, step }, size) // prettier-ignore
  }
  return undefined
}

/** A part of a tile, which begins at x, y and is to be so many times as large. */
async function enlarged(data: Buffer, whole: Size, { x, y, step }: { x: number; y: number; step: number }, size: Size): Promise<Buffer> {
  const left = Math.max(0, Math.floor(x) - ROUND)
  const top = Math.max(0, Math.floor(y) - ROUND)
  const right = Math.min(whole.width, Math.ceil(x + size.width / step) + ROUND)
  const bottom = Math.min(whole.height, Math.ceil(y + size.height / step) + ROUND)
  const [width, height] = [right - left, bottom - top]
  const grown = await sharp(data)
    .ensureAlpha()
    .extract({ left, top, width, height })
    .resize(width * step, height * step, { fit: 'fill', kernel: 'linear' })
    .raw()
    .toBuffer()
  const at = { left: Math.round((x - left) * step), top: Math.round((y - top) * step) }
  // At the edges of the image a coarser level may end a part of a pixel early.
  const fitting = { width: Math.min(size.width, width * step - at.left), height: Math.min(size.height, height * step - at.top) }
  const cut = sharp(grown, { raw: { width: width * step, height: height * step, channels: 4 } }).extract({ ...at, ...fitting })
  if (fitting.width === size.width && fitting.height === size.height) return cut.raw().toBuffer()
  return cut
    .extend({ right: size.width - fitting.width, bottom: size.height - fitting.height, extendWith: 'copy' })
    .raw()
    .toBuffer()
}
