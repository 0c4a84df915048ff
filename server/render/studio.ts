import { readFileSync } from 'node:fs'
import { createRequire } from 'node:module'
import { dirname, join } from 'node:path'
import type { Image } from '@napi-rs/canvas'
import { createCanvas, GlobalFonts, loadImage, Path2D } from '@napi-rs/canvas'
import { LRUCache } from 'lru-cache'
import type { Frame, FrameItem } from '#core/frame/frame'
import { JourneyError } from '#core/error'
import type { Photo, Sheet } from '#core/journey/schema'
import type { Mosaic, SeenMosaic } from '#core/sheet/mosaic'
import { holds, mosaicsFor, wholeMosaic } from '#core/sheet/mosaic'
import type { TileAddress } from '#core/sheet/pyramid'
import { tileSize } from '#core/sheet/pyramid'
import type { CanvasSpace } from '#draw/canvas-space'
import { spaceOf } from '#draw/canvas-space'
import { carriedPictureWidth } from '#draw/marks/carried'
import { ownStampWidth } from '#draw/ink/ink'
import { standingWidth } from '#draw/marks/landmark'
import type { TilePicture } from '#draw/ground/mosaic'
import { layMosaic, pictureOf, wholeTile } from '#draw/ground/mosaic'
import type { Region } from '#draw/region'
import { wholeWidth } from '#core/marks/card-layout'
import { ownPinWidth } from '#draw/marks/pin'
import { pictureWidth } from '#draw/marks/vehicle'
import type { SheetPicture, Studio, Surface } from '#draw/studio'
import { fontParts } from '#draw/type/fonts'
import type { Face } from '#core/type/measure'
import { HOUSE_FACE } from '#core/type/measure'
import { facesIn } from '#core/frame/faces'
import { isOwnFamily } from '#core/type/families'
import { fontPath, hasFont } from '../storage/font-files'
import { hasTiles, readTile } from '../sheets/tiles'

const require = createRequire(join(process.cwd(), 'package.json'))
const registered = new Set<string>()

/** Makes a face known to the canvases, if it is not yet. @throws JourneyError if it is one's own, and its file is not in the data folder */
function registerFace(face: Pick<Face, 'family' | 'weight'>, data: string): void {
  for (const { registered: name, family, file } of fontParts(face)) {
    if (registered.has(name)) continue
    if (isOwnFamily(family)) {
      if (!hasFont(data, file)) throw new JourneyError(`A font of your own is missing in ${data}: add its file again.`)
      if (!GlobalFonts.register(readFileSync(fontPath(data, file)), name))
        throw new JourneyError('A font of your own cannot be used for the film: choose another.')
      registered.add(name)
      continue
    }
    const folder = join(dirname(require.resolve(`@fontsource/${family}/package.json`)), 'files')
    GlobalFonts.register(readFileSync(join(folder, file)), name)
    registered.add(name)
  }
}

export interface ServerSurface extends Surface {
  /** The surface's pixels, RGBA, row by row, alpha not premultiplied. */
  pixels(): Uint8Array
  /** Brings a copy of the pixels up to date where the surface has been painted since. @param isOpaque whether no pixel is transparent */
  update(copy: Uint8Array, painted: readonly Region[], isOpaque: boolean): void
  png(): Promise<Buffer>
}

/** Copies a part of RGBA pixels to the same place of others. @param width of both, in pixels */
export function copyPart(from: Uint8Array, to: Uint8Array, part: Region, width: number): void {
  for (let row = part.y; row < part.y + part.height; row++) {
    const start = 4 * (row * width + part.x)
    to.set(from.subarray(start, start + 4 * part.width), start)
  }
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
    update(copy, painted, isOpaque) {
      const pixels = painted.reduce((sum, part) => sum + part.width * part.height, 0)
      // For much of the frame, reading all pixels at once costs less than cutting the parts out. They are premultiplied, which is the same where they are opaque.
      if (isOpaque && pixels > (width * height) / 2) return copy.set(canvas.data())
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
  /** What is seen of each sheet, the finest first. */
  const seen = new Map<string, SeenMosaic[]>()
  const sheetKey = (id: string, { level, index }: SeenMosaic) => `sheet ${id} ${level} ${index}`
  const decoded = new LRUCache<string, Promise<Image | undefined>>({ max: MOST_TILES })
  const wholeKey = ({ image }: Photo, { level }: Mosaic) => `whole ${image} ${level}`

  /** A tile's picture; undefined if it is empty. */
  function decodedTile(image: Sheet | Photo, tile: TileAddress): Promise<Image | undefined> {
    const key = [image.image, tile.level, tile.column, tile.row].join()
    const known = decoded.get(key)
    if (known) return known
    const made = readTile(folder, image, tile).then((data) => data && loadImage(data))
    decoded.set(key, made)
    // What has failed is tried again.
    made.catch(() => decoded.delete(key))
    return made
  }

  async function load(image: Sheet | Photo, mosaic: Mosaic, missing: string): Promise<SheetPicture> {
    if (!hasTiles(folder, image.image)) throw new JourneyError(missing)
    const tiles = new Map<TileAddress, TilePicture>()
    // In parallel, as they are decoded in threads.
    await Promise.all(
      mosaic.tiles.map(async (tile) => {
        const found = await decodedTile(image, tile)
        if (found) tiles.set(tile, wholeTile(found as unknown as CanvasImageSource, tileSize(image, tile)))
      }),
    )
    return pictureOf(
      mosaic,
      layMosaic(studio, mosaic, (tile) => tiles.get(tile)),
    )
  }

  /** Prepares a part of an image, identified by `key`. @param missing what to say if the image is not there @returns whether it is new */
  async function hold(key: string, image: Sheet | Photo, wanted: Mosaic, missing: string): Promise<boolean> {
    const known = held.get(key)
    if (known?.image !== image.image || !holds(known.mosaic, wanted)) {
      held.set(key, { image: image.image, mosaic: wanted, picture: await load(image, wanted, missing) })
      return true
    }
    return false
  }

  const studio: ServerStudio = {
    createSurface: createServerSurface,
    createPath: (d) => new Path2D(d) as unknown as globalThis.Path2D,
    sheetPictures: ({ sheet }) =>
      (seen.get(sheet.id) ?? []).map((mosaic) => ({ picture: held.get(sheetKey(sheet.id, mosaic))!.picture, within: mosaic.within })),
    wholePicture: (picture, outputWidth) => held.get(wholeKey(picture, wholeMosaic(picture, outputWidth)))?.picture,
    async prepare(frame, scale) {
      const { items } = frame
      const space = spaceOf(frame, scale)
      const { projection } = space
      let isNew = false
      for (const face of facesIn(items)) registerFace(face, folder)
      for (const item of items) {
        if (item.kind === 'sheet') {
          const { sheet, edge } = item
          const wanted = mosaicsFor(sheet, edge, projection, scale)
          const keys = wanted.map((mosaic) => sheetKey(sheet.id, mosaic))
          for (const mosaic of seen.get(sheet.id) ?? [])
            if (!keys.includes(sheetKey(sheet.id, mosaic))) held.delete(sheetKey(sheet.id, mosaic))
          const missing = `The picture of the sheet “${sheet.name}” is missing in ${folder}: import it again.`
          for (const [i, mosaic] of wanted.entries()) if (await hold(keys[i]!, sheet, mosaic, missing)) isNew = true
          seen.set(sheet.id, wanted)
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
