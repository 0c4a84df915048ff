/** Limits of an image file: bytes, pixels, and pixels on one side. */
export const IMAGE_LIMITS = {
  bytes: 2 * 1024 ** 3,
  pixels: 600_000_000,
  side: 120_000,
  /** The most memory of a picture that can only be decoded whole: interlaced, turned by its EXIF data, AVIF or WebP. In bytes. */
  wholeBytes: 840_000_000,
  /** The most bytes of a drawing (SVG), which is read whole. */
  drawingBytes: 64 * 1024 ** 2,
  /** The most pixels of the pictures in a drawing, all together: all are decoded whole. */
  drawingPixels: 80_000_000,
} as const

/** The message for a larger file. */
export const tooManyBytes = (name: string): string =>
  `“${name}” is larger than ${IMAGE_LIMITS.bytes / 1024 ** 3} GiB: save it as JPEG or WebP, or scale it down.`

/** The kinds of file that can become a sheet, with their file name extensions. */
export const SHEET_FORMATS = {
  png: { label: 'PNG', extensions: ['.png'] },
  jpeg: { label: 'JPEG', extensions: ['.jpg', '.jpeg', '.jpe', '.jfif'] },
  webp: { label: 'WebP', extensions: ['.webp'] },
  tiff: { label: 'TIFF', extensions: ['.tif', '.tiff'] },
  avif: { label: 'AVIF', extensions: ['.avif'] },
  svg: { label: 'SVG', extensions: ['.svg'] },
  pdf: { label: 'PDF', extensions: ['.pdf'] },
  mbtiles: { label: 'MBTiles', extensions: ['.mbtiles'] },
  pmtiles: { label: 'PMTiles', extensions: ['.pmtiles'] },
  map: { label: 'Generated map', extensions: ['.json'] },
} as const

export type SheetFormat = keyof typeof SHEET_FORMATS

/** For the `accept` attribute of a file input. */
export const SHEET_EXTENSIONS: string[] = Object.values(SHEET_FORMATS).flatMap(({ extensions }) => extensions)

/** The kinds as text. */
export const SHEET_FORMAT_WORDS = 'PNG, JPEG, WebP, TIFF, AVIF, SVG, PDF, MBTiles or PMTiles'

/** The kind of a file by its name's extension. */
export function formatOfName(name: string): SheetFormat | undefined {
  const extension = /\.\w+$/.exec(name.toLowerCase())?.[0]
  return (Object.keys(SHEET_FORMATS) as SheetFormat[]).find((format) =>
    (SHEET_FORMATS[format].extensions as readonly string[]).includes(extension ?? ''),
  )
}
