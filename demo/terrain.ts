import { clamp } from '#core/geometry/clamp'
import type { Noise } from './noise'
import { fractal } from './noise'
import { ISLANDS, PEAKS, SHEET } from './places'

/** Height of the ground over the sea: 0 at the coast, about 1 on the highest peak, down to about -1 in the deep. */
export type HeightField = Noise

/** Coarse fields are computed at this share of the sheet's size and looked up in between. */
const COARSE = 4

/** The relief of the Lantern Isles. Always the same. */
export function lanternIslesRelief(): HeightField {
  const broad = grid(COARSE, broadHeight())
  const hills = fractal(51, 150, 5)
  return (x, y) => {
    const base = broad(x, y)
    // Detail fades out at the coast, so that shores stay clean, and grows with the height.
    const rough = base > 0 ? 0.004 + 0.05 * base + 0.16 * base * base : 0
    return base + rough * hills(x, y) * Math.min(1, base * 12)
  }
}

function broadHeight(): HeightField {
  const warpX = fractal(7, 620, 4)
  const warpY = fractal(8, 620, 4)
  const coast = fractal(21, 340, 6)
  const ridges = fractal(33, 420, 5)
  return (x, y) => {
    const px = x + 75 * warpX(x, y)
    const py = y + 75 * warpY(x, y)
    let sum = 0
    let nearest = -1
    for (const [cx, cy, r] of ISLANDS) {
      const d = 1 - Math.hypot(px - cx, py - cy) / r
      nearest = Math.max(nearest, d * Math.min(1, r / 350))
      if (d > 0) sum += d * Math.min(1, r / 500)
    }
    const land = nearest > 0 ? Math.min(0.5, nearest * 0.5 + sum * 0.22) : nearest * 0.55
    const shore = land + 0.125 * coast(x, y) - 0.02
    if (shore <= 0) return Math.max(-1, shore * 1.5)
    let height = shore * 0.42
    const inland = Math.min(1, shore * 6)
    for (const [cx, cy, r, h] of PEAKS) {
      const d = Math.hypot(px - cx, py - cy) / r
      if (d < 1.6) height += h * 0.75 * inland * Math.exp(-d * d * 2.2) * (0.72 + 0.5 * (1 - Math.abs(ridges(x, y)) * 2))
    }
    return height
  }
}

/** A field sampled on a grid and read by bilinear interpolation of a Catmull-Rom smoothed lattice. */
function grid(step: number, field: HeightField): HeightField {
  const columns = Math.ceil(SHEET.width / step) + 4
  const rows = Math.ceil(SHEET.height / step) + 4
  const values = new Float32Array(columns * rows)
  for (let j = 0; j < rows; j++) for (let i = 0; i < columns; i++) values[j * columns + i] = field((i - 1) * step, (j - 1) * step)
  const spline = (a: number, b: number, c: number, d: number, u: number) =>
    b + 0.5 * u * (c - a + u * (2 * a - 5 * b + 4 * c - d + u * (3 * (b - c) + d - a)))
  return (x, y) => {
    const gx = x / step + 1
    const gy = y / step + 1
    const i = clamp(Math.floor(gx), 1, columns - 3)
    const j = clamp(Math.floor(gy), 1, rows - 3)
    const [u, v] = [gx - i, gy - j]
    const line = (row: number) => {
      const k = row * columns + i
      return spline(values[k - 1]!, values[k]!, values[k + 1]!, values[k + 2]!, u)
    }
    return spline(line(j - 1), line(j), line(j + 1), line(j + 2), v)
  }
}
