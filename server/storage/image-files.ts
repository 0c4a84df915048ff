import { join } from 'node:path'

/** Where the files of an image lie: the original by its content hash, and beside it copies at half, a quarter, ... of its size. */
export const imagePath = (folder: string, hash: string): string => join(folder, 'images', hash.slice(0, 2), hash)
export const levelPath = (folder: string, hash: string, level: number): string => `${imagePath(folder, hash)}.${level}.webp`
