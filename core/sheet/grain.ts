import { latticeNoise } from '../geometry/noise'
import type { Wash } from '../journey/schema'

/** How pixels map to a sheet: the position of the first one, and the size of each, in sheet pixels. */
export interface PixelGrid {
  left: number
  top: number
  step: number
}

/** How much the strongest grain lightens or darkens a pixel, in steps of 255. */
const DEPTH = 56

/**
 * Adds paper grain to RGBA pixels in place: value noise fixed to the sheet, so that it neither swims nor changes with the zoom.
 * Where pixels are wider than a grain, each shows the grain at its middle.
 */
export function grainPixels(
  pixels: Uint8ClampedArray,
  width: number,
  { left, top, step }: PixelGrid,
  grain: NonNullable<Wash['grain']>,
): void {
  const depth = DEPTH * grain.strength
  const height = pixels.length / 4 / width
  for (let row = 0; row < height; row++) {
    const y = (top + (row + 0.5) * step) / grain.size
    const y0 = Math.floor(y)
    const v = y - y0
    // A row passes the lattice's columns in order, so each is mixed once.
    let x0 = NaN
    let [from, to] = [0, 0]
    for (let column = 0; column < width; column++) {
      const x = (left + (column + 0.5) * step) / grain.size
      const cell = Math.floor(x)
      if (cell !== x0) {
        from = cell === x0 + 1 ? to : mixed(cell, y0, v)
        to = mixed(cell + 1, y0, v)
        x0 = cell
      }
      const light = depth * (from + (to - from) * (x - x0))
      const i = 4 * (row * width + column)
      pixels[i] = pixels[i]! + light
      pixels[i + 1] = pixels[i + 1]! + light
      pixels[i + 2] = pixels[i + 2]! + light
    }
  }
}

function mixed(column: number, row: number, v: number): number {
  const above = latticeNoise(column, row)
  return above + (latticeNoise(column, row + 1) - above) * v
}
