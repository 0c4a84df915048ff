import sharp from 'sharp'
import { JourneyError } from '#core/error'
import type { Box } from '#core/geometry/box'
import type { Region, TileGrid, TileService } from '#core/journey/schema'
import { regionInPlane, resolutionOf, withSide } from '#core/tiles/grids'
import type { Glimpse } from '#core/tiles/order'
import type { LevelPart, Piece, SheetPlan } from '#core/tiles/sheet-plan'
import { piecesWithin, planSheet } from '#core/tiles/sheet-plan'
import type { Client } from './client'
import { NotHad } from './client'
import type { LaidTile } from './compose'
import { composed } from './compose'
import type { TileSource } from './tile-source'
import { sideOf, tileSource } from './tile-source'

/** A small picture asks for so many tiles at most. */
const MOST_TILES = 30

/** The colour of what has no tile, as a file of WebP without transparency must have one. */
const NOTHING = '#dcd5c3'

export interface Glimpsed {
  webp: Buffer
  /** The side of the service's tiles, which is not known before one has come. */
  side: number
  /** The mean size of a tile in bytes. */
  bytes: number
  level: number
}

/**
 * A small picture of a region, at the level that fits its width or at one that is asked for, in which case only as much of its middle is shown as a few tiles
 * give.
 * @throws JourneyError if no tile of it can be had
 */
export async function glimpse({ service, region, width, level }: Glimpse, client: Client): Promise<Glimpsed> {
  const source = tileSource(service, client)
  const side = await measuredSide(service, region, source)
  const grid = withSide(service.grid, side)
  const box = regionInPlane(grid, region)
  const fitting = grid.levels.findIndex((_, k) => (box.right - box.left) / resolutionOf(grid, k) >= width)
  let chosen = level ?? (fitting < 0 ? grid.levels.length - 1 : fitting)
  // A region may be much higher than wide.
  while (level === null && chosen > 0 && tilesAcross(box, grid, chosen) > MOST_TILES) chosen--
  const plan = planSheet(grid, region, chosen)
  const part = level === null ? partOf(plan, box, grid) : middleOf(plan, width)
  const laid = await tilesIn(piecesWithin(grid, chosen, part), source)
  if (laid.length === 0) throw new JourneyError('The service has no tiles here: choose another region or level.')
  const { data, ...raw } = await composed(part, side, laid)
  const webp = await sharp(data, { raw }).flatten({ background: NOTHING }).resize({ width }).webp({ quality: 80, effort: 1 }).toBuffer()
  return { webp, side, bytes: laid.reduce((sum, { body }) => sum + body.length, 0) / laid.length, level: chosen }
}

/** How many tiles a box takes up at a level, about. */
const tilesAcross = (box: Box, grid: TileGrid, level: number): number =>
  ((box.right - box.left) * (box.top - box.bottom)) / (resolutionOf(grid, level) * grid.side) ** 2

/** Just the region, of the sheet that covers it. */
function partOf(plan: SheetPlan, box: Box, grid: TileGrid): LevelPart {
  const r = resolutionOf(grid, plan.finest)
  const left = Math.max(plan.left, Math.round((box.left - grid.left) / r))
  const top = Math.max(plan.top, Math.round((grid.top - box.top) / r))
  return {
    left,
    top,
    width: Math.max(1, Math.min(plan.left + plan.width - left, Math.round((box.right - box.left) / r))),
    height: Math.max(1, Math.min(plan.top + plan.height - top, Math.round((box.top - box.bottom) / r))),
  }
}

/** The middle of a sheet, as wide as the picture. */
function middleOf(plan: SheetPlan, width: number): LevelPart {
  const size = { width: Math.min(plan.width, width), height: Math.min(plan.height, Math.round(width * 0.6)) }
  return {
    left: plan.left + Math.floor((plan.width - size.width) / 2),
    top: plan.top + Math.floor((plan.height - size.height) / 2),
    ...size,
  }
}

async function tilesIn(pieces: readonly Piece[], source: TileSource): Promise<LaidTile[]> {
  const found = await Promise.all(
    pieces.slice(0, 2 * MOST_TILES).map(async (piece) => {
      const tile = await source(piece).catch((error: unknown) => {
        if (error instanceof NotHad) return 'nothing' as const
        throw error
      })
      return tile === 'nothing' ? [] : [{ body: tile.body, x: piece.x, y: piece.y }]
    }),
  )
  return found.flat()
}

/** The side of a service's tiles, from the first that it has of those in the middle of a region. */
async function measuredSide(service: TileService, region: Region, source: TileSource): Promise<number> {
  const { grid } = service
  let reason = ''
  for (const level of [0.5, 0.25, 0, 0.75].map((share) => Math.round(share * (grid.levels.length - 1)))) {
    const box = regionInPlane(grid, region)
    const tile = resolutionOf(grid, level) * grid.side
    const { columns, rows } = grid.levels[level]!
    const column = Math.floor(((box.left + box.right) / 2 - grid.left) / tile)
    const row = Math.floor((grid.top - (box.top + box.bottom) / 2) / tile)
    if (row < 0 || row >= rows) continue
    try {
      const found = await source({ level, column: ((column % columns) + columns) % columns, row })
      if (found !== 'nothing') return await sideOf(found.body, service.name)
    } catch (error) {
      if (!(error instanceof NotHad)) throw error
      reason ||= error.message
    }
  }
  throw new JourneyError(reason || 'The service has no tiles here: choose another region.')
}
