import { LRUCache } from 'lru-cache'
import type { Size } from '#core/geometry/size'
import { remembered } from '#core/remembered'
import type { Sheet, Wash } from '#core/journey/schema'
import { surroundings, washReach } from '#core/sheet/mosaic'
import type { TileAddress } from '#core/sheet/pyramid'
import { TILE, tileSize } from '#core/sheet/pyramid'
import type { Studio } from '../studio'
import { layMosaic, pictureOf, wholeTile } from './mosaic'
import type { Sampler, Tile } from './sampler'
import { EMPTY, MISSING } from './sampler'
import { washedImage } from './wash'

/** The fewest tiles that are kept, a megabyte each; and how many times as many as a frame shows of one level at the most. */
const LEAST_TILES = 128
const TIMES_SEEN = 2

/** How many tiles are kept for frames of a size: at the most two pixels of a level are seen in one of the frame, each way. */
export function tilesKept({ width, height }: Size): number {
  const along = (pixels: number) => Math.ceil((2 * pixels) / TILE) + 1
  return Math.max(LEAST_TILES, TIMES_SEEN * along(width) * along(height))
}

type Washed = Pick<Sheet, 'image' | 'width' | 'height' | 'vector' | 'wash'> & { pen?: number }

/** Tiles of sheets in the sampler's memory, washed one by one, so that each is washed once wherever the camera goes. @param most how many are kept */
export function createTiles(studio: Studio, sampler: Sampler, most: number) {
  const kept = new LRUCache<string, Tile>({ max: most, dispose: (tile) => sampler.release(tile) })
  /** What a wash does to tiles: the shade at the frame's edges is none of it. */
  const nameOf = remembered((wash: Wash) => JSON.stringify({ ...wash, edgeShade: null }))

  /** A tile's pixels, with its wash; undefined where something of it is not there yet. */
  function pixelsOf(image: Washed, address: TileAddress): ImageData | 'empty' | undefined {
    const found = studio.tile(image, address)
    if (found === 'empty' || !found) return found
    const { width, height } = tileSize(image, address)
    const { context } = studio.createSurface(width, height, true)
    if (!image.wash) {
      context.drawImage(found, 0, 0, width, height)
      return context.getImageData(0, 0, width, height)
    }
    const reach = washReach(image.wash, address.level)
    const around = surroundings(image, address, reach)
    if (around.tiles.some((tile) => studio.tile(image, tile) === undefined)) return undefined
    const laid = layMosaic(studio, around, (tile) => {
      const picture = studio.tile(image, tile)
      return picture && picture !== 'empty' ? wholeTile(picture, tileSize(image, tile)) : undefined
    })
    context.drawImage(washedImage(studio, pictureOf(around, laid), image.wash), -reach, -reach)
    return context.getImageData(0, 0, width, height)
  }

  return {
    most,
    /** Releases all tiles. */
    clear: () => kept.clear(),
    /** A tile of a sheet; missing while it is on its way. */
    of(image: Washed, address: TileAddress): Tile {
      const key = [image.image, image.pen, address.level, address.column, address.row, image.wash && nameOf(image.wash)].join()
      const known = kept.get(key)
      if (known !== undefined) return known
      const pixels = pixelsOf(image, address)
      if (pixels === undefined) return MISSING
      if (pixels === 'empty') return EMPTY
      const made = sampler.tile(pixels)
      kept.set(key, made)
      return made
    },
  }
}
