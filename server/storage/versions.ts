import { newId } from './new-id'
import { JourneyError } from '#core/error'
import { parseJourney } from '#core/journey/parse'
import type { Journey } from '#core/journey/schema'
import type { Db } from './database'

/** A journey as it was, kept under a name. */
export interface Version {
  id: string
  name: string
  createdAt: number
}

/** The most versions of one journey. */
export const MOST_VERSIONS = 40

/** The versions of a journey, the last one first. */
export const listVersions = (db: Db, journey: string): Version[] =>
  db
    .prepare('SELECT id, name, created_at AS createdAt FROM versions WHERE journey_id = ? ORDER BY created_at DESC, rowid DESC')
    .all(journey) as Version[]

/** What a version holds; undefined if there is none. @throws JourneyError if it cannot be read */
export function readVersion(db: Db, journey: string, id: string): Journey | undefined {
  const document = db.prepare('SELECT document FROM versions WHERE journey_id = ? AND id = ?').pluck().get(journey, id) as
    string | undefined
  return document === undefined ? undefined : parseJourney(JSON.parse(document))
}

/** All that was kept of a journey, the last one first. @throws JourneyError if one cannot be read */
export const keptVersionsOf = (db: Db, journey: string): { name: string; createdAt: number; journey: Journey }[] =>
  listVersions(db, journey).flatMap(({ id, name, createdAt }) => {
    const document = readVersion(db, journey, id)
    return document ? [{ name, createdAt, journey: document }] : []
  })

/** Keeps a version. @throws JourneyError if there are too many */
export function insertVersion(db: Db, journey: string, name: string, document: Journey, createdAt = Date.now()): Version {
  const count = db.prepare('SELECT count(*) FROM versions WHERE journey_id = ?').pluck().get(journey) as number
  if (count >= MOST_VERSIONS) throw new JourneyError(`At most ${MOST_VERSIONS} versions of a journey are kept: delete one first.`)
  const version: Version = { id: newId(), name, createdAt }
  db.prepare('INSERT INTO versions (id, journey_id, name, document, created_at) VALUES (?, ?, ?, ?, ?)').run(
    version.id,
    journey,
    name,
    JSON.stringify(document),
    version.createdAt,
  )
  return version
}

/** Gives a journey copies of the versions of another one. */
export function copyVersions(db: Db, from: string, to: string): void {
  const insert = db.prepare(
    'INSERT INTO versions (id, journey_id, name, document, created_at) SELECT ?, ?, name, document, created_at FROM versions WHERE id = ?',
  )
  for (const { id } of listVersions(db, from).reverse()) insert.run(newId(), to, id)
}

/** @returns whether there was such a version */
export const deleteVersion = (db: Db, journey: string, id: string): boolean =>
  db.prepare('DELETE FROM versions WHERE journey_id = ? AND id = ?').run(journey, id).changes > 0
