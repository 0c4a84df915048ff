import { existsSync } from 'node:fs'
import { join } from 'node:path'

/** The path of a font file of one's own, by its content hash. */
export const fontPath = (folder: string, hash: string): string => join(folder, 'fonts', hash)

export const hasFont = (folder: string, hash: string): boolean => existsSync(fontPath(folder, hash))
