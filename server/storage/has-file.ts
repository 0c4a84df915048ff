import type { FileKind } from '#core/journey/files'
import { hasAudio } from './audio-files'
import type { Db } from './database'
import { hasFont } from './font-files'
import { findImage } from './images'
import { hasLut } from './lut-files'

/** Whether a file that a journey names is in a data folder. */
export function hasFile(db: Db, folder: string, kind: FileKind, hash: string): boolean {
  switch (kind) {
    case 'images':
      return findImage(db, hash) !== undefined
    case 'fonts':
      return hasFont(folder, hash)
    case 'audio':
      return hasAudio(folder, hash)
    case 'luts':
      return hasLut(folder, hash)
    default:
      return kind satisfies never
  }
}
