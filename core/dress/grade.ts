import { clamp } from '../geometry/clamp'
import type { Grade } from '../journey/schema'
import type { ColourCube } from '../colour/cube'
import { cubeAt } from '../colour/cube'
import { fromLinear, toLinear } from '../colour/srgb'

/** Places along each side of the lattice of a grade that has no table of its own. */
const SIDE = 33

/** Weights of red, green and blue in luma: ITU-R BT.709. */
const [RED, GREEN, BLUE] = [0.2126, 0.7152, 0.0722] as const

/** At full warmth red has so many stops more, and blue as many less. */
const WARMEST = 0.5

/** Whether a grade does anything to colours by themselves, wherever they are. */
export const changesColours = ({ exposure, contrast, warmth, saturation, lut }: Grade): boolean =>
  exposure !== 0 || contrast !== 0 || warmth !== 0 || saturation !== 0 || (lut !== null && lut.strength > 0)

/**
 * What a grade makes of colours, as one table from 0 to 1: exposure and warmth in linear light, then contrast about the middle and saturation about the luma
 * of gamma-coded values, as most picture programs do (common practice, no source), and the table that it has over them.
 *
 * @param cube the table that the grade names
 */
export function gradeCube(grade: Grade, cube?: ColourCube): ColourCube {
  const { exposure, contrast, warmth, saturation, lut } = grade
  const size = Math.max(SIDE, cube?.size ?? 0)
  const values = new Float32Array(3 * size ** 3)
  const curve = (stops: number) =>
    Float32Array.from({ length: size }, (_, i) => {
      const exposed = fromLinear(clamp(toLinear(i / (size - 1)) * 2 ** stops, 0, 1))
      return 0.5 + (exposed - 0.5) * (1 + contrast)
    })
  const [reds, greens, blues] = [curve(exposure + WARMEST * warmth), curve(exposure), curve(exposure - WARMEST * warmth)]
  const seen = new Float64Array(3)
  const vivid = 1 + saturation
  const share = cube && lut ? lut.strength : 0
  let at = 0
  for (const blue of blues)
    for (const green of greens)
      for (const red of reds) {
        const luma = RED * red + GREEN * green + BLUE * blue
        const r = clamp(luma + (red - luma) * vivid, 0, 1)
        const g = clamp(luma + (green - luma) * vivid, 0, 1)
        const b = clamp(luma + (blue - luma) * vivid, 0, 1)
        if (share > 0) cubeAt(cube!, r, g, b, seen)
        values[at++] = r + (seen[0]! - r) * share
        values[at++] = g + (seen[1]! - g) * share
        values[at++] = b + (seen[2]! - b) * share
      }
  return { size, values, from: [0, 0, 0], to: [1, 1, 1] }
}
