import type { Size } from '../camera/view'

/** Of each image smaller copies are kept: level k has 1/2^k of its size. They go down to this many pixels on the longer side. */
const SMALLEST_LEVEL = 1024

/** An image up to this many pixels on the longer side is also kept as level 0; of larger ones only the original has its full size. */
const LARGEST_LEVEL = 4096

/** Numbers of the levels kept of an image, the largest first. */
export function levelsOf({ width, height }: Size): number[] {
  const side = Math.max(width, height)
  const first = side > LARGEST_LEVEL ? 1 : 0
  const levels = [first]
  for (let k = first + 1; side / 2 ** (k - 1) > SMALLEST_LEVEL; k++) levels.push(k)
  return levels
}

/** Size of a level in pixels. */
export const levelSize = (size: Size, level: number): Size => ({
  width: Math.max(1, Math.round(size.width / 2 ** level)),
  height: Math.max(1, Math.round(size.height / 2 ** level)),
})

/** The smallest of some levels that has at least one pixel for each output pixel, where level 0 has `sharpness` of them; undefined if none has. */
export const levelFor = (levels: readonly number[], sharpness: number): number | undefined =>
  [...levels].sort((a, b) => b - a).find((level) => sharpness / 2 ** level >= 1)
