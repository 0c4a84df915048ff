import { open } from 'node:fs/promises'
import { JourneyError } from '#core/error'
import { RECIPE_START } from '#core/maps/recipe'
import type { SheetFormat } from '#core/sheet/limits'
import { formatOfName, SHEET_FORMATS, SHEET_FORMAT_WORDS } from '#core/sheet/limits'

const startsWith = (head: Buffer, ...bytes: number[]) => head.subarray(0, bytes.length).equals(Buffer.from(bytes))

/** The format indicated by a file's first bytes. */
export function formatOfBytes(head: Buffer): SheetFormat | undefined {
  const text = head.toString('latin1')
  if (startsWith(head, 0x89, 0x50, 0x4e, 0x47, 0x0d, 0x0a, 0x1a, 0x0a)) return 'png'
  if (startsWith(head, 0xff, 0xd8, 0xff)) return 'jpeg'
  if (text.startsWith('RIFF') && text.slice(8, 12) === 'WEBP') return 'webp'
  if (
    startsWith(head, 0x49, 0x49, 42, 0) ||
    startsWith(head, 0x4d, 0x4d, 0, 42) ||
    startsWith(head, 0x49, 0x49, 43, 0) ||
    startsWith(head, 0x4d, 0x4d, 0, 43)
  )
    return 'tiff'
  if (text.slice(4, 8) === 'ftyp' && /avi[fs]|mif1/.test(text.slice(8, 32))) return 'avif'
  if (text.startsWith('%PDF-')) return 'pdf'
  if (text.startsWith('SQLite format 3\0')) return 'mbtiles'
  if (text.startsWith('PMTiles')) return 'pmtiles'
  if (text.startsWith(RECIPE_START)) return 'map'
  // In UTF-16 every second byte is 0.
  if (/^(\xef\xbb\xbf|\xff\xfe|\xfe\xff)?\s*<(\?xml|!--|!doctype svg|svg|\w+:svg)/i.test(text.replaceAll('\0', ''))) return 'svg'
  return undefined
}

/**
 * Identifies a file by its first bytes.
 * @throws JourneyError if it cannot become a sheet, or is something else than its name says.
 */
export async function recogniseFile(path: string, name: string): Promise<SheetFormat> {
  const format = await formatOfFile(path)
  if (!format) {
    const claim = formatOfName(name) ? ', whatever its name says' : ''
    throw new JourneyError(`“${name}” is not a ${SHEET_FORMAT_WORDS} file${claim}: choose a map in one of these formats.`)
  }
  checkName(name, format)
  return format
}

/** What a file is by its first bytes, whatever its name; undefined if it cannot become a sheet. */
export async function formatOfFile(path: string): Promise<SheetFormat | undefined> {
  const file = await open(path)
  const head = Buffer.alloc(512)
  try {
    const { bytesRead } = await file.read(head, 0, head.length, 0)
    return formatOfBytes(head.subarray(0, bytesRead))
  } finally {
    await file.close()
  }
}

/** @throws JourneyError if a file's name claims another format than its content has. */
function checkName(name: string, format: SheetFormat): void {
  const named = formatOfName(name)
  if (named === format) return
  const { label, extensions } = SHEET_FORMATS[format]
  const claim = named ? `is named like a ${SHEET_FORMATS[named].label} file` : 'has a name without the ending of a map file'
  throw new JourneyError(
    `“${name}” ${claim}, but holds a ${label}: if it is the right file, rename it to end in ${extensions[0]} and import it again.`,
  )
}
