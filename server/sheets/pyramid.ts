import { readdirSync, readFileSync } from 'node:fs'
import { rm } from 'node:fs/promises'
import { join } from 'node:path'
import type { Sharp, SharpOptions } from 'sharp'
import sharp from 'sharp'
import type { Size } from '#core/geometry/size'
import type { TileAddress } from '#core/sheet/pyramid'
import { coarsestLevel, TILE, tileGrid, tileSize } from '#core/sheet/pyramid'
import type { TileFile } from './tile-file'

/** How tiles are stored: PNG for lossless sources, WebP for lossy ones. */
export type TileFormat = 'png' | 'webp'

/** The most pixels of a picture stored without loss; larger ones would take up gigabytes. */
const MOST_LOSSLESS = 120_000_000

export const tileFormatFor = (size: Size, isLossless: boolean): TileFormat =>
  isLossless && size.width * size.height <= MOST_LOSSLESS ? 'png' : 'webp'

const encoded = (picture: Sharp, format: TileFormat): Sharp =>
  format === 'png' ? picture.png({ compressionLevel: 2 }) : picture.webp({ quality: 92, effort: 1 })

/**
 * Cuts a picture into the tiles of all its levels in one pass, in bounded memory however large it is.
 * @param scratch path of a folder to work in; it is deleted afterwards
 * @param onProgress called with the share of the work done, 0..1
 */
export async function cutTiles(
  picture: Sharp,
  size: Size,
  format: TileFormat,
  file: TileFile,
  scratch: string,
  onProgress: (share: number) => void,
) {
  const levels = Array.from({ length: coarsestLevel(size) + 1 }, (_, level) => ({ level, ...tileGrid(size, level) }))
  const total = levels.reduce((sum, { columns, rows }) => sum + columns * rows, 0)
  const watch = setInterval(() => onProgress((0.9 * countTiles(`${scratch}_files`)) / total), 250)
  try {
    await encoded(picture, format).tile({ size: TILE, overlap: 0, depth: 'onetile', layout: 'dz', skipBlanks: -1 }).toFile(`${scratch}.dz`)
    clearInterval(watch)
    const coarsest = coarsestLevel(size)
    let stored = 0
    for (const { level, columns, rows } of levels) {
      // libvips numbers the levels from the coarsest.
      const folder = join(`${scratch}_files`, String(coarsest - level))
      for (let row = 0; row < rows; row++) {
        file.inTransaction(() => {
          for (let column = 0; column < columns; column++)
            file.put({ level, column, row }, readFileSync(join(folder, `${column}_${row}.${format}`)))
        })
        stored += columns
        onProgress(0.9 + (0.1 * stored) / total)
      }
    }
  } finally {
    clearInterval(watch)
    await rm(`${scratch}_files`, { recursive: true, force: true })
    await rm(`${scratch}.dzi`, { force: true })
  }
}

function countTiles(folder: string): number {
  try {
    return readdirSync(folder, { withFileTypes: true }).reduce(
      (sum, entry) => sum + (entry.isDirectory() ? readdirSync(join(folder, entry.name)).length : 0),
      0,
    )
  } catch {
    // Not there yet.
    return 0
  }
}

/**
 * Makes the coarser levels from a file's finer ones, each tile from four.
 * @param onProgress called with the share of the work done, 0..1
 * @param from the finest level that is made
 */
export async function buildUpperLevels(
  file: TileFile,
  size: Size,
  format: TileFormat,
  onProgress: (share: number) => void,
  from = 1,
): Promise<void> {
  const coarsest = coarsestLevel(size)
  const grids = Array.from({ length: coarsest - from + 1 }, (_, k) => ({ level: from + k, ...tileGrid(size, from + k) }))
  const total = grids.reduce((sum, { columns, rows }) => sum + columns * rows, 0)
  let done = 0
  for (const { level, columns, rows } of grids) {
    for (let row = 0; row < rows; row++) {
      for (let column = 0; column < columns; column++) {
        const tile = { level, column, row }
        const data = await fromFour(file, size, tile, format)
        if (data) file.put(tile, data)
        onProgress(++done / total)
      }
    }
  }
}

async function fromFour(file: TileFile, size: Size, tile: TileAddress, format: TileFormat): Promise<Buffer | undefined> {
  const children = [0, 1].flatMap((down) =>
    [0, 1].flatMap((right) => {
      const data = file.get({ level: tile.level - 1, column: 2 * tile.column + right, row: 2 * tile.row + down })
      return data ? [{ input: data, left: right * TILE, top: down * TILE }] : []
    }),
  )
  if (children.length === 0) return undefined
  const { width, height } = tileSize(size, tile)
  const whole = await sharp(emptyPicture(2 * width, 2 * height))
    .composite(children)
    .raw()
    .toBuffer({ resolveWithObject: true })
  return encoded(sharp(whole.data, { raw: whole.info }).resize(width, height, { fit: 'fill' }), format).toBuffer()
}

/** Options for an empty, transparent picture. */
export const emptyPicture = (width: number, height: number): SharpOptions => ({
  create: { width, height, channels: 4, background: { r: 0, g: 0, b: 0, alpha: 0 } },
})

export const encodeTile = (picture: Sharp, format: TileFormat): Promise<Buffer> => encoded(picture, format).toBuffer()
