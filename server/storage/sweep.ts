import { existsSync, readdirSync, rmSync } from 'node:fs'
import { join } from 'node:path'
import { closeTileFile } from '../sheets/tile-file'
import type { Db } from './database'
import type { ExportRecord } from './exports'
import { filmFileName, isFilmFile } from './film-files'
import { imagePath, tilesPath } from './image-files'
import { deleteImage, unusedImages } from './images'

/** Deletes images that have been unused for an age in milliseconds: maps that were tried and dropped, or replaced. */
export function sweepImages(db: Db, folder: string, age: number): void {
  for (const hash of unusedImages(db, age)) removeImage(db, folder, hash)
}

/** Deletes an image with its files. */
export function removeImage(db: Db, folder: string, hash: string): void {
  deleteImage(db, hash)
  closeTileFile(tilesPath(folder, hash))
  for (const path of [tilesPath(folder, hash), imagePath(folder, hash)]) rmSync(path, { force: true })
}

/** Removes from a data folder what a stopped server may have left: unfinished files, and films of deleted journeys. */
export function sweepFiles(folder: string, exportsKept: readonly Pick<ExportRecord, 'id' | 'format'>[]): void {
  const kept = new Set(exportsKept.map(filmFileName))
  const clear = (name: string, isStale: (file: string) => boolean) => {
    const path = join(folder, name)
    if (!existsSync(path)) return
    for (const file of readdirSync(path))
      if (isStale(file)) rmSync(join(path, file), { recursive: true, force: true, maxRetries: 5, retryDelay: 200 })
  }
  clear('exports', (file) => isFilmFile(file) && !kept.has(file))
  clear('images', (file) => file.startsWith('incoming-'))
  clear('audio', (file) => file.startsWith('incoming-'))
  // What has come is named by its hash alone.
  for (const kind of ['fonts', 'luts']) clear(kind, (file) => !/^[0-9a-f]{64}$/.test(file))
}
