import Database from 'better-sqlite3'
import { LRUCache } from 'lru-cache'
import type { TileAddress } from '#core/sheet/pyramid'

/** The tiles of an image are in an SQLite file of their own, which is complete or absent, and is deleted with its image. */
export interface TileFile {
  put(tile: TileAddress, data: Buffer): void
  get(tile: TileAddress): Buffer | undefined
  /** The cleaned drawing of a vector image, or the recipe of a generated map. */
  putDrawing(json: string): void
  drawing(): string | undefined
  /** Says that the drawing is the recipe of a generated map, whose tiles are drawn for each pen. */
  markMap(): void
  isMap(): boolean
  putDrawn(pen: number, tile: TileAddress, data: Buffer): void
  getDrawn(pen: number, tile: TileAddress): Buffer | undefined
  /** Says that levels have gaps on purpose, in which the next coarser level is to be seen. */
  markSparse(): void
  isSparse(): boolean
  inTransaction(run: () => void): void
  close(): void
}

const SCHEMA = `
  CREATE TABLE tiles (
    level       INTEGER NOT NULL,
    tile_column INTEGER NOT NULL,
    tile_row    INTEGER NOT NULL,
    data        BLOB NOT NULL
  ) STRICT;
  CREATE UNIQUE INDEX tiles_by_address ON tiles (level, tile_column, tile_row);
  CREATE TABLE drawing (json TEXT NOT NULL) STRICT;
`

/** The versions that tile files with gaps and those of generated maps have; all others have none. */
const SPARSE = 1
const MAP = 2

const MAP_SCHEMA = `
  CREATE TABLE drawn_tiles (
    pen         INTEGER NOT NULL,
    level       INTEGER NOT NULL,
    tile_column INTEGER NOT NULL,
    tile_row    INTEGER NOT NULL,
    data        BLOB NOT NULL,
    PRIMARY KEY (pen, level, tile_column, tile_row)
  ) STRICT;
  PRAGMA user_version = ${MAP};
`

function over(db: Database.Database): TileFile {
  const put = db.prepare('INSERT OR IGNORE INTO tiles (level, tile_column, tile_row, data) VALUES (?, ?, ?, ?)')
  const get = db.prepare('SELECT data FROM tiles WHERE level = ? AND tile_column = ? AND tile_row = ?').pluck()
  return {
    put: ({ level, column, row }, data) => void put.run(level, column, row, data),
    get: ({ level, column, row }) => get.get(level, column, row) as Buffer | undefined,
    putDrawing: (json) => void db.prepare('INSERT INTO drawing (json) VALUES (?)').run(json),
    drawing: () => db.prepare('SELECT json FROM drawing').pluck().get() as string | undefined,
    markMap: () => void db.exec(MAP_SCHEMA),
    isMap: () => db.pragma('user_version', { simple: true }) === MAP,
    putDrawn: (pen, { level, column, row }, data) =>
      void db.prepare('INSERT OR IGNORE INTO drawn_tiles VALUES (?, ?, ?, ?, ?)').run(pen, level, column, row, data),
    getDrawn: (pen, { level, column, row }) =>
      db
        .prepare('SELECT data FROM drawn_tiles WHERE pen = ? AND level = ? AND tile_column = ? AND tile_row = ?')
        .pluck()
        .get(pen, level, column, row) as Buffer | undefined,
    markSparse: () => void db.pragma(`user_version = ${SPARSE}`),
    isSparse: () => db.pragma('user_version', { simple: true }) === SPARSE,
    inTransaction: (run) => db.transaction(run)(),
    close: () => db.close(),
  }
}

/** Whether an error means that a tile file is damaged. */
export function isDamage(error: unknown): boolean {
  const { code, message } = error as { code?: string; message?: string }
  return code !== undefined && (/^SQLITE_(CORRUPT|NOTADB)/.test(code) || (code === 'SQLITE_ERROR' && /no such table/.test(message ?? '')))
}

/** Makes a tile file. It gets its final name only when it is complete, as a crash would leave it damaged. */
export function createTileFile(path: string): TileFile {
  const db = new Database(path)
  db.pragma('journal_mode = OFF')
  db.pragma('synchronous = OFF')
  db.exec(SCHEMA)
  return over(db)
}

/** The number of tile files kept open: more than a journey has sheets. */
const MOST_OPEN = 32
const openFiles = new LRUCache<string, TileFile>({ max: MOST_OPEN, dispose: (file) => file.close() })

/** Opens a tile file, or returns the open one. Finer levels of vector images are drawn into theirs on demand. */
export function openTileFile(path: string): TileFile {
  const known = openFiles.get(path)
  if (known) return known
  const db = new Database(path, { fileMustExist: true })
  let file: TileFile
  try {
    db.pragma('journal_mode = TRUNCATE')
    db.pragma('busy_timeout = 5000')
    file = over(db)
  } catch (error) {
    db.close()
    throw error
  }
  openFiles.set(path, file)
  return file
}

/** Closes a tile file that is about to be replaced. */
export const closeTileFile = (path: string): void => void openFiles.delete(path)

/** Whether a tile file is there and can be opened; damage deeper inside is found when its tiles are read. */
export function hasTileFile(path: string): boolean {
  let db: Database.Database | undefined
  try {
    db = new Database(path, { fileMustExist: true, readonly: true })
    return db.prepare('SELECT 1 FROM tiles LIMIT 1').get() !== undefined
  } catch {
    return false
  } finally {
    db?.close()
  }
}

/** Closes all open tile files, so that their folder can be removed. */
export const closeTileFiles = (): void => openFiles.clear()
