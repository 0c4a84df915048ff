import { LRUCache } from 'lru-cache'
import { remembered } from '#core/remembered'
import type { Sheet, Wash } from '#core/journey/schema'
import { surroundings, washReach } from '#core/sheet/mosaic'
import type { TileAddress } from '#core/sheet/pyramid'
import { tileSize } from '#core/sheet/pyramid'
import type { Studio } from '../studio'
import { layMosaic, pictureOf, wholeTile } from './mosaic'
import type { Sampler, Tile } from './sampler'
import { EMPTY, MISSING } from './sampler'
import { washedImage } from './wash'

/** Tiles that are kept, a megabyte each. A frame in 4K shows at most 160 of one level of a sheet, and levels are sampled one after another. */
const MOST_TILES = 320

type Washed = Pick<Sheet, 'image' | 'width' | 'height' | 'vector' | 'wash'>

/** Tiles of sheets in the sampler's memory, washed one by one, so that each is washed once wherever the camera goes. */
export function createTiles(studio: Studio, sampler: Sampler) {
  const kept = new LRUCache<string, Tile>({ max: MOST_TILES, dispose: (tile) => sampler.release(tile) })
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
    /** A tile of a sheet; missing while it is on its way. */
    of(image: Washed, address: TileAddress): Tile {
      const key = [image.image, address.level, address.column, address.row, image.wash && nameOf(image.wash)].join()
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
