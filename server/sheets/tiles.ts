import { existsSync } from 'node:fs'
import sharp from 'sharp'
import type { TileAddress } from '#core/sheet/pyramid'
import { hasTile, tileSize } from '#core/sheet/pyramid'
import type { TiledImage } from '#draw/studio'
import { mapDataMade } from '../maps/data'
import { imagePath, tilesPath } from '../storage/image-files'
import { cutTilesAgain } from './import-sheet'
import { partOfCoarser } from './coarser'
import { blockSide } from './job'
import { drawingLine } from './drawing-line'
import { encodeTile } from './pyramid'
import type { TileFile } from './tile-file'
import { isDamage, openTileFile } from './tile-file'

type Image = TiledImage

export const hasTiles = (folder: string, image: string): boolean => existsSync(tilesPath(folder, image))

/** Blocks being drawn, so that all tiles of one share the wait. */
const drawing = new Map<string, Promise<unknown>>()

/** Damaged tile files that are being made again. */
const healing = new Map<string, Promise<void>>()

/**
 * A tile of an image, PNG or WebP; undefined if it is empty or outside the image. Tiles of vector images are drawn on demand; a damaged tile file is
 * made again from the original.
 */
export async function readTile(folder: string, image: Image, tile: TileAddress): Promise<Buffer | undefined> {
  if (!hasTile(image, tile)) return undefined
  try {
    return await readFromFile(folder, image, tile)
  } catch (error) {
    if (!isDamage(error)) throw error
    const key = tilesPath(folder, image.image)
    const mended = healing.get(key) ?? cutTilesAgain(folder, image.image).finally(() => healing.delete(key))
    healing.set(key, mended)
    await mended
    return readFromFile(folder, image, tile)
  }
}

/** A tile that is not there, as the next coarser one shows it. */
async function fromCoarser(file: TileFile, image: Image, tile: TileAddress): Promise<Buffer | undefined> {
  const pixels = await partOfCoarser(file, image, tile)
  return pixels && encodeTile(sharp(pixels, { raw: { ...tileSize(image, tile), channels: 4 } }), 'webp')
}

async function readFromFile(folder: string, image: Image, tile: TileAddress): Promise<Buffer | undefined> {
  const path = tilesPath(folder, image.image)
  const file = openTileFile(path)
  const isMap = image.vector && file.isMap()
  const pen = isMap ? (image.pen ?? 0) : 0
  const find = (from: TileFile) => (isMap ? from.getDrawn(pen, tile) : from.get(tile))
  const found = find(file)
  if (found) return found
  if (!image.vector) return file.isSparse() ? fromCoarser(file, image, tile) : undefined
  if (isMap) await mapDataMade()
  const side = blockSide(isMap)
  const key = [image.image, pen, tile.level, Math.floor(tile.column / side), Math.floor(tile.row / side)].join()
  const { width, height } = image
  const job =
    drawing.get(key) ??
    drawingLine
      .do({ do: 'draw', tiles: path, original: imagePath(folder, image.image), width, height, pen, ...tile }, tile.level)
      .finally(() => drawing.delete(key))
  drawing.set(key, job)
  await job
  return find(openTileFile(path))
}
