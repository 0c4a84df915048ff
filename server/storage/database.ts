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
  db.pragma('busy_timeout = 5000')
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

let shared: Db | undefined

/** The server's database, opened at first use. */
export function database(): Db {
  shared ??= openDatabase(dataFolder())
  return shared
}
