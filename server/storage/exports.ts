import { nanoid } from 'nanoid'
import type { Db } from './database'

export type ExportState = 'queued' | 'running' | 'done' | 'failed' | 'cancelled'

export interface ExportRecord {
  id: string
  journeyId: string
  name: string
  state: ExportState
  framesDone: number
  framesTotal: number
  bytes: number | null
  error: string | null
  createdAt: number
  finishedAt: number | null
}

/** How an export has ended; `error` is a sentence for the user. */
export type ExportEnd = Pick<ExportRecord, 'bytes' | 'error'> & { state: 'done' | 'failed' | 'cancelled'; finishedAt: number }

const COLUMNS = `id, journey_id AS journeyId, name, state, frames_done AS framesDone, frames_total AS framesTotal, bytes, error,
  created_at AS createdAt, finished_at AS finishedAt`

export function insertExport(db: Db, entry: { journeyId: string; name: string; document: string; framesTotal: number }): ExportRecord {
  const id = nanoid(12)
  db.prepare(
    `INSERT INTO exports (id, journey_id, name, document, state, frames_total, created_at)
     VALUES (@id, @journeyId, @name, @document, 'queued', @framesTotal, @now)`,
  ).run({ id, ...entry, now: Date.now() })
  return readExport(db, id)!
}

export const readExport = (db: Db, id: string): ExportRecord | undefined =>
  db.prepare(`SELECT ${COLUMNS} FROM exports WHERE id = ?`).get(id) as ExportRecord | undefined

/** The journey document as it was when the export was asked for. */
export const exportDocument = (db: Db, id: string): string =>
  (db.prepare('SELECT document FROM exports WHERE id = ?').get(id) as { document: string }).document

export const listExports = (db: Db, journeyId: string): ExportRecord[] =>
  db.prepare(`SELECT ${COLUMNS} FROM exports WHERE journey_id = ? ORDER BY created_at DESC`).all(journeyId) as ExportRecord[]

export const finishExport = (db: Db, id: string, end: ExportEnd): void => {
  db.prepare(
    `UPDATE exports SET state = @state, bytes = @bytes, error = @error, finished_at = @finishedAt,
       frames_done = CASE WHEN @state = 'done' THEN frames_total ELSE frames_done END
     WHERE id = @id`,
  ).run({ id, ...end })
}

export const deleteExport = (db: Db, id: string): void => {
  db.prepare('DELETE FROM exports WHERE id = ?').run(id)
}

/** All finished films, the newest first. */
export const finishedExports = (db: Db): ExportRecord[] =>
  db.prepare(`SELECT ${COLUMNS} FROM exports WHERE state = 'done' ORDER BY created_at DESC`).all() as ExportRecord[]

export const finishedExportIds = (db: Db): string[] =>
  (db.prepare("SELECT id FROM exports WHERE state = 'done'").all() as { id: string }[]).map((row) => row.id)

/** Marks exports as failed that were running or waiting when the server stopped. */
export const failInterruptedExports = (db: Db): void => {
  db.prepare(
    `UPDATE exports SET state = 'failed', error = 'The server stopped while this export was under way: export again.', finished_at = ?
     WHERE state IN ('queued', 'running')`,
  ).run(Date.now())
}
