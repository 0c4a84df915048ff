import { readFile } from 'node:fs/promises'
import { createRequire } from 'node:module'
import { dirname, join } from 'node:path'
import { createCanvas, DOMMatrix, ImageData, Path2D } from '@napi-rs/canvas'
import type { Size } from '#core/geometry/size'
import { JourneyError } from '#core/error'
import type { Pixels, Rectangle } from './drawing'
import { nominalSize, storeDrawing } from './drawing'
import type { Built, ImportJob } from './job'

const PDFJS = dirname(createRequire(join(process.cwd(), 'package.json')).resolve('pdfjs-dist/package.json'))

/** Opens a file's first page. The library is large, so it is loaded only for a PDF. */
async function firstPage(path: string) {
  // Replaces the browser's own classes; the library would otherwise bring its own, which our canvas does not know.
  Object.assign(globalThis, { DOMMatrix, ImageData, Path2D })
  const { getDocument, VerbosityLevel } = await import('pdfjs-dist/legacy/build/pdf.mjs')
  const task = getDocument({
    data: new Uint8Array(await readFile(path)),
    verbosity: VerbosityLevel.ERRORS,
    isEvalSupported: false,
    useSystemFonts: false,
    standardFontDataUrl: `${PDFJS}/standard_fonts/`,
    cMapUrl: `${PDFJS}/cmaps/`,
    wasmUrl: `${PDFJS}/wasm/`,
  })
  const document = await task.promise
  return { document, page: await document.getPage(1), close: () => task.destroy() }
}

/** Draws a rectangle, in nominal pixels, of a PDF's first page, on white as it would be printed. */
export async function drawPdf(path: string, nominal: Size, region: Rectangle, size: Size): Promise<Pixels> {
  const { page, close } = await firstPage(path)
  try {
    const zoom = size.width / region.width
    const scale = (nominal.width / page.getViewport({ scale: 1 }).width) * zoom
    const viewport = page.getViewport({ scale, offsetX: -region.x * zoom, offsetY: -region.y * zoom })
    const canvas = createCanvas(size.width, size.height)
    await page.render({
      canvas: canvas as unknown as HTMLCanvasElement,
      canvasContext: canvas.getContext('2d') as unknown as CanvasRenderingContext2D,
      viewport,
      background: '#ffffff',
    }).promise
    return { ...size, data: canvas.data() }
  } finally {
    await close()
  }
}

/** Imports the first page of a PDF as a vector image. @throws JourneyError saying what is wrong with the file */
export async function importPdf({ path, name, tiles }: ImportJob, onProgress: (share: number) => void): Promise<Built> {
  const nominal = await sizeOf(path, name)
  const pixels = await drawPdf(path, nominal, { x: 0, y: 0, ...nominal }, nominal).catch((error: unknown) => {
    throw new JourneyError(`The first page of “${name}” cannot be drawn: save it as PNG or SVG.`, { cause: error })
  })
  onProgress(0.5)
  await storeDrawing(tiles, undefined, pixels, (share) => onProgress(0.5 + share / 2))
  return { ...nominal, vector: true, georeference: null, note: null }
}

async function sizeOf(path: string, name: string): Promise<Size> {
  try {
    const { page, close } = await firstPage(path)
    const { width, height } = page.getViewport({ scale: 1 })
    await close()
    return nominalSize(width, height)
  } catch (error) {
    const isLocked = error instanceof Error && error.name === 'PasswordException'
    throw new JourneyError(
      isLocked
        ? `“${name}” is locked with a password: save it without one.`
        : `“${name}” is damaged or cut short and cannot be read: export or download it again.`,
      { cause: error },
    )
  }
}
