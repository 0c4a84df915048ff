/** What an image file may have: bytes, pixels, and pixels on one side. */
export const IMAGE_LIMITS = {
  bytes: 2 * 1024 ** 3,
  pixels: 600_000_000,
  side: 120_000,
  /** Pixels of a picture that can only be decoded whole: interlaced, turned by its EXIF data, AVIF or WebP. */
  wholePixels: 270_000_000,
  /** Bytes of a drawing (SVG), which is read whole. */
  drawingBytes: 64 * 1024 ** 2,
} as const

/** The message for a larger file. */
export const tooManyBytes = (name: string): string =>
  `“${name}” is larger than ${IMAGE_LIMITS.bytes / 1024 ** 3} GiB: save it as JPEG or WebP, or scale it down.`

/** Kinds of file that can become a sheet, with the endings of their names. */
export const SHEET_FORMATS = {
  png: { label: 'PNG', extensions: ['.png'] },
  jpeg: { label: 'JPEG', extensions: ['.jpg', '.jpeg', '.jpe', '.jfif'] },
  webp: { label: 'WebP', extensions: ['.webp'] },
  tiff: { label: 'TIFF', extensions: ['.tif', '.tiff'] },
  avif: { label: 'AVIF', extensions: ['.avif'] },
  svg: { label: 'SVG', extensions: ['.svg'] },
  pdf: { label: 'PDF', extensions: ['.pdf'] },
  mbtiles: { label: 'MBTiles', extensions: ['.mbtiles'] },
} as const

export type SheetFormat = keyof typeof SHEET_FORMATS

/** For a file picker's list of what to offer. */
export const SHEET_EXTENSIONS: string[] = Object.values(SHEET_FORMATS).flatMap(({ extensions }) => extensions)

/** The kinds in words. */
export const SHEET_FORMAT_WORDS = 'PNG, JPEG, WebP, TIFF, AVIF, SVG, PDF or MBTiles'

/** The kind that a file's name tells, by its ending. */
export function formatOfName(name: string): SheetFormat | undefined {
  const extension = /\.\w+$/.exec(name.toLowerCase())?.[0]
  return (Object.keys(SHEET_FORMATS) as SheetFormat[]).find((format) =>
    (SHEET_FORMATS[format].extensions as readonly string[]).includes(extension ?? ''),
  )
}
