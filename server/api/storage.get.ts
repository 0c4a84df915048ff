import { statSync } from 'node:fs'
import { defineEventHandler } from 'h3'
import { exportFile } from '../exports/queue'
import { database, dataFolder } from '../storage/database'
import { finishedExports } from '../storage/exports'
import { listFiled } from '../storage/filed'
import { imagePath, tilesPath } from '../storage/image-files'
import { listImages, unusedImages } from '../storage/images'
import { deletedJourneys } from '../storage/journeys'

const sizeOf = (path: string): number => statSync(path, { throwIfNoEntry: false })?.size ?? 0

/** What takes up room in the data folder: pictures with their tiles, films, sounds, fonts, tables of colours, and journeys that were deleted but can be restored. */
export default defineEventHandler(() => {
  const db = database()
  const folder = dataFolder()
  const unused = new Set(unusedImages(db, 0))
  return {
    deleted: deletedJourneys(db),
    films: finishedExports(db).map((film) => ({
      id: film.id,
      name: film.name,
      createdAt: film.createdAt,
      bytes: sizeOf(exportFile(film)),
    })),
    pictures: listImages(db).map(({ hash, format, width, height }) => ({
      hash,
      format,
      width,
      height,
      bytes: sizeOf(imagePath(folder, hash)) + sizeOf(tilesPath(folder, hash)),
      isUsed: !unused.has(hash),
    })),
    audio: listFiled(db, folder, 'audio'),
    fonts: listFiled(db, folder, 'fonts'),
    luts: listFiled(db, folder, 'luts'),
  }
})
