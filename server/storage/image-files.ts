import { join } from 'node:path'

/** The paths of an image's files: the original by its content hash, and its tiles beside it. */
export const imagePath = (folder: string, hash: string): string => join(folder, 'images', hash.slice(0, 2), hash)
export const tilesPath = (folder: string, hash: string): string => `${imagePath(folder, hash)}.tiles`
