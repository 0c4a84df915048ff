import { TileType } from 'pmtiles'
import { JourneyError } from '#core/error'
import type { TileGrid } from '#core/journey/schema'
import { IMAGE_LIMITS } from '#core/sheet/limits'
import { webMercatorGrid } from '#core/tiles/grids'
import type { SheetPlan } from '#core/tiles/sheet-plan'
import { planSheet } from '#core/tiles/sheet-plan'
import { regionOfBounds } from '#core/tiles/tilejson'
import { archiveIn, checkTileType } from '../tiles/archive'
import { importTiles } from '../tiles/import-tiles'
import { sideOf } from '../tiles/tile-source'
import type { Built, ImportJob } from './job'
import { damaged } from './raster'

/**
 * Imports raster tiles from a PMTiles archive: the finest level that is not too large becomes the sheet.
 * @throws JourneyError saying what is wrong with the file
 */
export async function importPmtiles({ path, name, tiles }: ImportJob, onProgress: (share: number) => void): Promise<Built> {
  const archive = archiveIn(path)
  try {
    const { tileType, minZoom, maxZoom, minLon, minLat, maxLon, maxLat, numAddressedTiles } = await archive.getHeader()
    checkTileType(tileType, name)
    if (numAddressedTiles === 0 || maxZoom < minZoom || maxZoom > 29) throw new JourneyError(`“${name}” holds no tiles.`)
    const region = regionOfBounds([minLon, minLat, maxLon, maxLat])
    if (!region) throw new JourneyError(`“${name}” does not say which part of the Earth it shows: it is damaged.`)
    const side = await sideIn(archive, name, webMercatorGrid(256, minZoom, maxZoom), region)
    const grid = webMercatorGrid(side, minZoom, maxZoom)
    const plan = finestPlan(grid, region, name)
    const get = async ({ level, column, row }: { level: number; column: number; row: number }) => {
      const found = await archive.getZxy(minZoom + level, column, row)
      return found && Buffer.from(found.data)
    }
    return await importTiles({ has: () => true, get }, { grid, plan }, { name, tiles, isLossless: tileType === TileType.Png }, onProgress)
  } catch (error) {
    if (error instanceof JourneyError) throw error
    throw damaged(name, error)
  }
}

type Region = Parameters<typeof planSheet>[1]

function finestPlan(grid: TileGrid, region: Region, name: string): SheetPlan {
  for (let finest = grid.levels.length - 1; finest >= 0; finest--) {
    const plan = tryPlan(grid, region, finest)
    if (plan && plan.width * plan.height <= IMAGE_LIMITS.pixels && Math.max(plan.width, plan.height) <= IMAGE_LIMITS.side) return plan
  }
  throw new JourneyError(
    `“${name}” covers too large an area even at its coarsest level: up to ${IMAGE_LIMITS.pixels / 1e6} megapixels can be used.`,
  )
}

function tryPlan(grid: TileGrid, region: Region, finest: number): SheetPlan | undefined {
  try {
    return planSheet(grid, region, finest)
  } catch (error) {
    if (error instanceof JourneyError) return undefined
    throw error
  }
}

/** The side of the archive's tiles, from one in the middle of what it shows. */
async function sideIn(archive: ReturnType<typeof archiveIn>, name: string, grid: TileGrid, region: Region): Promise<number> {
  const { minZoom } = await archive.getHeader()
  for (let level = 0; level < grid.levels.length; level++) {
    const plan = tryPlan(grid, region, level)
    if (!plan) continue
    const column = Math.floor((plan.left + plan.width / 2) / grid.side) % grid.levels[level]!.columns
    const found = await archive.getZxy(minZoom + level, column, Math.floor((plan.top + plan.height / 2) / grid.side))
    if (found) return sideOf(Buffer.from(found.data), name)
  }
  throw new JourneyError(`“${name}” has no tile in the middle of what it says that it shows.`)
}
