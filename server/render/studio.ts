import { readFileSync } from 'node:fs'
import { createRequire } from 'node:module'
import { dirname, join } from 'node:path'
import { createCanvas, GlobalFonts, Path2D } from '@napi-rs/canvas'
import type { Region } from '#draw/region'
import { isEmpty } from '#draw/region'
import type { SheetPicture, Studio, Surface } from '#draw/studio'
import { LABEL_FONT_PARTS } from '#draw/fonts'

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

/** The painter's studio on the server, with the sheet pictures that were loaded for the film. */
export function createServerStudio(pictures: ReadonlyMap<string, SheetPicture>): Studio {
  registerFonts()
  return {
    createSurface: createServerSurface,
    createPath: (d) => new Path2D(d) as unknown as globalThis.Path2D,
    sheetPicture: (image) => pictures.get(image),
  }
}
