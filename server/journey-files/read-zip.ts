import type { Readable } from 'node:stream'
import { buffer } from 'node:stream/consumers'
import { promisify } from 'node:util'
import type { Entry as ZipEntry, ZipFile } from 'yauzl'
import { open } from 'yauzl'
import { JourneyError } from '#core/error'
import type { Entry } from '#core/formats/journey-file'
import { entryOf, JOURNEY_FILE_LIMITS, mostBytesOf } from '#core/formats/journey-file'

/** An entry of a journey file. */
export interface Packed {
  entry: Entry
  bytes: number
  /** Its bytes, as many as are said at most. */
  stream: () => Promise<Readable>
}

export interface OpenZip {
  entries: ReadonlyMap<string, Packed>
  close: () => void
}

const openFile = promisify<string, object, ZipFile>(open as never)

/**
 * Opens a journey file and looks through the list of what is in it. Sizes are taken from that list, and an entry that unpacks to more is refused while it is
 * read. What does not belong in a journey file is passed over, as are folders.
 * @param name for the messages
 * @throws JourneyError if it is no ZIP file, or would unpack to too much
 */
export async function openZip(path: string, name: string): Promise<OpenZip> {
  const damaged = (why: string) => new JourneyError(`“${name}” is no journey file that can be read: ${why}.`)
  const zip = await openFile(path, { lazyEntries: true, autoClose: false, validateEntrySizes: true }).catch((error: Error) => {
    throw damaged(error.message)
  })
  const entries = new Map<string, Packed>()
  let sum = 0
  try {
    if (zip.entryCount > JOURNEY_FILE_LIMITS.entries)
      throw damaged(`it has ${zip.entryCount} entries, and ${JOURNEY_FILE_LIMITS.entries} at most are read`)
    await new Promise<void>((resolve, reject) => {
      zip.on('error', (error: Error) => reject(damaged(error.message)))
      zip.on('end', resolve)
      zip.on('entry', (each: ZipEntry) => {
        const entry = entryOf(each.fileName)
        if (entry) {
          const bytes = each.uncompressedSize
          sum += bytes
          if (bytes > mostBytesOf(entry)) return reject(damaged(`“${each.fileName}” in it would unpack to ${sizeIn(bytes)}`))
          if (sum > JOURNEY_FILE_LIMITS.unpacked)
            return reject(damaged(`it would unpack to more than ${sizeIn(JOURNEY_FILE_LIMITS.unpacked)}`))
          if (each.isEncrypted()) return reject(damaged('it is encrypted'))
          entries.set(each.fileName, { entry, bytes, stream: () => openEntry(zip, each) })
        }
        zip.readEntry()
      })
      zip.readEntry()
    })
  } catch (error) {
    zip.close()
    throw error
  }
  return { entries, close: () => zip.close() }
}

const sizeIn = (bytes: number): string => `${(bytes / 1024 ** 2).toLocaleString('en', { maximumFractionDigits: 0 })} MiB`

const openEntry = (zip: ZipFile, entry: ZipEntry): Promise<Readable> =>
  new Promise((resolve, reject) => zip.openReadStream(entry, (error, stream) => (error ? reject(error) : resolve(stream))))

/** A document in a journey file. @throws JourneyError if it is not there, damaged or no JSON */
export async function readDocument({ entries }: OpenZip, entry: string, name: string): Promise<unknown> {
  const packed = entries.get(entry)
  if (!packed) throw new JourneyError(`“${name}” is no journey file: there is no ${entry} in it.`)
  const bytes = await readEntry(packed).catch((error: Error) => {
    throw new JourneyError(`“${name}” is damaged: ${entry} in it cannot be read (${error.message}).`)
  })
  try {
    return JSON.parse(bytes.toString('utf8'))
  } catch {
    throw new JourneyError(`“${name}” is damaged: ${entry} in it is not JSON.`)
  }
}

/** The bytes of an entry. @throws Error if they cannot be unpacked */
export const readEntry = async ({ stream }: Packed): Promise<Buffer> => buffer(await stream())
