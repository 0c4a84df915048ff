import { readFileSync, rmSync } from 'node:fs'
import { join } from 'node:path'
import Database from 'better-sqlite3'
import { temporaryFolder } from './server'

/** The tables that hold tiles and what is said of them. Source: MBTiles 1.3. */
export const MBTILES_TABLES =
  'CREATE TABLE metadata (name text, value text); CREATE TABLE tiles (zoom_level integer, tile_column integer, tile_row integer, tile_data blob)'

/** The bytes of an MBTiles file with what `fill` puts into it. */
export function mbtiles(fill: (file: Database.Database) => void): Buffer {
  const folder = temporaryFolder()
  try {
    const path = join(folder, 'made.mbtiles')
    const file = new Database(path)
    fill(file)
    file.close()
    return readFileSync(path)
  } finally {
    rmSync(folder, { recursive: true, force: true })
  }
}
