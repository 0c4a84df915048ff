import { stat } from 'node:fs/promises'
import type { GeoTIFFImage } from 'geotiff'
import { fromFile } from 'geotiff'
import { clamp } from '#core/geometry/clamp'
import { greatest } from '#core/geometry/extremes'
import type { Size } from '#core/geometry/size'

/**
 * TIFFs that hold numbers and not the colours of a picture: more than 8 bits of which few are used, fractions, more than four bands, or a number that stands
 * for nothing. They are measured, and shown as a picture.
 */
export interface TiffBands extends Size {
  image: GeoTIFFImage
  /** The bands that are shown as red, green and blue: one three times is grey. */
  shown: readonly [number, number, number]
  /** The band that says how opaque a pixel is, from 0 to `opaque`. */
  alpha: { band: number; opaque: number } | undefined
  /** For each of those shown the numbers that become black and full colour. */
  ranges: readonly (readonly [low: number, high: number])[]
  /** The number that stands for nothing. */
  nothing: number | undefined
  /** What was chosen, as a sentence; null where nothing had to be. */
  note: string | null
  /** Closes the file. */
  close(): void
}

/** The most pixels of such a file: it is decoded whole. */
export const MOST_BAND_PIXELS = 150_000_000

/** Shares of the numbers that become black, and full colour (common practice, no source). */
const CUT = 0.02

/** Unsigned numbers that reach more than this share of what their bits allow are those of a picture, and stay as they are. */
const FULL = 1 / 3

/** Photometric interpretation and extra samples. Source: TIFF 6.0 (1992), pages 31 and 37. */
const RGB = 2
const ALPHA: ReadonlySet<number> = new Set([1, 2])
const WHITE_IS_ZERO = 0
const GREYS: ReadonlySet<number> = new Set([WHITE_IS_ZERO, 1])

/** Sample formats. Source: TIFF 6.0, page 80. */
const UNSIGNED = 1

/** Measures a TIFF; undefined of one that is a plain picture, or that cannot be read this way. */
export async function measureTiff(path: string): Promise<TiffBands | undefined> {
  const { size } = await stat(path)
  const tiff = await fromFile(path)
  const found = await bandsOf(await tiff.getImage(), size).catch(() => undefined)
  if (found) return { ...found, close: () => void tiff.close() }
  tiff.close()
  return undefined
}

async function bandsOf(image: GeoTIFFImage, bytes: number): Promise<Omit<TiffBands, 'close'> | undefined> {
  const samples = image.getSamplesPerPixel()
  const bits = image.getBitsPerSample()
  const photometric = Number(image.fileDirectory.getValue('PhotometricInterpretation') ?? 1)
  const isUnsigned = image.getSampleFormat() === UNSIGNED
  const nothing = await nothingOf(image)
  const isPlainForm = isUnsigned && bits <= 8 && samples <= 4 && nothing === undefined
  const isTurned = image.fileDirectory.hasTag('Orientation') && Number(await image.fileDirectory.loadValue('Orientation')) > 1
  if (isPlainForm || isTurned || !(photometric === RGB || GREYS.has(photometric))) return undefined
  // What lies beyond the end of the file would be read as zeros.
  if ((await endOf(image)) > bytes) return undefined
  const size = { width: image.getWidth(), height: image.getHeight() }
  const extra = image.fileDirectory.hasTag('ExtraSamples') ? (await image.fileDirectory.loadValue('ExtraSamples')) as ArrayLike<number> : [] // prettier-ignore
  const colours = samples - extra.length
  const alphaAt = Array.from(extra).findIndex((kind) => ALPHA.has(kind))
  const shown: TiffBands['shown'] = samples >= 3 && (photometric === RGB || alphaAt < 0 || colours >= 3) ? [0, 1, 2] : [0, 0, 0]
  const most = isUnsigned && bits <= 16 ? 2 ** bits - 1 : Infinity
  const alpha = alphaAt < 0 ? undefined : { band: colours + alphaAt, opaque: Number.isFinite(most) ? most : 1 }
  const measured = await measure(image, size, [...new Set(shown)], nothing)
  const isPicture = Number.isFinite(most) && measured.every(([, , top]) => bits <= 8 || top > FULL * most)
  // The reader of pictures knows grey and colours, each with one more band at most.
  const isKnown = samples - (alpha ? 1 : 0) === (photometric === RGB ? 3 : 1)
  if (isPicture && nothing === undefined && isKnown) return undefined
  const ranges = shown.map((band): [number, number] => {
    const [low, high] = isPicture ? [0, most] : measured[band]!
    return photometric === WHITE_IS_ZERO ? [high, low] : [low, high]
  })
  return { ...size, image, shown, alpha, ranges, nothing, note: noteOf(samples - (alpha ? 1 : 0), shown, isPicture) }
}

