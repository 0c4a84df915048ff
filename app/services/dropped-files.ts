import { unzip } from 'fflate'
import { JOURNEY_FILE_ENDING } from '#core/formats/journey-file'

/** So many files are taken at once, and so much of a ZIP file, unpacked; further down than so many folders nothing is looked for. */
const MOST_FILES = 1000
const MOST_ZIP_BYTES = 1024 ** 3
const DEEPEST = 8

/** Files in which a trip may be written. */
export const TEXT_FILES = ['.txt', '.md', '.csv', '.tsv', '.ics'] as const
export const isTextFile = ({ name }: File): boolean => TEXT_FILES.some((ending) => name.toLowerCase().endsWith(ending))

export const isJourneyFile = ({ name }: File): boolean => name.toLowerCase().endsWith(JOURNEY_FILE_ENDING)

/** All files of a drop, also those in folders. */
export async function filesDropped(transfer: DataTransfer): Promise<File[]> {
  // The list of items is emptied as soon as the event is over.
  const dropped = [...transfer.items].filter(({ kind }) => kind === 'file').map((item) => ({ entry: item.webkitGetAsEntry(), file: item.getAsFile() })) // prettier-ignore
  const files: File[] = []
  for (const { entry, file } of dropped)
    if (entry?.isDirectory) await collect(entry as FileSystemDirectoryEntry, files, 0)
    else if (file) files.push(file)
  return files.slice(0, MOST_FILES)
}

async function collect(folder: FileSystemDirectoryEntry, files: File[], depth: number): Promise<void> {
  const reader = folder.createReader()
  while (depth < DEEPEST && files.length < MOST_FILES) {
    // A reader gives a hundred entries at a time, and none at the end.
    const entries = await new Promise<FileSystemEntry[]>((resolve, reject) => reader.readEntries(resolve, reject))
    if (entries.length === 0) return
    for (const entry of entries)
      if (entry.isDirectory) await collect(entry as FileSystemDirectoryEntry, files, depth + 1)
      else files.push(await new Promise<File>((resolve, reject) => (entry as FileSystemFileEntry).file(resolve, reject)))
  }
}

export const isZip = ({ name }: File): boolean => name.toLowerCase().endsWith('.zip')

/**
 * The files of a ZIP file that are wanted.
 * @throws Error with a sentence if it cannot be read, or would unpack to too much
 */
export async function filesInZip(zip: File, isWanted: (file: { name: string }) => boolean): Promise<File[]> {
  const bytes = new Uint8Array(await zip.arrayBuffer())
  let [count, sum, isTooMuch] = [0, 0, false]
  const unpacked = await new Promise<Record<string, Uint8Array<ArrayBuffer>>>((resolve, reject) =>
    unzip(
      bytes,
      {
        filter({ name, originalSize }) {
          const base = baseOf(name)
          // What macOS writes beside each file is no photo.
          if (base.startsWith('.') || name.startsWith('__MACOSX/') || !isWanted({ name: base })) return false
          count++
          sum += originalSize
          isTooMuch ||= count > MOST_FILES || sum > MOST_ZIP_BYTES
          return !isTooMuch
        },
      },
      (error, found) => (error ? reject(new Error(`“${zip.name}” is no ZIP file that can be read.`)) : resolve(found as typeof unpacked)),
    ),
  )
  if (isTooMuch) throw new Error(`“${zip.name}” unpacks to more than ${MOST_FILES} files or ${MOST_ZIP_BYTES / 1024 ** 3} GiB: take fewer.`)
  return Object.entries(unpacked).map(([name, data]) => new File([data], baseOf(name)))
}

const baseOf = (path: string): string => path.split('/').at(-1)!
