import { LRUCache } from 'lru-cache'
import type { Size } from '../geometry/size'
import type { TileAddress } from '../sheet/pyramid'
import { TILE, tileSize } from '../sheet/pyramid'
import type { PictureSource } from './picture'
import type { PixelRect, Pixels } from './raster'

/** A decoded tile: RGBA, row by row, of the size that tileSize gives; undefined where nothing lies. */
export type TilePixels = Uint8ClampedArray | undefined

/** The number of decoded tiles that are kept, a megabyte each: those around a road are needed again and again. */
const MOST_KEPT = 48

/** An image read from its tiles; where they are transparent or missing it is transparent. */
export function tiledSource(size: Size, readTile: (tile: TileAddress) => Promise<TilePixels>): PictureSource {
  const kept = new LRUCache<string, Promise<TilePixels>>({ max: MOST_KEPT })
  function tile(address: TileAddress): Promise<TilePixels> {
    const name = `${address.level} ${address.column} ${address.row}`
    const pixels = kept.get(name) ?? readTile(address)
    kept.set(name, pixels)
    return pixels
  }

  async function read(level: number, rect: PixelRect): Promise<Pixels> {
    const rgba = new Uint8ClampedArray(rect.width * rect.height * 4)
    const addresses: TileAddress[] = []
    for (let row = Math.floor(rect.y / TILE); row * TILE < rect.y + rect.height; row++)
      for (let column = Math.floor(rect.x / TILE); column * TILE < rect.x + rect.width; column++) addresses.push({ level, column, row })
    await Promise.all(
      addresses.map(async (address) => {
        const pixels = await tile(address)
        if (!pixels) return
        const { width, height } = tileSize(size, address)
        const [left, top] = [address.column * TILE, address.row * TILE]
        const [x0, x1] = [Math.max(rect.x, left), Math.min(rect.x + rect.width, left + width)]
        for (let y = Math.max(rect.y, top); y < Math.min(rect.y + rect.height, top + height); y++) {
          const from = ((y - top) * width + x0 - left) * 4
          rgba.set(pixels.subarray(from, from + (x1 - x0) * 4), ((y - rect.y) * rect.width + x0 - rect.x) * 4)
        }
      }),
    )
    return { ...rect, rgba }
  }
  return { ...size, read }
}