/** The number that stands for nothing, as GDAL writes it. Source: GDAL's description of its TIFF driver, tag 42113; from memory. */
async function nothingOf({ fileDirectory }: GeoTIFFImage): Promise<number | undefined> {
  if (!fileDirectory.hasTag('GDAL_NODATA')) return undefined
  const text = String(await fileDirectory.loadValue('GDAL_NODATA'))
    .replace(/\0.*$/, '')
    .trim()
  return text === '' || Number.isNaN(Number(text)) ? undefined : Number(text)
}

/** Where the last strip or tile of an image ends in its file. */
async function endOf({ fileDirectory, isTiled }: GeoTIFFImage): Promise<number> {
  const load = async (tag: 'TileOffsets' | 'TileByteCounts' | 'StripOffsets' | 'StripByteCounts') =>
    (await fileDirectory.loadValue(tag)) as ArrayLike<number>
  const [offsets, counts] = isTiled
    ? [await load('TileOffsets'), await load('TileByteCounts')]
    : [await load('StripOffsets'), await load('StripByteCounts')]
  return greatest(Array.from(offsets, (offset, i) => Number(offset) + Number(counts[i]!)))
}

function noteOf(bands: number, shown: TiffBands['shown'], isPicture: boolean): string | null {
  const which =
    bands > 3
      ? `Of its ${bands} bands the first three are shown as red, green and blue`
      : bands === 2
        ? 'Of its two bands the first is shown'
        : ''
  const range = isPicture ? '' : 'its lowest numbers are black and its highest white, but for 2 % at either end'
  if (!which && !range) return null
  const all = [which, range].filter(Boolean).join('; ')
  return `${all[0]!.toUpperCase()}${all.slice(1)}.`
}

/** How many pixels are looked at, in each direction. */
const LOOKS = 600

/** For each band the numbers below and above which a share of all lies, and the greatest but for a thousandth. */
async function measure(
  image: GeoTIFFImage,
  { width, height }: Size,
  bands: readonly number[],
  nothing: number | undefined,
): Promise<[number, number, number][]> {
  const looks = { width: Math.min(width, LOOKS), height: Math.min(height, LOOKS) }
  const found: Float64Array[] = bands.map(() => new Float64Array(looks.width * looks.height))
  const counts = bands.map(() => 0)
  for (let row = 0; row < looks.height; row++) {
    const y = Math.floor(((row + 0.5) * height) / looks.height)
    const rows = (await image.readRasters({ window: [0, y, width, y + 1], samples: [...bands] })) as unknown as ArrayLike<number>[]
    bands.forEach((_, i) => {
      for (let column = 0; column < looks.width; column++) {
        const value = rows[i]![Math.floor(((column + 0.5) * width) / looks.width)]!
        if (Number.isFinite(value) && value !== nothing) found[i]![counts[i]!++] = value
      }
    })
  }
  return bands.map((_, i) => {
    const sorted = found[i]!.subarray(0, counts[i]).sort()
    const at = (share: number) => sorted[Math.min(sorted.length - 1, Math.floor(share * sorted.length))] ?? 0
    return [at(CUT), at(1 - CUT), at(0.999)]
  })
}

/** Rows that are read at a time. */
const ROWS = 128

/** Reads a measured TIFF as a picture: RGBA, row by row. @param onProgress called with the share of the rows that have been read, 0..1 */
export async function readBands(
  { image, width, height, shown, alpha, ranges, nothing }: TiffBands,
  onProgress: (share: number) => void,
): Promise<Buffer> {
  const pixels = Buffer.alloc(4 * width * height)
  const samples = [...new Set([...shown, ...(alpha ? [alpha.band] : [])])]
  const scales = ranges.map(([low, high]) => ({ low, by: high === low ? 0 : 255 / (high - low) }))
  for (let top = 0; top < height; top += ROWS) {
    const bottom = Math.min(height, top + ROWS)
    const rasters = (await image.readRasters({ window: [0, top, width, bottom], samples })) as unknown as ArrayLike<number>[]
    const bands = shown.map((band) => rasters[samples.indexOf(band)]!)
    const opacities = alpha && rasters[samples.indexOf(alpha.band)]!
    for (let i = 0; i < (bottom - top) * width; i++) {
      const at = 4 * (top * width + i)
      const isThere = bands.some((band) => band[i] !== nothing && Number.isFinite(band[i]))
      pixels[at + 3] = isThere ? (opacities ? clamp(Math.round((255 * opacities[i]!) / alpha.opaque), 0, 255) : 255) : 0
      if (isThere) for (let c = 0; c < 3; c++) pixels[at + c] = clamp(Math.round((bands[c]![i]! - scales[c]!.low) * scales[c]!.by), 0, 255)
    }
    onProgress(bottom / height)
  }
  return pixels
}
