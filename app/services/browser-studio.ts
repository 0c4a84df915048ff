import { LRUCache } from 'lru-cache'
import type { Mosaic } from '#core/sheet/mosaic'
import { bentMosaic, holds, wholeMosaic } from '#core/sheet/mosaic'
import type { TileAddress } from '#core/sheet/pyramid'
import { drawnAt } from '#core/sheet/pen'
import { coarsestLevel, TILE, tileSize } from '#core/sheet/pyramid'
import type { TilePicture } from '#draw/ground/mosaic'
import { layMosaic, pictureOf, wholeTile } from '#draw/ground/mosaic'
import type { SheetPicture, Studio, Surface, TiledImage } from '#draw/studio'
import { tileAddress } from './addresses'

export function createSurface(width: number, height: number, isRead = false): Surface {
  const canvas = new OffscreenCanvas(width, height)
  const context = canvas.getContext('2d', { willReadFrequently: isRead }) as unknown as CanvasRenderingContext2D
  return { width, height, context, image: canvas }
}

/** The number of tiles kept, as many as four large screens show; about a megabyte each. */
const MOST_TILES = 240

/** The most pixels of pictures that are put together of tiles and kept, about 400 MB: those of a large screen several times over, and of all photos of a journey. */
const MOST_PIXELS = 100_000_000

interface Laid {
  image: string
  mosaic: Mosaic
  picture: SheetPicture
  /** How many of its tiles had arrived when it was composed. */
  come: number
}

/**
 * The painter's studio in the browser. It fetches only the visible tiles of a sheet, of the level that the stage needs; until they have
 * arrived the coarsest tile, which shows the whole sheet, replaces them. `onArrival` is called when there is something better to show.
 */
export function createBrowserStudio(onArrival: () => void): Studio {
  const tiles = new LRUCache<string, ImageBitmap | 'empty'>({
    max: MOST_TILES,
    dispose: (tile) => tile !== 'empty' && tile.close(),
  })
  const asked = new Set<string>()
  const laid = new LRUCache<string, Laid>({ maxSize: MOST_PIXELS, sizeCalculation: ({ mosaic }) => mosaic.width * mosaic.height })
  let announced = false

  /** Tiles arrive in bursts; a burst causes only one repaint. */
  function announce() {
    if (announced) return
    announced = true
    setTimeout(() => {
      announced = false
      onArrival()
    }, 30)
  }

  async function fetchTile(address: string) {
    asked.add(address)
    try {
      const response = await fetch(address)
      if (!response.ok) throw new Error(response.statusText)
      tiles.set(address, response.status === 204 ? 'empty' : await createImageBitmap(await response.blob()))
      announce()
    } catch {
      // It is requested again at the next painting.
    } finally {
      asked.delete(address)
    }
  }

  function tileOf({ image, pen }: TiledImage, tile: TileAddress): ImageBitmap | 'empty' | undefined {
    const address = tileAddress(image, tile, pen)
    const found = tiles.get(address)
    if (found === undefined && !asked.has(address)) void fetchTile(address)
    return found
  }

  /** The part of the coarsest tile that covers a finer tile. */
  function standIn(image: TiledImage, tile: TileAddress): TilePicture | undefined {
    const level = coarsestLevel(image)
    const whole = tileOf(image, { level, column: 0, row: 0 })
    if (!whole || whole === 'empty') return undefined
    const size = tileSize(image, tile)
    const k = 2 ** (tile.level - level)
    return {
      image: whole,
      source: { x: tile.column * TILE * k, y: tile.row * TILE * k, width: size.width * k, height: size.height * k },
      ...size,
    }
  }

  const countCome = ({ image, pen }: TiledImage, mosaic: Mosaic): number =>
    mosaic.tiles.filter((tile) => tiles.has(tileAddress(image, tile, pen))).length

  function lay(image: TiledImage, mosaic: Mosaic): Laid {
    const surface = layMosaic(studio, mosaic, (tile) => {
      const found = tileOf(image, tile)
      if (found === 'empty') return undefined
      if (found) return wholeTile(found, tileSize(image, tile))
      return standIn(image, tile)
    })
    return { image: image.image, mosaic, picture: pictureOf(mosaic, surface), come: countCome(image, mosaic) }
  }

  /** The picture of the requested part of an image. `key` identifies the part, so it is composed again only when that changes or more tiles arrive. */
  function pictureFor(key: string, image: TiledImage, wanted: Mosaic): SheetPicture {
    const known = laid.get(key)
    const fits = known?.image === image.image && holds(known.mosaic, wanted)
    // Without new tiles the result would be the same.
    if (fits && (known.come === known.mosaic.tiles.length || known.come === countCome(image, known.mosaic))) return known.picture
    const next = lay(image, wanted)
    laid.set(key, next)
    return next.picture
  }

  const studio: Studio = {
    createSurface,
    imageOf: (pixels, width, height) => new ImageData(pixels, width, height),
    createPath: (d) => new Path2D(d),
    tile: tileOf,
    bentPicture({ sheet: asLaid }, { projection, scale }) {
      const sheet = drawnAt(asLaid, scale)
      const mosaic = bentMosaic(sheet, projection, projection.bent!, scale)
      return mosaic && pictureFor(`sheet ${sheet.id} ${mosaic.level} ${sheet.pen}`, sheet, mosaic)
    },
    wholePicture(picture, outputWidth) {
      const mosaic = wholeMosaic(picture, outputWidth)
      return pictureFor(`whole ${picture.image} ${mosaic.level}`, picture, mosaic)
    },
  }
  return studio
}
