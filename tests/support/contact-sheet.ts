import { addTraveller } from '#core/edits/trips/travellers'
import { editLeg } from '#core/edits/lines/legs'
import type { LegPatch } from '#core/edits/lines/legs'
import { addStop } from '#core/edits/trips/visits'
import type { Point } from '#core/geometry/point'
import { createJourney } from '#core/journey/create'
import type { Journey } from '#core/journey/schema'
import type { Picture } from './pixels'

/** Many small pictures in one frame, each in a cell of its own: quicker to make than a frame for each, and stricter to compare than the mean of a whole one. */
export interface Grid {
  columns: number
  rows: number
}

/** The upper left corner and the size of a cell, row by row, in a frame of 1920 x 1080 reference pixels. */
export function cellOf({ columns, rows }: Grid, i: number): { x: number; y: number; width: number; height: number } {
  const [width, height] = [1920 / columns, 1080 / rows]
  return { x: (i % columns) * width, y: Math.floor(i / columns) * height, width, height }
}

/** Things in groups that each fit on a sheet. */
export function inGroups<T>(things: readonly T[], size: number): T[][] {
  return Array.from({ length: Math.ceil(things.length / size) }, (_, i) => things.slice(i * size, (i + 1) * size))
}

/**
 * A journey with a traveller in each cell, all under way at the same time.
 * @param way through the cell, in shares of its width and height
 */
export function travellersIn(grid: Grid, patches: readonly LegPatch[], way: readonly Point[], seconds = 10): Journey {
  let journey = createJourney('Contact sheet', undefined, seconds)
  for (const [i, patch] of patches.entries()) {
    const who = i === 0 ? 'traveller' : `t${i}`
    if (i > 0) journey = addTraveller(journey, who)
    const cell = cellOf(grid, i)
    for (const [k, { x, y }] of way.entries()) {
      const at = { x: cell.x + x * cell.width, y: cell.y + y * cell.height }
      journey = addStop(journey, at, { stop: `s${i}-${k}`, leg: `l${i}-${k}` }, { traveller: who })
      if (k > 0) journey = editLeg(journey, `l${i}-${k}`, patch)
    }
  }
  const stops = journey.stops.map((stop) => ({
    ...stop,
    pin: { ...stop.pin, shape: 'none' as const },
    label: { ...stop.label, shown: false },
  }))
  return { ...journey, stops }
}

/** Mean absolute difference of two pictures of one size in each cell, over red, green and blue, in steps of 255. */
export function cellDifferences(a: Picture, b: Picture, grid: Grid): number[] {
  if (a.pixels.length !== b.pixels.length || a.width !== b.width) throw new Error('The pictures differ in size.')
  const height = a.pixels.length / 4 / a.width
  const sums = new Float64Array(grid.columns * grid.rows)
  const counts = new Float64Array(sums.length)
  for (let y = 0; y < height; y++) {
    const row = Math.floor((y * grid.rows) / height)
    for (let x = 0; x < a.width; x++) {
      const cell = row * grid.columns + Math.floor((x * grid.columns) / a.width)
      const i = 4 * (y * a.width + x)
      for (let c = 0; c < 3; c++) sums[cell]! += Math.abs(a.pixels[i + c]! - b.pixels[i + c]!) / 3
      counts[cell]!++
    }
  }
  return Array.from(sums, (sum, i) => sum / counts[i]!)
}
