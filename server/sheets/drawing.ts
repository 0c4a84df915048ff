import { readFile, stat } from 'node:fs/promises'
import { renderAsync } from '@resvg/resvg-js'
import sharp from 'sharp'
import type { Size } from '#core/geometry/size'
import type { CleanSvg } from '#core/formats/clean-svg'
import { cleanSvg, svgOfRegion } from '#core/formats/clean-svg'
import { xmlText } from '#core/formats/xml-text'
import { JourneyError } from '#core/error'
import { IMAGE_LIMITS } from '#core/sheet/limits'
import { VECTOR_SIDE } from '#core/sheet/pyramid'
import type { Built, ImportJob } from './job'
import { cutTiles } from './pyramid'
import { createTileFile } from './tile-file'

/** Pixels of a rectangle of a drawing. */
export interface Pixels extends Size {
  /** RGBA, row by row. */
  data: Buffer
}

export interface Rectangle extends Size {
  x: number
  y: number
}

/** Size of a vector image in its nominal pixels. */
export function nominalSize(width: number, height: number): Size {
  const k = VECTOR_SIDE / Math.max(width, height)
  return { width: Math.max(1, Math.round(width * k)), height: Math.max(1, Math.round(height * k)) }
}

/**
 * What a drawing may have that is painted on a layer of its own. resvg 2.6.2 crashes where such a layer lies outside the part that is drawn, so drawings
 * with any of these are left to librsvg, which takes three to five times as long. A drawing is always drawn by the same one, so that no seams show.
 */
const LAYERED = /(?<![-\w])opacity|clip-path|mask|filter|mix-blend-mode|isolation|<(symbol|svg|marker|image)\b/

/** Draws a rectangle, in nominal pixels, of a drawing. */
export async function drawSvg(svg: CleanSvg, nominal: Size, region: Rectangle, size: Size): Promise<Pixels> {
  if (LAYERED.test(svg.body) || LAYERED.test(svg.attributes)) return drawLayered(svg, nominal, region, size)
  const { width, height, pixels } = await renderAsync(svgOfRegion(svg, nominal, region, size), {
    fitTo: { mode: 'width', value: size.width },
    font: { loadSystemFonts: svg.hasText },
    logLevel: 'off',
  })
  return { width, height, data: plainAlpha(pixels) }
}

/** A filter, such as a blur, sees only what is drawn: so much more is drawn on each side of the rectangle, as a share of it. */
const FILTER_MARGIN = 0.25

async function drawLayered(svg: CleanSvg, nominal: Size, region: Rectangle, size: Size): Promise<Pixels> {
  const margin = /filter/.test(svg.body) ? FILTER_MARGIN : 0
  const [left, top] = [Math.ceil(margin * size.width), Math.ceil(margin * size.height)]
  const [stepX, stepY] = [region.width / size.width, region.height / size.height]
  const wide = { width: size.width + 2 * left, height: size.height + 2 * top }
  const seen = { x: region.x - left * stepX, y: region.y - top * stepY, width: wide.width * stepX, height: wide.height * stepY }
  // The document has been checked and is bounded, so that libxml's own limits need not hold.
  const data = await sharp(Buffer.from(svgOfRegion(svg, nominal, seen, wide)), { unlimited: true })
    .ensureAlpha()
    .extract({ left, top, ...size })
    .raw()
    .toBuffer()
  return { ...size, data }
}

/** Converts the renderer's premultiplied colours to straight ones. */
function plainAlpha(data: Buffer): Buffer {
  for (let i = 0; i < data.length; i += 4) {
    const alpha = data[i + 3]!
    if (alpha === 0 || alpha === 255) continue
    for (let c = i; c < i + 3; c++) data[c] = Math.min(255, Math.round((data[c]! * 255) / alpha))
  }
  return data
}

/** Imports an SVG: cleans it and draws it once at its nominal size; finer levels are drawn when a view needs them. */
export async function importSvg({ path, name, tiles }: ImportJob, onProgress: (share: number) => void): Promise<Built> {
  const { size: bytes } = await stat(path)
  if (bytes > IMAGE_LIMITS.drawingBytes)
    throw new JourneyError(`“${name}” is larger than ${IMAGE_LIMITS.drawingBytes / 1024 ** 2} MiB: simplify it, or save it as PNG.`)
  const svg = cleanSvg(xmlText(await readFile(path)), name)
  await checkPictures(svg, name)
  const nominal = nominalSize(svg.viewBox[2], svg.viewBox[3])
  const pixels = await drawSvg(svg, nominal, { x: 0, y: 0, ...nominal }, nominal).catch((error: unknown) => {
    throw new JourneyError(`“${name}” cannot be drawn: open it in a drawing program and save it again.`, { cause: error })
  })
  onProgress(0.5)
  await storeDrawing(tiles, JSON.stringify(svg), pixels, (share) => onProgress(0.5 + share / 2))
  return { ...nominal, vector: true, georeference: null, note: null }
}

/** @throws JourneyError if the pictures in a drawing have too many pixels all together; only their headers are read for that */
async function checkPictures({ body }: CleanSvg, name: string): Promise<void> {
  let pixels = 0
  for (const [, data] of body.matchAll(/"data:image\/\w+;base64,([^"]*)"/g)) {
    const { width, height } = await sharp(Buffer.from(data!, 'base64'), { limitInputPixels: false })
      .metadata()
      .catch(() => ({ width: 0, height: 0 }))
    pixels += width * height
    if (pixels > IMAGE_LIMITS.drawingPixels) {
      throw new JourneyError(
        `“${name}” holds pictures of more than ${IMAGE_LIMITS.drawingPixels / 1e6} megapixels all together: scale them down, or save it as PNG.`,
      )
    }
  }
}

/** Makes the tile file of a drawing from its picture at nominal size. Finer tiles are drawn later from `drawing` if it is given, else from the original. */
export async function storeDrawing(
  tiles: string,
  drawing: string | undefined,
  { data, width, height }: Pixels,
  onProgress: (share: number) => void,
): Promise<void> {
  const file = createTileFile(tiles)
  try {
    if (drawing !== undefined) file.putDrawing(drawing)
    const picture = sharp(data, { raw: { width, height, channels: 4 } })
    await cutTiles(picture, { width, height }, 'png', file, `${tiles}-cut`, onProgress)
  } finally {
    file.close()
  }
}
