import { unzipSync } from 'fflate'
import { JourneyError } from '../error'
import type { Track } from '../tracks/track'
import { readTrack } from './read-track'
import { TRACK_LIMITS } from '../tracks/track'
import { xmlText } from './xml-text'

/** Reads a file of tracks as it comes: text, or KMZ, which is KML in a ZIP. @throws as readTrack */
export function readTrackFile(bytes: Uint8Array, name: string, swap = false, onProgress?: (share: number) => void): Track {
  if (bytes.length === 0) throw new JourneyError(`“${name}” is empty.`)
  const isZip = bytes[0] === 0x50 && bytes[1] === 0x4b
  return readTrack(xmlText(isZip ? kmlOf(bytes, name) : bytes), name, swap, onProgress)
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
