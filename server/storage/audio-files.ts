import { existsSync } from 'node:fs'
import { join } from 'node:path'

/** The path of a piece of sound by the content hash of its file: decoded, two channels in turn of 16-bit integers, at 48 000 samples a second. */
export const audioPath = (folder: string, hash: string): string => join(folder, 'audio', `${hash}.pcm`)

export const hasAudio = (folder: string, hash: string): boolean => existsSync(audioPath(folder, hash))
