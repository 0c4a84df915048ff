import type { Image } from '@napi-rs/canvas'
import { createCanvas, ImageData, loadImage, Path2D } from '@napi-rs/canvas'
import { LRUCache } from 'lru-cache'
import type { Frame, FrameItem, SheetItem } from '#core/frame/frame'
import { JourneyError } from '#core/error'
import type { Photo } from '#core/journey/schema'
import type { Mosaic } from '#core/sheet/mosaic'
import { bentMosaic, holds, levelsFor, surroundings, washReach, wholeMosaic } from '#core/sheet/mosaic'
import { drawnAt } from '#core/sheet/pen'
import type { TileAddress } from '#core/sheet/pyramid'
import { tileSize } from '#core/sheet/pyramid'
import type { CanvasSpace } from '#draw/canvas-space'
import { spaceOf } from '#draw/canvas-space'
import { carriedPictureWidth } from '#draw/marks/carried'
import { ownStampWidth } from '#draw/ink/body'
import { standingWidth } from '#draw/marks/landmark'
import type { TilePicture } from '#draw/ground/mosaic'
import { layMosaic, pictureOf, wholeTile } from '#draw/ground/mosaic'
import type { Region } from '#draw/region'
import { wholeWidth } from '#core/marks/card-layout'
import { ownPinWidth } from '#draw/marks/pin'
import { emblemWidth, pictureWidth } from '#draw/marks/vehicle'
import type { SheetPicture, Studio, Surface, TiledImage } from '#draw/studio'
import { HOUSE_FACE } from '#core/type/measure'
import { facesIn } from '#core/frame/faces'
import { registerFace } from '../fonts/register-face'
import { hasTiles, readTile } from '../sheets/tiles'

export interface ServerSurface extends Surface {
  /** The surface's pixels, RGBA, row by row, alpha not premultiplied. */
  pixels(): Uint8Array
  /**
   * Brings a copy of the pixels up to date where the surface has been painted since.
   * @param isWhole whether all of the surface may be copied, as no pixel of it is transparent, and where it has not been painted it is as in the copy
   */
  update(copy: Uint8Array | Uint8ClampedArray, painted: readonly Region[], isWhole: boolean): void
  png(): Promise<Buffer>
}

/** A canvas on the server. Its context works as in a browser; only the declared types differ. */
export function createServerSurface(width: number, height: number): ServerSurface {
  const canvas = createCanvas(width, height)
  const context = canvas.getContext('2d')
  return {
    width,
    height,
    context: context as unknown as CanvasRenderingContext2D,
    image: canvas as unknown as CanvasImageSource,
    pixels: () => new Uint8Array(context.getImageData(0, 0, width, height).data.buffer),
    update(copy, painted, isWhole) {
      const pixels = painted.reduce((sum, part) => sum + part.width * part.height, 0)
      // For much of the frame, reading all pixels at once costs less than cutting the parts out. They are premultiplied, which is the same where they are opaque.
      if (isWhole && pixels > (width * height) / 2) return copy.set(canvas.data())
      for (const part of painted) {
        const { data } = context.getImageData(part.x, part.y, part.width, part.height)
        for (let row = 0; row < part.height; row++) {
          const from = row * part.width * 4
          copy.set(data.subarray(from, from + part.width * 4), ((part.y + row) * width + part.x) * 4)
        }
      }
    },
    png: () => canvas.encode('png'),
  }
}

/** Decoded tiles that are kept, about a megabyte each: under a moving camera most of those of a picture are in the one before. */
const MOST_TILES = 160

export interface ServerStudio extends Studio {
  /**
   * Prepares the pictures of the sheets and photos in a frame, unless they are ready: only the visible tiles, of the level that is needed.
   * @param scale output pixels per reference pixel
   * @returns whether any picture is new, so that what was painted before is out of date
   * @throws JourneyError if the image of a sheet or a photo is not in the data folder
   */
  prepare(frame: Frame, scale: number): Promise<boolean>
}

/** The whole pictures that an item shows, how wide they are in the output, in pixels, and what they are called where they are missing. */
function wholePictures(item: FrameItem, space: CanvasSpace): [picture: Photo, outputWidth: number, what: string][] {
  const { scale } = space
  if (item.kind === 'ink' || item.kind === 'planned') {
    const { line, width } = item.kind === 'ink' ? item.ink : item.planned
    return line.kind === 'stamped' && line.stamp === 'own'
      ? [[line.picture!, ownStampWidth(width, scale), 'picture of a line’s marks']]
      : []
  }
  if (item.kind === 'standing') return [[item.picture.picture, standingWidth(space, item.picture), 'picture beside the way']]
  if (item.kind === 'pin' && item.pin.shape === 'own') return [[item.pin.picture!, ownPinWidth(item.pin, scale), 'picture of a pin']]
  if (item.kind === 'postcard' && item.postcard.photo)
    return [[item.postcard.photo, wholeWidth(item.postcard, scale), 'photo of a postcard']]
  if (item.kind === 'vehicle' && item.vehicle.kind === 'catalogue' && item.vehicle.emblem)
    return [[item.vehicle.emblem.picture, emblemWidth(item.vehicle.emblem, item.vehicle, scale), 'emblem of a vehicle']]
  if (item.kind === 'vehicle' && item.vehicle.kind === 'image')
    return [[item.vehicle.picture, pictureWidth(item.vehicle, scale), 'picture of a vehicle']]
  if (item.kind === 'carried' && item.carried.kind === 'picture')
    return [[item.carried.picture, carriedPictureWidth(item.carried, scale), 'picture that a vehicle carries']]
  return []
}

