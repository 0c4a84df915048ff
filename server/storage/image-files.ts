import { join } from 'node:path'

/** Where the files of an image lie: the original by its content hash, and beside it copies at half, a quarter, ... of its size. */
export const imagePath = (folder: string, hash: string): string => join(folder, 'images', hash.slice(0, 2), hash)
export const levelPath = (folder: string, hash: string, level: number): string => `${imagePath(folder, hash)}.${level}.webp`

/** Copies are made down to this many pixels on the longer side. */
const SMALLEST_LEVEL = 1024

/** An original up to this many pixels on the longer side is also kept as level 0 for the browser; of larger ones it gets level 1 and up. */
export const LARGEST_IN_BROWSER = 4096

/** Numbers of the levels kept of an image, the largest first. Level k has 1/2^k of the original's size. */
export function levelsOf({ width, height }: { width: number; height: number }): number[] {
  const side = Math.max(width, height)
  const first = side > LARGEST_IN_BROWSER ? 1 : 0
  const levels = [first]
  for (let k = first + 1; side / 2 ** (k - 1) > SMALLEST_LEVEL; k++) levels.push(k)
  return levels
}

/** Size of a level in pixels. */
export const levelSize = (size: { width: number; height: number }, level: number) => ({
  width: Math.max(1, Math.round(size.width / 2 ** level)),
  height: Math.max(1, Math.round(size.height / 2 ** level)),
})
