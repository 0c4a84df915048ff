import { existsSync } from 'node:fs'
import type { Sheet } from '#core/journey/schema'
import type { TileAddress } from '#core/sheet/pyramid'
import { hasTile } from '#core/sheet/pyramid'
import { imagePath, tilesPath } from '../storage/image-files'
import { drawInProcess } from './reader'
import { openTileFile } from './tile-file'
import { BLOCK } from './vector-tiles'

type Image = Pick<Sheet, 'image' | 'width' | 'height' | 'vector'>

export const hasTiles = (folder: string, image: string): boolean => existsSync(tilesPath(folder, image))

/** Blocks being drawn, so that all tiles of one share the wait. */
const drawing = new Map<string, Promise<void>>()

/** A tile of an image, PNG or WebP; undefined if it is empty or outside the image. Tiles of vector images are drawn on demand. */
export async function readTile(folder: string, image: Image, tile: TileAddress): Promise<Buffer | undefined> {
  if (!hasTile(image, tile)) return undefined
  const path = tilesPath(folder, image.image)
  const found = openTileFile(path).get(tile)
  if (found || !image.vector) return found
  const key = [image.image, tile.level, Math.floor(tile.column / BLOCK), Math.floor(tile.row / BLOCK)].join()
  const { width, height } = image
  const job =
    drawing.get(key) ??
    drawInProcess({ tiles: path, original: imagePath(folder, image.image), width, height, ...tile }).finally(() => drawing.delete(key))
  drawing.set(key, job)
  await job
  return openTileFile(path).get(tile)
}
