import { fractal } from './noise'
import { SHEET } from './places'
import type { HeightField } from './terrain'

type Rgb = readonly [number, number, number]

const ramp =
  (...stops: readonly (readonly [number, Rgb])[]) =>
  (value: number): Rgb => {
    const above = stops.findIndex(([at]) => value < at)
    if (above === 0) return stops[0]![1]
    if (above === -1) return stops.at(-1)![1]
    const [a, from] = stops[above - 1]!
    const [b, to] = stops[above]!
    const u = (value - a) / (b - a)
    return [from[0] + (to[0] - from[0]) * u, from[1] + (to[1] - from[1]) * u, from[2] + (to[2] - from[2]) * u]
  }

const LAND = ramp(
  [0, [232, 220, 178]],
  [0.012, [222, 214, 164]],
  [0.03, [198, 204, 146]],
  [0.12, [184, 193, 134]],
  [0.24, [196, 186, 138]],
  [0.38, [190, 164, 126]],
  [0.55, [178, 152, 128]],
  [0.75, [214, 204, 194]],
  [0.9, [246, 244, 240]],
)
const SEA = ramp(
  [-0.7, [52, 108, 132]],
  [-0.38, [70, 132, 150]],
  [-0.2, [98, 160, 168]],
  [-0.08, [134, 188, 184]],
  [-0.02, [172, 212, 198]],
  [0, [202, 226, 206]],
)

/** Woodland grows where this field is above its threshold, on middling slopes and heights. */
export function woodland(relief: HeightField): (x: number, y: number) => number {
  const where = fractal(77, 260, 4)
  return (x, y) => {
    const h = relief(x, y)
    if (h < 0.035 || h > 0.46) return -1
    return where(x, y) - 0.08 - Math.max(0, h - 0.3) * 2
  }
}

/** Light from the north-west, as on relief maps (common practice, no source); slopes are exaggerated. */
const LIGHT = normalise([-0.62, -0.58, 0.62])
const STEEPNESS = 230

/** Paints sea, shore, relief and the ground of woods, as RGB rows. */
export function paintTerrain(relief: HeightField): Buffer {
  const { width, height } = SHEET
  const pixels = Buffer.alloc(width * height * 3)
  const grain = fractal(91, 5, 2)
  const swell = fractal(92, 90, 3)
  const wooded = woodland(relief)
  let above = new Float32Array(width + 1)
  let here = new Float32Array(width + 1)
  const fill = (row: Float32Array, y: number) => row.forEach((_, x) => (row[x] = relief(x - 0.5, y - 0.5)))
  fill(above, 0)
  for (let y = 0; y < height; y++) {
    fill(here, y + 1)
    for (let x = 0; x < width; x++) {
      const h = here[x]!
      const dx = here[x + 1]! - h
      const dy = h - above[x]!
      let colour: Rgb
      let light: number
      if (h < 0) {
        // Depth bands with soft edges, and a faint swell.
        const band = Math.floor(h * 16) / 16
        colour = mix(SEA(h), SEA(band), 0.4)
        light = 1 + 0.018 * swell(x, y * 2.2)
        if (h > -0.012) colour = mix(colour, [238, 243, 228], 0.55)
      } else {
        colour = LAND(h)
        const wood = wooded(x, y)
        if (wood > 0) colour = mix(colour, [112, 142, 96], Math.min(0.75, wood * 6))
        const n = normalise([-dx * STEEPNESS, -dy * STEEPNESS, 1])
        const lit = n[0] * LIGHT[0] + n[1] * LIGHT[1] + n[2] * LIGHT[2]
        // The brightest slopes are held back, so that snow keeps its shape.
        light = 0.56 + 0.7 * lit - 0.16 * Math.max(0, h - 0.35) * lit
        light += 0.018 * grain(x, y)
        if (h < 0.004) colour = mix(colour, [120, 108, 84], 0.5)
      }
      const k = (y * width + x) * 3
      for (let c = 0; c < 3; c++) pixels[k + c] = Math.max(0, Math.min(255, colour[c]! * light))
    }
    ;[above, here] = [here, above]
  }
  return pixels
}

const mix = (a: Rgb, b: Rgb, u: number): Rgb => [a[0] + (b[0] - a[0]) * u, a[1] + (b[1] - a[1]) * u, a[2] + (b[2] - a[2]) * u]

function normalise([x, y, z]: Rgb): Rgb {
  const l = Math.hypot(x, y, z)
  return [x / l, y / l, z / l]
}
