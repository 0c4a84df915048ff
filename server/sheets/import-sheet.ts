import { existsSync } from 'node:fs'
import { mkdir, open, rename, rm } from 'node:fs/promises'
import { dirname, join } from 'node:path'
import type { Readable } from 'node:stream'
import { nanoid } from 'nanoid'
import { JourneyError } from '#core/error'
import type { SheetFormat } from '#core/sheet/limits'
import { IMAGE_LIMITS, tooManyBytes } from '#core/sheet/limits'
import type { Db } from '../storage/database'
import { imagePath, tilesPath } from '../storage/image-files'
import type { ImageRecord } from '../storage/images'
import { findImage, insertImage } from '../storage/images'
import type { Received } from '../storage/receive'
import { receive } from '../storage/receive'
import { formatOfFile, recogniseFile } from './files'
import { readFileInProcess } from './reader'
import { closeTileFile, hasTileFile } from './tile-file'

/** A received file that can become an image. */
export interface ReceivedFile extends Received {
  name: string
  format: SheetFormat
}

export interface ImportOptions {
  /** Called with the share of the work done, 0..1. */
  onProgress?: (share: number) => void
  signal?: AbortSignal
}

/** The result of an import: the image, and the peak memory of reading it in MiB; 0 if the image was stored already. */
export interface Imported {
  image: ImageRecord
  peakMiB: number
}

/** Receives a file. @throws JourneyError if it is empty, too large or not a map file; nothing of it is kept then. */
export async function receiveFile(folder: string, name: string, source: Readable): Promise<ReceivedFile> {
  const received = await receive(folder, name, source, { bytes: IMAGE_LIMITS.bytes, tooMany: tooManyBytes(name) })
  try {
    return { ...received, name, format: await recogniseFile(received.path, name) }
  } catch (error) {
    await rm(received.path, { force: true })
    throw error
  }
}

/**
 * Makes an image from a received file: checks it, cuts it into tiles, and stores both under its content hash. The same file is stored once.
 * @throws JourneyError saying what is wrong with the file, the signal's reason when aborted; nothing is left then.
 */
export async function importReceived(
  db: Db,
  folder: string,
  file: ReceivedFile,
  { onProgress = () => {}, signal }: ImportOptions = {},
): Promise<Imported> {
  const { path, name, format, hash, bytes } = file
  const target = imagePath(folder, hash)
  const unfinished = `${path}.tiles`
  try {
    const known = findImage(db, hash)
    if (known && hasTileFile(tilesPath(folder, hash)) && existsSync(target)) return { image: known, peakMiB: 0 }
    const { built, peakMiB } = await readFileInProcess({ do: 'import', path, name, format, tiles: unfinished }, onProgress, signal)
    await mkdir(dirname(target), { recursive: true })
    closeTileFile(tilesPath(folder, hash))
    for (const [from, to] of [
      [unfinished, tilesPath(folder, hash)],
      [path, target],
    ] as const) {
      await flush(from)
      await rename(from, to)
    }
    await flush(dirname(target))
    const image: ImageRecord = { hash, format, bytes, ...built }
    insertImage(db, image)
    return { image, peakMiB }
  } finally {
    for (const left of [path, unfinished, `${unfinished}-journal`, `${unfinished}-cut_files`, `${unfinished}-cut.dzi`])
      await rm(left, { recursive: true, force: true, maxRetries: 5 })
  }
}

/** Has what was written to a file, or the names in a folder, reach the disk, so that a power cut does not take it back. */
async function flush(path: string): Promise<void> {
  const file = await open(path)
  try {
    await file.sync()
  } finally {
    await file.close()
  }
}

/** Receives and imports a file in one go. */
export const importSheetFile = async (db: Db, folder: string, name: string, source: Readable, options?: ImportOptions): Promise<Imported> =>
  importReceived(db, folder, await receiveFile(folder, name, source), options)

/** Cuts the tiles of images that have none, such as those from an earlier version. One that can no longer be read is left as it is. */
export async function cutMissingTiles(folder: string, images: readonly ImageRecord[]): Promise<void> {
  for (const { hash } of images) {
    if (existsSync(tilesPath(folder, hash)) || !existsSync(imagePath(folder, hash))) continue
    await cutTilesAgain(folder, hash).catch((error: unknown) => console.error(`The tiles of image ${hash} cannot be made:`, error))
  }
}

/** Makes the tile file of an image again, from the original beside it. @throws JourneyError if the original cannot be read */
export async function cutTilesAgain(folder: string, hash: string): Promise<void> {
  const path = imagePath(folder, hash)
  const tiles = join(folder, 'images', `incoming-${nanoid(10)}.tiles`)
  try {
    const format = await formatOfFile(path)
    if (!format) throw new JourneyError('The original of a picture is damaged: import it again.')
    await readFileInProcess({ do: 'import', path, name: 'A picture', format, tiles }, () => {})
    await flush(tiles)
    closeTileFile(tilesPath(folder, hash))
    await rename(tiles, tilesPath(folder, hash))
  } finally {
    await rm(tiles, { force: true })
  }
}
