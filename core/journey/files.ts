import { imagesOf } from './images'
import type { Journey } from './schema'

/** The files that a journey names by the SHA-256 of what came: the originals of its images, its fonts, its sounds, and the table of its colour grade. */

export const FILE_KINDS = ['images', 'fonts', 'audio', 'luts'] as const
export type FileKind = (typeof FILE_KINDS)[number]

export interface NamedFile {
  kind: FileKind
  hash: string
  /** What to tell people if it is not here. */
  missing: string
}

/** All files of a journey; one that is used more than once is there as often. */
export function filesOf(journey: Journey): NamedFile[] {
  const { lut } = journey.grade ?? {}
  return [
    ...imagesOf(journey).map(({ image, missing }): NamedFile => ({ kind: 'images', hash: image.image, missing })),
    ...journey.fonts.map(({ file, name }): NamedFile => ({
      kind: 'fonts',
      hash: file,
      missing: `The font “${name}” is not here: add its file again.`,
    })),
    ...journey.audio.map(({ file, name }): NamedFile => ({
      kind: 'audio',
      hash: file,
      missing: `The sound “${name}” is not here: add its file again.`,
    })),
    ...(lut ? [{ kind: 'luts', hash: lut.file, missing: `The LUT “${lut.name}” is not here: add its file again.` } as const] : []),
  ]
}
