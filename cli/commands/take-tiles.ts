import { copyFileSync } from 'node:fs'
import type { Described } from '#core/tiles/described'
import { levelOfMetres, metresToPixel, regionInPlane, resolutionOf } from '#core/tiles/grids'
import type { TileOrder } from '#core/tiles/order'
import { planSheet } from '#core/tiles/sheet-plan'
import { withSide } from '#core/tiles/grids'
import type { Region, TileGrid } from '#core/journey/schema'
import type { Db } from '../../server/storage/database'
import { imagePath } from '../../server/storage/image-files'
import type { ImageRecord } from '../../server/storage/images'
import { describeService, glimpseService } from '../../server/tiles/services'
import { takeSheet } from '../../server/tiles/take-sheet'
import { UsageError } from '../command'
import type { TileOptions } from './sheet-options'

/** The width of a film of the usual size, for which a region is sharp if nothing else is said, in pixels. */
const FILM = 1920

function mapOf({ maps }: Described, id: string | undefined): Described['maps'][number] {
  if (id === undefined) return maps[0]!
  const found = maps.find((map) => map.id === id)
  if (!found)
    throw new UsageError(
      `The service has no map ${id}: give one of ${maps
        .map((map) => map.id)
        .join(', ')
        .slice(0, 1000)}.`,
    )
  return found
}

function levelFor(grid: TileGrid, region: Region, sharpAt: number | undefined): number {
  if (sharpAt !== undefined) return levelOfMetres(grid, sharpAt, (region.south + region.north) / 2)
  const { left, right } = regionInPlane(grid, region)
  const found = grid.levels.findIndex((_, level) => (right - left) / resolutionOf(grid, level) >= FILM)
  return found < 0 ? grid.levels.length - 1 : found
}

/** Takes tiles of a service into a folder. @returns the image, and what was taken, for the report */
export async function takeTiles(
  db: Db,
  folder: string,
  options: TileOptions,
): Promise<{ image: ImageRecord; report: Record<string, unknown> }> {
  const { signal } = new AbortController()
  const { address, region, author, licence, sharpAt, map, out } = options
  const described = await describeService(folder, address, process.env.ZEPHYRINE_TILE_KEY, signal)
  const { title, service } = mapOf(described, map)
  // The side of the tiles is known when one has been seen.
  const { side } = await glimpseService(folder, { service, region, width: 256, level: null }, signal)
  const grid = withSide(service.grid, side)
  const finest = levelFor(grid, region, sharpAt)
  const order: TileOrder = {
    name: title,
    service: { ...service, grid },
    region,
    sharp: 'region',
    plan: planSheet(grid, region, finest),
    wanted: null,
    credit: { ...described.credit, author, licence },
  }
  const { image, missing, count } = await takeSheet(db, folder, order, undefined)
  if (out !== undefined) copyFileSync(imagePath(folder, image.hash), out)
  const metres = metresToPixel(grid, finest, (region.south + region.north) / 2)
  return {
    image,
    report: { map: title, level: grid.levels[finest]!.id, metresToPixel: Math.round(metres * 1000) / 1000, tiles: count, missing },
  }
}
