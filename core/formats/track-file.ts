import { strFromU8, unzipSync } from 'fflate'
import { JourneyError } from '../journey/error'
import type { Track } from './track'
import { readTrack } from './read-track'
import { TRACK_LIMITS } from './track'

/** Reads a file of tracks as it comes: text, or KMZ, which is KML in a ZIP. @throws as readTrack */
export function readTrackFile(bytes: Uint8Array, name: string, swap = false, onProgress?: (share: number) => void): Track {
  if (bytes.length === 0) throw new JourneyError(`“${name}” is empty.`)
  const isZip = bytes[0] === 0x50 && bytes[1] === 0x4b
  return readTrack(textOf(isZip ? kmlOf(bytes, name) : bytes), name, swap, onProgress)
}

/** The one-byte encodings found in track files, all read as the first; they differ from it only in characters that names seldom have. */
const LATIN = /^(iso-?8859-?(1|15)|latin-?[19]|windows-?1252|cp-?1252|us-ascii)$/i

/** The characters of a file: UTF-16 by its first bytes, what its XML declaration says, or else UTF-8. Source: W3C XML 1.0, appendix F. */
function textOf(bytes: Uint8Array): string {
  const [first, second] = bytes
  if ((first === 0xff && second === 0xfe) || (first === 0x3c && second === 0)) return fromUtf16(bytes, 0)
  if ((first === 0xfe && second === 0xff) || (first === 0 && second === 0x3c)) return fromUtf16(bytes, 1)
  const [, encoding = ''] = /^\s*<\?xml[^>]{0,100}encoding=["']([\w.:-]{1,40})["']/.exec(strFromU8(bytes.subarray(0, 200), true)) ?? []
  return strFromU8(bytes, LATIN.test(encoding))
}

/** @param low where in each pair of bytes the low one stands */
function fromUtf16(bytes: Uint8Array, low: 0 | 1): string {
  const units = new Uint16Array(bytes.length >> 1)
  for (let i = 0; i < units.length; i++) units[i] = bytes[2 * i + low]! | (bytes[2 * i + 1 - low]! << 8)
  const parts: string[] = []
  for (let at = 0; at < units.length; at += 8192) parts.push(String.fromCharCode(...units.subarray(at, at + 8192)))
  return parts.join('')
}

/** The first KML of a KMZ (OGC 12-007r2, annex C). Its stated size is checked before it is unpacked. */
function kmlOf(bytes: Uint8Array, name: string): Uint8Array {
  let found = ''
  try {
    const files = unzipSync(bytes, {
      filter({ name: entry, originalSize }) {
        if (found || !entry.toLowerCase().endsWith('.kml')) return false
        if (originalSize > TRACK_LIMITS.bytes)
          throw new JourneyError(`“${name}” holds a KML larger than ${TRACK_LIMITS.bytes / 1024 ** 2} MiB: cut it into parts.`)
        found = entry
        return true
      },
    })
    const kml = files[found]
    if (kml) return kml
  } catch (error) {
    throw error instanceof JourneyError ? error : new JourneyError(`“${name}” is a damaged ZIP: export it again.`, { cause: error })
  }
  throw new JourneyError(`“${name}” is a ZIP without a KML in it.`)
}
