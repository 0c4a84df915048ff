import { mkdirSync } from 'node:fs'
import { join, resolve } from 'node:path'
import Database from 'better-sqlite3'
import { MIGRATIONS } from './migrations'

export type Db = Database.Database

/** The folder that holds all data: ZEPHYRINE_DATA, or ./data. */
export const dataFolder = (): string => resolve(process.env.ZEPHYRINE_DATA ?? 'data')

/** Opens or creates the database of a data folder, and migrates it. */
export function openDatabase(folder: string): Db {
  mkdirSync(folder, { recursive: true })
  const db = new Database(join(folder, 'zephyrine.sqlite'))
  db.pragma('journal_mode = WAL')
  db.pragma('foreign_keys = ON')
  // A save that was acknowledged survives a power cut: each commit is on the disk before it is answered.
  db.pragma('synchronous = FULL')
  // Waiting here would hold up everybody: see whenFree.
  db.pragma('busy_timeout = 50')
  migrate(db)
  return db
}

function migrate(db: Db): void {
  const version = db.pragma('user_version', { simple: true }) as number
  if (version > MIGRATIONS.length) {
    throw new Error(
      `The data folder was last used by a newer Zephyrine (data version ${version}, this one knows ${MIGRATIONS.length}): start the newer one.`,
    )
  }
  MIGRATIONS.slice(version).forEach((sql, i) => {
    db.transaction(() => {
      db.exec(sql)
      db.pragma(`user_version = ${version + i + 1}`)
    })()
  })
}

/** How long a change waits for another program that holds the database, in milliseconds, and how often it tries. */
const PATIENCE = 5000
const TRY_EVERY = 100

/** Runs a change of the database; while another program holds it, again and again, without holding up anything else. */
export async function whenFree<T>(change: () => T): Promise<T> {
  for (const end = Date.now() + PATIENCE; ;) {
    try {
      return change()
    } catch (error) {
      if (!/^SQLITE_BUSY/.test((error as { code?: string }).code ?? '') || Date.now() > end) throw error
    }
    await new Promise((resolve) => setTimeout(resolve, TRY_EVERY))
  }
}

let shared: Db | undefined

/** The server's database, opened at first use. */
export function database(): Db {
  shared ??= openDatabase(dataFolder())
  return shared
}
