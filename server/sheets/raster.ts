import sharp from 'sharp'
import { JourneyError } from '#core/error'
import type { SheetFormat } from '#core/sheet/limits'
import { IMAGE_LIMITS } from '#core/sheet/limits'
import type { Built, ImportJob } from './job'
import type { TiffBands } from './tiff-bands'
import { cutTiles, tileFormatFor } from './pyramid'
import { createTileFile } from './tile-file'

const LOSSLESS: ReadonlySet<SheetFormat> = new Set(['png', 'tiff'])

/** Formats that can only be decoded as a whole. */
const WHOLE: ReadonlySet<SheetFormat> = new Set(['webp', 'avif'])

export const damaged = (name: string, cause: unknown): JourneyError =>
  new JourneyError(`“${name}” is damaged or cut short and cannot be read to its end: export or download it again.`, { cause })

const pixelsOf = (width: number, height: number) => `${width} × ${height} pixels (${Math.ceil((width * height) / 1e6)} megapixels)`

/** @throws JourneyError for a picture that is too large. */
function checkSize(name: string, { width, height }: { width: number; height: number }): void {
  if (width * height <= IMAGE_LIMITS.pixels && Math.max(width, height) <= IMAGE_LIMITS.side) return
  throw new JourneyError(
    `“${name}” has ${pixelsOf(width, height)}; up to ${IMAGE_LIMITS.pixels / 1e6} megapixels and ${IMAGE_LIMITS.side} a side can be used: scale it down.`,
  )
}

/** What reads TIFF files takes long to load, and most pictures are none. */
const tiffReader = async () => ({ ...(await import('./tiff-bands')), ...(await import('./geotiff')) })

/**
 * Imports a raster picture: turned as its EXIF data says, with its colours converted to sRGB.
 * @throws JourneyError saying what is wrong with it
 */
export async function importRaster({ path, name, format, tiles }: ImportJob, onProgress: (share: number) => void): Promise<Built> {
  // What cannot be measured is left to the reader of pictures, which says what is wrong with it.
  const bands = format === 'tiff' ? await (await tiffReader()).measureTiff(path).catch(() => undefined) : undefined
  if (bands) return importBands({ path, name, tiles }, bands, onProgress)
  const header = await sharp(path, { limitInputPixels: false })
    .metadata()
    .catch((error: unknown) => {
      throw damaged(name, error)
    })
  const isTurned = (header.orientation ?? 1) > 1
  const { width, height } = header.autoOrient
  checkSize(name, { width, height })
  const isWhole = WHOLE.has(format)
  // WebP and AVIF are decoded to four channels, and copied once.
  const bytesEach = isWhole ? 8 : Math.max(3, header.channels) * (/short/.test(header.depth) ? 2 : 1)
  if ((isWhole || header.isProgressive || isTurned) && width * height * bytesEach > IMAGE_LIMITS.wholeBytes) {
    const most = Math.floor(IMAGE_LIMITS.wholeBytes / bytesEach / 1e6)
    throw new JourneyError(
      `“${name}” has ${pixelsOf(width, height)}; in this form (interlaced, turned, WebP or AVIF) up to ${most} megapixels can be used: save it as a plain PNG, TIFF or JPEG.`,
    )
  }
  const file = createTileFile(tiles)
  try {
    const picture = sharp(path, { limitInputPixels: IMAGE_LIMITS.pixels, failOn: 'error', sequentialRead: true })
      .autoOrient()
      .toColourspace('srgb')
    await cutTiles(picture, { width, height }, tileFormatFor({ width, height }, LOSSLESS.has(format)), file, `${tiles}-cut`, onProgress)
  } catch (error) {
    throw damaged(name, error)
  } finally {
    file.close()
  }
  const reading = format === 'tiff' && !isTurned ? await (await tiffReader()).readGeoTiff(path) : { georeference: null, note: null }
  return { width, height, vector: false, ...reading }
}

/** Imports a TIFF that holds numbers, as a picture of them. */
async function importBands(
  { path, name, tiles }: Pick<ImportJob, 'path' | 'name' | 'tiles'>,
  bands: TiffBands,
  onProgress: (share: number) => void,
): Promise<Built> {
  const { width, height } = bands
  const { MOST_BAND_PIXELS, readBands, readGeoTiff } = await tiffReader()
  if (width * height > MOST_BAND_PIXELS)
    throw new JourneyError(
      `“${name}” has ${pixelsOf(width, height)}; with numbers in place of colours up to ${MOST_BAND_PIXELS / 1e6} megapixels can be used: save it as a plain 8 bit TIFF.`,
    )
  const file = createTileFile(tiles)
  try {
    const pixels = await readBands(bands, (share) => onProgress(share / 2))
    const picture = sharp(pixels, { raw: { width, height, channels: 4 } })
    await cutTiles(picture, { width, height }, tileFormatFor(bands, true), file, `${tiles}-cut`, (share) => onProgress(0.5 + share / 2))
  } catch (error) {
    throw damaged(name, error)
  } finally {
    file.close()
    bands.close()
  }
  const { georeference, note } = await readGeoTiff(path)
  return { width, height, vector: false, georeference, note: [bands.note, note].filter(Boolean).join(' ') || null }
}
