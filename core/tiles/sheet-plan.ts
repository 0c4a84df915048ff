import { z } from 'zod'
import { JourneyError } from '../error'
import type { Georeference, Region, TileGrid, TileRuns } from '../journey/schema'
import { coarsestLevel, TILE, tileGrid, tileSize } from '../sheet/pyramid'
import type { TileAddress } from '../sheet/pyramid'
import { earthWidth, regionInPlane, resolutionOf } from './grids'
import type { ServiceTile } from './template'

/** The longest side of a sheet of tiles, in pixels: what a journey document may say. */
const MOST_SIDE = 200_000

/** The most tiles of a service that one sheet is made of. */
const MOST_SERVICE_TILES = 40_000

const side = z.int().positive().max(MOST_SIDE)

/**
 * A sheet that is to be made of tiles of a service. Each level of its pyramid is made of the tiles of one level of the service, for as long as that has
 * coarser ones. Its corner lies so that it falls between pixels at each of these levels.
 */
export const sheetPlanSchema = z.object({
  /** The level of the service that the sheet's level 0 is made of. */
  finest: z.int().min(0).max(29),
  /** The sheet's upper left corner, in pixels of the service's finest level from its own corner; west of it where the sheet crosses the antimeridian. */
  left: z
    .int()
    .min(-(2 ** 42))
    .max(2 ** 42),
  top: z
    .int()
    .min(0)
    .max(2 ** 42),
  width: side,
  height: side,
})
export type SheetPlan = z.output<typeof sheetPlanSchema>

/** How many levels of a sheet's pyramid are made of tiles of the service, from the finest. */
export const levelsTaken = (plan: SheetPlan): number => 1 + Math.min(plan.finest, coarsestLevel(plan))

/** Whether a grid goes round the Earth, so that what is beyond its right side is at its left. */
function goesRound(grid: TileGrid, level: number): boolean {
  const { columns } = grid.levels[level]!
  return Math.abs(columns * grid.side * resolutionOf(grid, level) - earthWidth(grid)) < earthWidth(grid) * 1e-6
}

/**
 * Lays a sheet over a region.
 * @param finest the level of the grid that the sheet is to be as sharp as
 * @throws JourneyError if the grid shows nothing of the region, or the sheet would be too large
 */
export function planSheet(grid: TileGrid, region: Region, finest: number): SheetPlan {
  const box = regionInPlane(grid, region)
  const r = resolutionOf(grid, finest)
  const { columns, rows } = grid.levels[finest]!
  const [across, down] = [columns * grid.side, rows * grid.side]
  const isRound = goesRound(grid, finest)
  const x = clipped((box.left - grid.left) / r, (box.right - grid.left) / r, isRound ? undefined : across)
  const y = clipped((grid.top - box.top) / r, (grid.top - box.bottom) / r, down)
  if (!x || !y) throw new JourneyError('The service has no tiles of this region: choose another one.')
  if (isRound && x.to - x.from > across) x.to = x.from + across
  if (x.to - x.from > MOST_SIDE || y.to - y.from > MOST_SIDE)
    throw new JourneyError(
      `So large a region is too sharp at this level: a sheet may be ${MOST_SIDE} pixels wide and high. Choose a coarser one.`,
    )
  // No level ends within a pixel, and the finest not within a tile, which would come anyway.
  const most = { width: x.to - x.from, height: y.to - y.from }
  const pixel = 2 ** Math.min(finest, coarsestLevel(most))
  const step = Number.isInteger(Math.log2(grid.side)) ? Math.max(grid.side, pixel) : pixel
  const snapped = { left: step * Math.floor(x.from / step), top: step * Math.floor(y.from / step) }
  // Of coarse tiles it may be a little more than once round the Earth.
  const right = Math.min(step * Math.ceil(x.to / step), isRound ? Infinity : across)
  const bottom = Math.min(step * Math.ceil(y.to / step), down)
  const plan = { finest, ...snapped, width: right - snapped.left, height: bottom - snapped.top }
  if (plan.width > MOST_SIDE || plan.height > MOST_SIDE)
    throw new JourneyError('So large a region is too sharp at this level: choose a coarser one.')
  return plan
}