/** The painter's studio on the server, with the sheets of a data folder. */
export function createServerStudio(folder: string): ServerStudio {
  registerFace(HOUSE_FACE, folder)
  const held = new Map<string, { image: string; mosaic: Mosaic; picture: SheetPicture }>()
  const decoded = new LRUCache<string, Promise<Image | null>>({ max: MOST_TILES })
  /** The tiles that the frame which is prepared shows; null where one is empty. */
  const ready = new Map<string, Image | null>()
  const wholeKey = ({ image }: Photo, { level }: Mosaic) => `whole ${image} ${level}`

  const tileKey = ({ image, pen }: TiledImage, { level, column, row }: TileAddress) => [image, pen, level, column, row].join()

  /** Gets a tile ready. */
  async function decode(image: TiledImage, tile: TileAddress): Promise<void> {
    const key = tileKey(image, tile)
    if (ready.has(key)) return
    const coming = decoded.get(key) ?? readTile(folder, image, tile).then((data) => (data ? loadImage(data) : null))
    decoded.set(key, coming)
    // What has failed is tried again.
    coming.catch(() => decoded.delete(key))
    ready.set(key, await coming)
  }

  function tileOf(image: TiledImage, tile: TileAddress): CanvasImageSource | 'empty' | undefined {
    const found = ready.get(tileKey(image, tile))
    return found === null ? 'empty' : (found as unknown as CanvasImageSource | undefined)
  }

  /** In parallel, as tiles are decoded in threads. */
  const decodeAll = (image: TiledImage, tiles: readonly TileAddress[]) => Promise.all(tiles.map((tile) => decode(image, tile)))

  async function load(image: TiledImage, mosaic: Mosaic, missing: string): Promise<SheetPicture> {
    if (!hasTiles(folder, image.image)) throw new JourneyError(missing)
    await decodeAll(image, mosaic.tiles)
    const picture = (tile: TileAddress): TilePicture | undefined => {
      const found = tileOf(image, tile)
      return found && found !== 'empty' ? wholeTile(found, tileSize(image, tile)) : undefined
    }
    return pictureOf(mosaic, layMosaic(studio, mosaic, picture))
  }

  /** Prepares a part of an image, identified by `key`. @param missing what to say if the image is not there @returns whether it is new */
  async function hold(key: string, image: TiledImage, wanted: Mosaic, missing: string): Promise<boolean> {
    const known = held.get(key)
    if (known?.image !== image.image || !holds(known.mosaic, wanted)) {
      held.set(key, { image: image.image, mosaic: wanted, picture: await load(image, wanted, missing) })
      return true
    }
    return false
  }

  const bentKey = (id: string) => `sheet ${id}`
  /** Decodes the tiles of a sheet that a frame shows, with those beside them that their wash needs. */
  async function prepareTiles({ sheet: asLaid, edge }: SheetItem, { projection, scale }: CanvasSpace): Promise<void> {
    const sheet = drawnAt(asLaid, scale)
    const { wash } = sheet
    for (const { level, tiles } of levelsFor(sheet, edge, projection, scale)) {
      const reach = wash ? washReach(wash, level) : 0
      await decodeAll(sheet, tiles)
      if (reach > 0) for (const tile of tiles) await decodeAll(sheet, surroundings(sheet, tile, reach).tiles)
    }
  }

  const studio: ServerStudio = {
    createSurface: createServerSurface,
    imageOf: (pixels, width, height) => new ImageData(pixels, width, height) as unknown as globalThis.ImageData,
    createPath: (d) => new Path2D(d) as unknown as globalThis.Path2D,
    tile: tileOf,
    bentPicture: ({ sheet }) => held.get(bentKey(sheet.id))?.picture,
    wholePicture: (picture, outputWidth) => held.get(wholeKey(picture, wholeMosaic(picture, outputWidth)))?.picture,
    async prepare(frame, scale) {
      const { items } = frame
      const space = spaceOf(frame, scale)
      const { projection } = space
      let isNew = false
      for (const face of facesIn(items)) registerFace(face, folder)
      ready.clear()
      for (const item of items) {
        if (item.kind === 'sheet') {
          const sheet = drawnAt(item.sheet, scale)
          const missing = `The picture of the sheet “${sheet.name}” is missing in ${folder}: import it again.`
          if (!hasTiles(folder, sheet.image)) throw new JourneyError(missing)
          if (projection.bent) {
            const wanted = bentMosaic(sheet, projection, projection.bent, scale)
            if (!wanted) held.delete(bentKey(sheet.id))
            else if (await hold(bentKey(sheet.id), sheet, wanted, missing)) isNew = true
          } else await prepareTiles(item, space)
        }
        for (const [picture, outputWidth, what] of wholePictures(item, space)) {
          const mosaic = wholeMosaic(picture, outputWidth)
          if (await hold(wholeKey(picture, mosaic), picture, mosaic, `The ${what} is missing in ${folder}: choose it again.`)) isNew = true
        }
      }
      return isNew
    },
  }
  return studio
}
