import sharp from 'sharp'
import { clamp } from '#core/geometry/clamp'
import type { Size } from '#core/geometry/size'
import { TILE_PIXELS } from './tile-source'

/** A tile of a service as a file, and where its upper left corner lies in the picture. */
export interface LaidTile {
  body: Buffer
  x: number
  y: number
}

/** Raw pixels: RGB where all of the picture is opaque, else RGBA. */
export interface Pixels extends Size {
  data: Buffer
  channels: 3 | 4
}

/**
 * Puts a picture together of tiles, all of one side; those that are damaged are left out.
 * @param under RGBA pixels of the picture's size, which show where no tile lies
 */
export async function composed({ width, height }: Size, side: number, laid: readonly LaidTile[], under?: Buffer): Promise<Pixels> {
  const parts = (await Promise.all(laid.map((tile) => decoded(tile, side).catch(() => undefined)))).filter((one) => one !== undefined)
  const covered = parts.reduce((sum, { x, y }) => sum + within(x, side, width).length * within(y, side, height).length, 0)
  const channels = covered === width * height && parts.every((part) => part.channels === 3) ? 3 : 4
  const data = under && channels === 4 ? Buffer.from(under) : Buffer.alloc(width * height * channels)
  for (const part of parts) copyInto(data, width, height, channels, part, side)
  return { data, width, height, channels }
}

/** The stretch of a tile that lies within a length, from where to where in the tile. */
function within(at: number, side: number, length: number): { from: number; to: number; length: number } {
  const [from, to] = [clamp(-at, 0, side), clamp(length - at, 0, side)]
  return { from, to, length: to - from }
}

interface Decoded {
  data: Buffer
  channels: number
  x: number
  y: number
}

async function decoded({ body, x, y }: LaidTile, side: number): Promise<Decoded> {
  const { data, info } = await sharp(body, { limitInputPixels: TILE_PIXELS, failOn: 'truncated' })
    .resize(side, side, { fit: 'fill' })
    .toColourspace('srgb')
    .raw()
    .toBuffer({ resolveWithObject: true })
  return { data, channels: info.channels, x, y }
}

function copyInto(out: Buffer, width: number, height: number, channels: 3 | 4, part: Decoded, side: number): void {
  const [across, down] = [within(part.x, side, width), within(part.y, side, height)]
  for (let row = down.from; row < down.to; row++) {
    const from = (row * side + across.from) * part.channels
    const to = ((part.y + row) * width + part.x + across.from) * channels
    if (part.channels === channels) part.data.copy(out, to, from, from + across.length * channels)
    else copyOpaque(part.data, from, out, to, across.length)
  }
}

/** RGB pixels into RGBA ones. */
function copyOpaque(from: Buffer, at: number, to: Buffer, out: number, count: number): void {
  for (let i = 0; i < count; i++, at += 3, out += 4) {
    to[out] = from[at]!
    to[out + 1] = from[at + 1]!
    to[out + 2] = from[at + 2]!
    to[out + 3] = 255
  }
}
