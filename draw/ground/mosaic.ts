import type { Mosaic } from '#core/sheet/mosaic'
import { cellsOf } from '#core/sheet/mosaic'
import type { TileAddress } from '#core/sheet/pyramid'
import { TILE } from '#core/sheet/pyramid'
import type { SheetPicture, Studio, Surface } from '../studio'

/** A mosaic and the surface that it has been drawn on. */
export function pictureOf(mosaic: Mosaic, { image }: Surface): SheetPicture {
  const step = 2 ** mosaic.level
  return {
    image,
    pixels: { width: mosaic.width, height: mosaic.height },
    step,
    x: mosaic.left * step,
    y: mosaic.top * step,
    width: mosaic.width * step,
    height: mosaic.height * step,
  }
}

/**
 * Draws a mosaic from its tiles, pixel by pixel, so that no seams show; beyond a mirrored sheet's edges the tiles are flipped.
 * @param picture gives the picture of a tile: an image of the tile's size, or one of any size that is to be stretched to it
 */
export function layMosaic(studio: Studio, mosaic: Mosaic, picture: (tile: TileAddress) => TilePicture | undefined): Surface {
  const surface = studio.createSurface(mosaic.width, mosaic.height)
  const { context } = surface
  const columns = cellsOf({ low: mosaic.left, high: mosaic.left + mosaic.width }, mosaic.part.left, mosaic.part.width)
  const rows = cellsOf({ low: mosaic.top, high: mosaic.top + mosaic.height }, mosaic.part.top, mosaic.part.height)
  for (const tile of mosaic.tiles) {
    const found = picture(tile)
    if (!found) continue
    for (const x of columns) {
      for (const y of rows) {
        context.save()
        context.beginPath()
        context.rect(x.from - mosaic.left, y.from - mosaic.top, x.to - x.from, y.to - y.from)
        context.clip()
        context.setTransform(x.mirrored ? -1 : 1, 0, 0, y.mirrored ? -1 : 1, x.shift - mosaic.left, y.shift - mosaic.top)
        const { source } = found
        context.drawImage(
          found.image,
          source.x,
          source.y,
          source.width,
          source.height,
          tile.column * TILE,
          tile.row * TILE,
          found.width,
          found.height,
        )
        context.restore()
      }
    }
  }
  return surface
}

/** The picture used for a tile: a part of an image, and its size in pixels of the tile's level. */
export interface TilePicture {
  image: CanvasImageSource
  source: { x: number; y: number; width: number; height: number }
  width: number
  height: number
}

/** A tile as it is. */
export const wholeTile = (image: CanvasImageSource, size: { width: number; height: number }): TilePicture => ({
  image,
  source: { x: 0, y: 0, ...size },
  ...size,
})
