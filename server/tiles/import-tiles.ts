import { cpus } from 'node:os'
import PQueue from 'p-queue'
import sharp from 'sharp'
import { JourneyError } from '#core/error'
import type { TileGrid } from '#core/journey/schema'
import type { TileAddress } from '#core/sheet/pyramid'
import { coarsestLevel, TILE, tileGrid, tileSize } from '#core/sheet/pyramid'
import type { SheetPlan } from '#core/tiles/sheet-plan'
import { georeferenceOfPlan, levelsTaken, piecesOf } from '#core/tiles/sheet-plan'
import type { Built } from '../sheets/job'
import { partOfCoarser } from '../sheets/coarser'
import type { ServiceTile } from '#core/tiles/template'
import type { TileFormat } from '../sheets/pyramid'
import { buildUpperLevels, encodeTile, tileFormatFor } from '../sheets/pyramid'
import type { TileFile } from '../sheets/tile-file'
import { createTileFile } from '../sheets/tile-file'
import { composed } from './compose'

/** The tiles that a sheet is made of. */
export interface TilesAtHand {
  has(tile: ServiceTile): boolean
  get(tile: ServiceTile): Promise<Buffer | undefined>
}

/**
 * Makes the tile file of a sheet, level by level from the coarsest: each level of the sheet is a level of what its tiles come from. Where a level has no
 * tiles, the next coarser one is seen.
 * @param isLossless whether the tiles are PNG
 * @throws JourneyError if there are none
 */
export async function importTiles(
  hand: TilesAtHand,
  { grid, plan }: { grid: TileGrid; plan: SheetPlan },
  { name, tiles, isLossless }: { name: string; tiles: string; isLossless: boolean },
  onProgress: (share: number) => void,
): Promise<Built> {
  const levels = Array.from({ length: levelsTaken(plan) }, (_, level) => presentTiles(hand, grid, plan, level))
  const total = levels.reduce((sum, list) => sum + list.length, 0)
  const format = tileFormatFor({ width: TILE * total, height: TILE }, isLossless)
  const file = createTileFile(tiles)
  let came = 0
  try {
    file.markSparse()
    let done = 0
    for (const list of levels.toReversed()) {
      const queue = new PQueue({ concurrency: 2 * cpus().length })
      const make = async (tile: TileAddress) => {
        const data = await tileOf(file, hand, grid, plan, tile, format)
        if (data) file.put(tile, data)
        if (data) came++
        onProgress((0.95 * ++done) / total)
      }
      const made: Promise<void>[] = []
      for (const tile of list) {
        await queue.onSizeLessThan(4 * cpus().length)
        made.push(queue.add(() => make(tile)))
      }
      await Promise.all(made)
    }
    if (came === 0) throw new JourneyError(`“${name}” holds none of the tiles of its sheet.`)
    if (coarsestLevel(plan) >= levels.length) await buildUpperLevels(file, plan, format, () => {}, levels.length)
  } finally {
    file.close()
  }
  return { width: plan.width, height: plan.height, vector: false, georeference: georeferenceOfPlan(grid, plan), note: null }
}

/** The tiles of a level of the sheet of which any part has been taken. */
function presentTiles(hand: TilesAtHand, grid: TileGrid, plan: SheetPlan, level: number): TileAddress[] {
  const { columns, rows } = tileGrid(plan, level)
  const found: TileAddress[] = []
  for (let row = 0; row < rows; row++)
    for (let column = 0; column < columns; column++) {
      const tile = { level, column, row }
      if (piecesOf(grid, plan, tile).some((piece) => hand.has(piece))) found.push(tile)
    }
  return found
}

/** A tile of the sheet, put together; where parts of it have not come, those of the coarser level show. */
async function tileOf(
  file: TileFile,
  hand: TilesAtHand,
  grid: TileGrid,
  plan: SheetPlan,
  tile: TileAddress,
  format: TileFormat,
): Promise<Buffer | undefined> {
  const size = tileSize(plan, tile)
  const pieces = piecesOf(grid, plan, tile)
  const bodies = await Promise.all(pieces.map((piece) => hand.get(piece)))
  const laid = pieces.flatMap(({ x, y }, i) => (bodies[i] ? [{ body: bodies[i], x, y }] : []))
  if (laid.length === 0) return undefined
  const under = laid.length < pieces.length ? await partOfCoarser(file, plan, tile) : undefined
  const { data, ...raw } = await composed(size, grid.side, laid, under)
  return encodeTile(sharp(data, { raw }), format)
}
