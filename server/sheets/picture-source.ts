import sharp from 'sharp'
import type { PictureSource } from '#core/follow/picture'
import { tiledSource } from '#core/follow/tiled-source'
import type { Sheet } from '#core/journey/schema'
import { readTile } from './tiles'

/** The picture of a sheet whose tiles are in a data folder, to be read part by part. */
export const pictureSource = (folder: string, image: Pick<Sheet, 'image' | 'width' | 'height' | 'vector'>): PictureSource =>
  tiledSource(image, async (tile) => {
    const data = await readTile(folder, image, tile)
    return data && new Uint8ClampedArray(await sharp(data).ensureAlpha().raw().toBuffer())
  })
