import { newId } from './new-id'
import { parseJourney } from '#core/journey/parse'
import type { Past } from '#core/journey/history'
import { pastSchema } from '#core/journey/history'
import { JOURNEY_VERSION } from '#core/journey/schema'
import type { Journey } from '#core/journey/schema'
import type { Db } from './database'

export interface JourneyRecord {
  id: string
  revision: number
  journey: Journey
  /** The undo steps, the last first. */
  past: Past
}

export interface JourneySummary {
  id: string
  name: string
  revision: number
  updatedAt: number
  seconds: number
  stops: number
  frame: Journey['frame']
}

interface Row {
  id: string
  name: string
  document: string
  revision: number
  updated_at: number
}

/** The journeys, the most recently changed first. */
export function listJourneys(db: Db): JourneySummary[] {
  const rows = db
    .prepare(
      `SELECT id, name, revision, updated_at AS updatedAt, document ->> '$.seconds' AS seconds,
         json_array_length(document, '$.stops') AS stops, document -> '$.frame' AS frame
       FROM journeys WHERE deleted_at IS NULL ORDER BY updated_at DESC`,
    )
    .all() as (Omit<JourneySummary, 'frame'> & { frame: string })[]
  return rows.map((row) => ({ ...row, frame: JSON.parse(row.frame) as Journey['frame'] }))
}

export function readJourney(db: Db, id: string): JourneyRecord | undefined {
  const row = db.prepare('SELECT id, document, revision FROM journeys WHERE id = ? AND deleted_at IS NULL').get(id) as Row | undefined
  if (!row) return undefined
  const document = JSON.parse(row.document) as { version?: unknown }
  // Steps of an earlier version of the document do not lead to journeys of this one.
  const past = document.version === JOURNEY_VERSION ? readPast(db, id, row.revision) : []
  return { id: row.id, revision: row.revision, journey: parseJourney(document), past }
}

function readPast(db: Db, id: string, revision: number): Past {
  const steps = db.prepare('SELECT steps FROM pasts WHERE journey_id = ? AND revision = ?').pluck().get(id, revision) as string | undefined
  const parsed = steps === undefined ? undefined : pastSchema.safeParse(JSON.parse(steps))
  return parsed?.success ? parsed.data : []
}

/** A journey's stored document, for threads that read it themselves. */
export const journeyDocument = (db: Db, id: string): { document: string; revision: number } | undefined =>
  db.prepare('SELECT document, revision FROM journeys WHERE id = ? AND deleted_at IS NULL').get(id) as Row | undefined

/** The ids of all journeys, deleted ones that can be restored included. */
export const journeyIds = (db: Db): string[] => db.prepare('SELECT id FROM journeys').pluck().all() as string[]

export function insertJourney(db: Db, journey: Journey, id = newId()): JourneyRecord {
  const now = Date.now()
  db.prepare('INSERT INTO journeys (id, name, document, revision, created_at, updated_at) VALUES (?, ?, ?, 1, ?, ?)').run(
    id,
    journey.name,
    JSON.stringify(journey),
    now,
    now,
  )
  return { id, revision: 1, journey, past: [] }
}

export type SaveResult = { saved: true; revision: number } | { saved: false; revision: number | undefined }

/** Saves on top of the revision it was made from; if another was saved meanwhile nothing is written and that revision's number is returned. */
export function saveJourney(db: Db, id: string, revision: number, journey: Journey, past: Past = []): SaveResult {
  return db.transaction(() => save(db, id, revision, journey, past))()
}

function save(db: Db, id: string, revision: number, journey: Journey, past: Past): SaveResult {
  const { changes } = db
    .prepare(
      `UPDATE journeys SET name = ?, document = ?, revision = revision + 1, updated_at = ?
       WHERE id = ? AND revision = ? AND deleted_at IS NULL`,
    )
    .run(journey.name, JSON.stringify(journey), Date.now(), id, revision)
  if (changes === 1) {
    db.prepare('INSERT OR REPLACE INTO pasts (journey_id, revision, steps) VALUES (?, ?, ?)').run(id, revision + 1, JSON.stringify(past))
    return { saved: true, revision: revision + 1 }
  }
  const row = db.prepare('SELECT revision FROM journeys WHERE id = ? AND deleted_at IS NULL').get(id) as Row | undefined
  return { saved: false, revision: row?.revision }
}

/** Puts another document in a journey's place, without steps of undo that would lead back. */
export const replaceJourney = (db: Db, id: string, journey: Journey): void => {
  db.prepare('UPDATE journeys SET name = ?, document = ?, revision = revision + 1, updated_at = ? WHERE id = ? AND deleted_at IS NULL').run(
    journey.name,
    JSON.stringify(journey),
    Date.now(),
    id,
  )
}

/** Marks a journey as deleted; it can be restored until it is swept away. */
export const deleteJourney = (db: Db, id: string): boolean =>
  db.prepare('UPDATE journeys SET deleted_at = ? WHERE id = ? AND deleted_at IS NULL').run(Date.now(), id).changes === 1

export const restoreJourney = (db: Db, id: string): boolean =>
  db.prepare('UPDATE journeys SET deleted_at = NULL WHERE id = ? AND deleted_at IS NOT NULL').run(id).changes === 1

/** Deleted journeys that can be restored, the one deleted last first. */
export const deletedJourneys = (db: Db): { id: string; name: string; deletedAt: number }[] =>
  db.prepare('SELECT id, name, deleted_at AS deletedAt FROM journeys WHERE deleted_at IS NOT NULL ORDER BY deleted_at DESC').all() as {
    id: string
    name: string
    deletedAt: number
  }[]

/** Deletes journeys for good that were deleted longer ago than an age in milliseconds. */
export const sweepJourneys = (db: Db, age: number): void => {
  db.prepare('DELETE FROM journeys WHERE deleted_at < ?').run(Date.now() - age)
}
