import Database from 'better-sqlite3'
import { z } from 'zod'
import type { TileGrid } from '#core/journey/schema'
import { tileGridSchema } from '#core/journey/sheet-schema'
import type { SheetPlan } from '#core/tiles/sheet-plan'
import { sheetPlanSchema } from '#core/tiles/sheet-plan'
import type { TileOrder } from '#core/tiles/order'
import type { ServiceTile } from '#core/tiles/template'
import type { TilesAtHand } from './import-tiles'

/**
 * The tiles that were taken for a sheet, as they came: an MBTiles 1.3 file, with the plan of the sheet in a line of its metadata. Levels are counted by their
 * places in the service's grid where those have no numbers, and rows from the south.
 */

/** The name of the line of metadata that says what sheet the tiles are for. */
const PLAN_LINE = 'zephyrine_sheet'

/** The name of the line that has the order. */
const ORDER_LINE = 'zephyrine_order'

const planLineSchema = z.object({ grid: tileGridSchema, plan: sheetPlanSchema })

const SCHEMA = `
  CREATE TABLE IF NOT EXISTS metadata (name TEXT, value TEXT);
  CREATE UNIQUE INDEX IF NOT EXISTS metadata_by_name ON metadata (name);
  CREATE TABLE IF NOT EXISTS tiles (zoom_level INTEGER, tile_column INTEGER, tile_row INTEGER, tile_data BLOB);
  CREATE UNIQUE INDEX IF NOT EXISTS tile_index ON tiles (zoom_level, tile_column, tile_row);
  CREATE TABLE IF NOT EXISTS blanks (zoom_level INTEGER, tile_column INTEGER, tile_row INTEGER);
  CREATE UNIQUE INDEX IF NOT EXISTS blanks_index ON blanks (zoom_level, tile_column, tile_row);
`

/** Where a tile is in the file. */
function placeOf({ levels }: TileGrid, { level, column, row }: ServiceTile): [zoom: number, column: number, row: number] {
  const { id, rows } = levels[level]!
  const numbered = levels.every((each) => /^\d{1,2}$/.test(each.id))
  return [numbered ? Number(id) : level, column, rows - 1 - row]
}

export interface TakenFile {
  /** Whether a tile has come, or the service has said that it has none there. */
  has(tile: ServiceTile): boolean
  put(tile: ServiceTile, body: Buffer | 'nothing'): void
  inTransaction(run: () => void): void
  setMetadata(lines: Readonly<Record<string, string>>): void
  /** Keeps the order with the tiles, so that it can go on after a break. */
  setOrder(order: TileOrder): void
  close(): void
}

/** Opens the file of a sheet that is being taken, or makes it. What is in it survives when the process is killed. */
export function openTakenFile(path: string, grid: TileGrid, plan: SheetPlan): TakenFile {
  const db = new Database(path)
  db.pragma('journal_mode = TRUNCATE')
  db.pragma('synchronous = NORMAL')
  db.exec(SCHEMA)
  const put = db.prepare('INSERT OR REPLACE INTO tiles VALUES (?, ?, ?, ?)')
  const putNothing = db.prepare('INSERT OR REPLACE INTO blanks VALUES (?, ?, ?)')
  const setLine = db.prepare('INSERT OR REPLACE INTO metadata VALUES (?, ?)')
  const has = db
    .prepare(
      `SELECT EXISTS (SELECT 1 FROM tiles WHERE zoom_level = @z AND tile_column = @x AND tile_row = @y)
           OR EXISTS (SELECT 1 FROM blanks WHERE zoom_level = @z AND tile_column = @x AND tile_row = @y)`,
    )
    .pluck()
  setLine.run(PLAN_LINE, JSON.stringify({ grid, plan } satisfies z.output<typeof planLineSchema>))
  return {
    has(tile) {
      const [z, x, y] = placeOf(grid, tile)
      return has.get({ z, x, y }) === 1
    },
    put(tile, body) {
      if (body === 'nothing') putNothing.run(placeOf(grid, tile))
      else put.run(...placeOf(grid, tile), body)
    },
    inTransaction: (run) => db.transaction(run)(),
    setMetadata: (lines) => Object.entries(lines).forEach((line) => setLine.run(line)),
    setOrder: (order) => void setLine.run(ORDER_LINE, JSON.stringify(order)),
    close: () => db.close(),
  }
}

/** The plan of the sheet that the tiles of an MBTiles file were taken for; undefined if they were not. A damaged plan counts as none. */
export function planIn(source: Database.Database): { grid: TileGrid; plan: SheetPlan } | undefined {
  const line = source.prepare('SELECT value FROM metadata WHERE name = ?').pluck().get(PLAN_LINE)
  if (typeof line !== 'string' || line.length > 20_000) return undefined
  try {
    const { grid, plan } = planLineSchema.parse(JSON.parse(line))
    return plan.finest < grid.levels.length ? { grid, plan } : undefined
  } catch {
    return undefined
  }
}

/** The order that is kept with the tiles, unchecked. */
export const orderIn = (source: Database.Database): unknown =>
  JSON.parse(String(source.prepare('SELECT value FROM metadata WHERE name = ?').pluck().get(ORDER_LINE) ?? 'null'))

/** The number of tiles that are settled. */
export const countTaken = (source: Database.Database): number =>
  source.prepare('SELECT (SELECT count(*) FROM tiles) + (SELECT count(*) FROM blanks)').pluck().get() as number

/** The tiles in such a file. */
export function takenTiles(source: Database.Database, grid: TileGrid): TilesAtHand {
  const get = source.prepare('SELECT tile_data FROM tiles WHERE zoom_level = ? AND tile_column = ? AND tile_row = ?').pluck()
  // Asked for many more tiles than there are.
  const there = new Set(source.prepare("SELECT zoom_level || ' ' || tile_column || ' ' || tile_row FROM tiles").pluck().all())
  return {
    has: (tile) => there.has(placeOf(grid, tile).join(' ')),
    async get(tile) {
      const data = get.get(...placeOf(grid, tile))
      return Buffer.isBuffer(data) ? data : undefined
    },
  }
}