/** A stretch in whole pixels, within 0 and a length if there is one; undefined where nothing is left. */
function clipped(from: number, to: number, length: number | undefined): { from: number; to: number } | undefined {
  // A region that was read off the grid itself ends between pixels but for rounding.
  const [low, high] = [Math.floor(from + 1e-6), Math.ceil(to - 1e-6)]
  const stretch = length === undefined ? { from: low, to: high } : { from: Math.max(0, low), to: Math.min(length, high) }
  return stretch.to > stretch.from ? stretch : undefined
}

/** How a planned sheet lies on the Earth. */
export function georeferenceOfPlan(grid: TileGrid, { finest, left, top }: SheetPlan): Georeference {
  const r = resolutionOf(grid, finest)
  return { kind: 'affine', source: 'tiles', plane: { kind: grid.plane }, matrix: [r, 0, grid.left + left * r, 0, -r, grid.top - top * r] }
}

/** A tile of the service, and where its upper left corner lies in one of the sheet's tiles, in pixels. */
export interface Piece extends ServiceTile {
  x: number
  y: number
}

/** The tiles of the service that a tile of the sheet is made of; none at levels that are made of finer ones. */
export function piecesOf(grid: TileGrid, plan: SheetPlan, tile: TileAddress): Piece[] {
  if (tile.level >= levelsTaken(plan)) return []
  const step = 2 ** tile.level
  const left = Math.floor(plan.left / step) + tile.column * TILE
  const top = Math.floor(plan.top / step) + tile.row * TILE
  return piecesWithin(grid, plan.finest - tile.level, { left, top, ...tileSize(plan, tile) })
}

/** A rectangle in pixels of a level, counted from the grid's corner. */
export interface LevelPart {
  left: number
  top: number
  width: number
  height: number
}

/** The tiles of a level within a part of it, with where they lie in that. */
export function piecesWithin(grid: TileGrid, level: number, { left, top, width, height }: LevelPart): Piece[] {
  const { columns, rows } = grid.levels[level]!
  const isRound = goesRound(grid, level)
  const pieces: Piece[] = []
  for (let row = Math.floor(top / grid.side); row * grid.side < top + height; row++)
    for (let column = Math.floor(left / grid.side); column * grid.side < left + width; column++) {
      const wrapped = isRound ? ((column % columns) + columns) % columns : column
      if (row < 0 || row >= rows || wrapped < 0 || wrapped >= columns) continue
      pieces.push({ level, column: wrapped, row, x: column * grid.side - left, y: row * grid.side - top })
    }
  return pieces
}

/** All tiles of a planned sheet. */
export const wholeSheet = (plan: SheetPlan): TileRuns =>
  Array.from({ length: levelsTaken(plan) }, (_, level) => {
    const { columns, rows } = tileGrid(plan, level)
    return Array.from({ length: rows }, (_, row): TileRuns[number][number] => [row, 0, columns - 1])
  })

/** The tiles of a sheet in runs, one by one; those outside the sheet are left out. */
export function* tilesOf(plan: SheetPlan, wanted: TileRuns): Generator<TileAddress> {
  for (const [level, runs] of wanted.entries()) {
    if (level >= levelsTaken(plan)) return
    const { columns, rows } = tileGrid(plan, level)
    for (const [row, first, last] of runs)
      if (row < rows) for (let column = first; column <= Math.min(last, columns - 1); column++) yield { level, column, row }
  }
}

/**
 * The tiles of the service that are to be asked for, each once, the coarsest first.
 * @throws JourneyError if they are more than one sheet may have
 */
export function serviceTilesOf(grid: TileGrid, plan: SheetPlan, wanted: TileRuns): ServiceTile[] {
  const found = new Map<string, ServiceTile>()
  for (const tile of tilesOf(plan, wanted))
    for (const { level, column, row } of piecesOf(grid, plan, tile)) {
      found.set(`${level} ${column} ${row}`, { level, column, row })
      if (found.size > MOST_SERVICE_TILES)
        throw new JourneyError(
          `That would be more than ${MOST_SERVICE_TILES.toLocaleString('en')} tiles: choose a smaller region, or a coarser level.`,
        )
    }
  return [...found.values()].sort((a, b) => a.level - b.level || a.row - b.row || a.column - b.column)
}
