import type { OverlayOptions } from 'sharp'
import sharp from 'sharp'
import { clamp } from '#core/geometry/clamp'
import type { Size } from '#core/geometry/size'
import { emptyPicture } from '../sheets/pyramid'
import { TILE_PIXELS } from './tile-source'

/** A tile of a service as a file, and where its upper left corner lies in the picture. */
export interface LaidTile {
  body: Buffer
  x: number
  y: number
}

/**
 * Puts a picture together of tiles, all of one side; those that are damaged are left out.
 * @param under what lies under them, of the picture's size
 */
export async function composed({ width, height }: Size, side: number, laid: readonly LaidTile[], under?: Buffer): Promise<Buffer> {
  const parts = await Promise.all(laid.map((tile) => part(tile, side, { width, height }).catch(() => undefined)))
  const overlays = [
    ...(under ? [{ input: under, raw: { width, height, channels: 4 as const }, left: 0, top: 0 }] : []),
    ...parts.filter((one) => one !== undefined),
  ]
  return sharp(emptyPicture(width, height)).composite(overlays).raw().toBuffer()
}

/** The part of a tile that lies within the picture, as raw pixels. */
async function part({ body, x, y }: LaidTile, side: number, size: Size): Promise<OverlayOptions> {
  const [left, top] = [clamp(-x, 0, side), clamp(-y, 0, side)]
  const [right, bottom] = [clamp(size.width - x, 0, side), clamp(size.height - y, 0, side)]
  const { data, info } = await sharp(body, { limitInputPixels: TILE_PIXELS, failOn: 'truncated' })
    .resize(side, side, { fit: 'fill' })
    .toColourspace('srgb')
    .ensureAlpha()
    .extract({ left, top, width: right - left, height: bottom - top })
    .raw()
    .toBuffer({ resolveWithObject: true })
  return { input: data, raw: { width: info.width, height: info.height, channels: 4 }, left: Math.max(0, x), top: Math.max(0, y) }
}
