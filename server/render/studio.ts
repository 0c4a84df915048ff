import { readFileSync } from 'node:fs'
import { createRequire } from 'node:module'
import { dirname, join } from 'node:path'
import { createCanvas, GlobalFonts, loadImage, Path2D } from '@napi-rs/canvas'
import type { Frame } from '#core/frame/frame'
import { JourneyError } from '#core/journey/error'
import type { Sheet } from '#core/journey/schema'
import type { Mosaic } from '#core/sheet/mosaic'
import { holds, mosaicFor } from '#core/sheet/mosaic'
import type { TileAddress } from '#core/sheet/pyramid'
import { tileSize } from '#core/sheet/pyramid'
import type { TilePicture } from '#draw/mosaic'
import { layMosaic, pictureOf, wholeTile } from '#draw/mosaic'
import type { Region } from '#draw/region'
import { isEmpty } from '#draw/region'
import type { SheetPicture, Studio, Surface } from '#draw/studio'
import { LABEL_FONT_PARTS } from '#draw/fonts'
import { hasTiles, readTile } from '../sheets/tiles'

const require = createRequire(join(process.cwd(), 'package.json'))
let registered = false

function registerFonts(): void {
  if (registered) return
  const folder = join(dirname(require.resolve('@fontsource/alegreya/package.json')), 'files')
  for (const { family, file } of LABEL_FONT_PARTS) GlobalFonts.register(readFileSync(join(folder, file)), family)
  registered = true
}

export interface ServerSurface extends Surface {
  /** The surface's pixels, RGBA, row by row. */
  pixels(): Uint8Array
  /** Brings a copy of the pixels up to date where the surface has been painted since. */
  update(copy: Uint8Array, painted: Region): void
  png(): Promise<Buffer>
}

/** A canvas of the server's. Its context does what a browser's does; only the declared types differ. */
export function createServerSurface(width: number, height: number): ServerSurface {
  const canvas = createCanvas(width, height)
  const context = canvas.getContext('2d')
  return {
    width,
    height,
    context: context as unknown as CanvasRenderingContext2D,
    image: canvas as unknown as CanvasImageSource,
    pixels: () => canvas.data(),
    update(copy, part) {
      if (isEmpty(part)) return
      // Of a large part all pixels are read at once, which costs less than cutting the part out.
      if (part.width * part.height > (width * height) / 2) return copy.set(canvas.data())
      const { data } = context.getImageData(part.x, part.y, part.width, part.height)
      for (let row = 0; row < part.height; row++) {
        const from = row * part.width * 4
        copy.set(data.subarray(from, from + part.width * 4), ((part.y + row) * width + part.x) * 4)
      }
    },
    png: () => canvas.encode('png'),
  }
}

export interface ServerStudio extends Studio {
  /**
   * Gets ready what the sheets show in a frame, if it is not already: only the tiles that are seen, of the level that is needed.
   * @param scale output pixels per reference pixel
   * @returns whether any picture is new, so that what was painted before does not hold any more
   * @throws JourneyError if a sheet's image is not in the data folder
   */
  prepare(frame: Frame, scale: number): Promise<boolean>
}

/** The painter's studio on the server, with the sheets of a data folder. */
export function createServerStudio(folder: string): ServerStudio {
  registerFonts()
  const held = new Map<string, { image: string; mosaic: Mosaic; picture: SheetPicture }>()

  async function load(sheet: Sheet, mosaic: Mosaic): Promise<SheetPicture> {
    if (!hasTiles(folder, sheet.image))
      throw new JourneyError(`The picture of the sheet “${sheet.name}” is missing in ${folder}: import it again.`)
    const tiles = new Map<TileAddress, TilePicture>()
    // All at once: they are decoded by threads of their own.
    await Promise.all(
      mosaic.tiles.map(async (tile) => {
        const data = await readTile(folder, sheet, tile)
        if (data) tiles.set(tile, wholeTile((await loadImage(data)) as unknown as CanvasImageSource, tileSize(sheet, tile)))
      }),
    )
    return pictureOf(
      mosaic,
      layMosaic(studio, mosaic, (tile) => tiles.get(tile)),
    )
  }

  const studio: ServerStudio = {
    createSurface: createServerSurface,
    createPath: (d) => new Path2D(d) as unknown as globalThis.Path2D,
    sheetPicture: ({ sheet }) => held.get(sheet.id)?.picture,
    async prepare({ items, view, reference }, scale) {
      let isNew = false
      for (const item of items) {
        if (item.kind !== 'sheet') continue
        const { sheet, edge } = item
        const wanted = mosaicFor(sheet, edge, view, reference, scale)
        const known = held.get(sheet.id)
        if (!wanted) held.delete(sheet.id)
        else if (known?.image !== sheet.image || !holds(known.mosaic, wanted)) {
          held.set(sheet.id, { image: sheet.image, mosaic: wanted, picture: await load(sheet, wanted) })
          isNew = true
        }
      }
      return isNew
    },
  }
  return studio
}
