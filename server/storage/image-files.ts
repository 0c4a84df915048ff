import { join } from 'node:path'

/** Where the files of an image lie: the original by its content hash, and beside it its tiles. */
export const imagePath = (folder: string, hash: string): string => join(folder, 'images', hash.slice(0, 2), hash)
export const tilesPath = (folder: string, hash: string): string => `${imagePath(folder, hash)}.tiles`
