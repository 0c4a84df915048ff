import { newId } from './new-id'
import type { FilmFormatId } from '#core/film/formats'
import type { FilmPace, FilmSettings } from '#core/film/settings'
import { filmSettingsSchema } from '#core/film/settings'
import type { Db } from './database'

type ExportState = 'queued' | 'running' | 'done' | 'failed' | 'cancelled'

export interface ExportRecord {
  id: string
  journeyId: string
  /** The title under which the film is downloaded. */
  name: string
  format: FilmFormatId
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

const COLUMNS = `id, journey_id AS journeyId, name, format, state, frames_done AS framesDone, frames_total AS framesTotal, bytes, error,
  created_at AS createdAt, finished_at AS finishedAt`

export function insertExport(db: Db, entry: { journeyId: string; name: string; document: string; settings: FilmSettings }): ExportRecord {
  const id = newId()
  db.prepare(
    `INSERT INTO exports (id, journey_id, name, document, format, settings, state, frames_total, created_at)
     VALUES (@id, @journeyId, @name, @document, @format, @settings, 'queued', @framesTotal, @now)`,
  ).run({
    id,
    journeyId: entry.journeyId,
    name: entry.name,
    document: entry.document,
    format: entry.settings.format,
    settings: JSON.stringify(entry.settings),
    framesTotal: entry.settings.to - entry.settings.from,
    now: Date.now(),
  })
  return readExport(db, id)!
}

export const readExport = (db: Db, id: string): ExportRecord | undefined =>
  db.prepare(`SELECT ${COLUMNS} FROM exports WHERE id = ?`).get(id) as ExportRecord | undefined

/** What is exported: the journey document as it was when that was asked for, and the settings. */
export function exportOrder(db: Db, id: string): { document: string; settings: FilmSettings } {
  const row = db.prepare('SELECT document, settings FROM exports WHERE id = ?').get(id) as { document: string; settings: string }
  return { document: row.document, settings: filmSettingsSchema.parse(JSON.parse(row.settings)) }
}

export const listExports = (db: Db, journeyId: string): ExportRecord[] =>
  db.prepare(`SELECT ${COLUMNS} FROM exports WHERE journey_id = ? ORDER BY created_at DESC`).all(journeyId) as ExportRecord[]

/** Notes that the work on an export begins. */
export const beginExport = (db: Db, id: string): void => {
  db.prepare('UPDATE exports SET started_at = ? WHERE id = ?').run(Date.now(), id)
}

/** What the last films took that were made here, the newest first. */
export function exportPaces(db: Db): FilmPace[] {
  const rows = db
    .prepare(
      `SELECT journey_id AS journeyId, settings, bytes, started_at AS startedAt, finished_at AS finishedAt FROM exports
       WHERE state = 'done' AND settings IS NOT NULL AND started_at IS NOT NULL ORDER BY finished_at DESC LIMIT ?`,
    )
    .all(MOST_PACES) as { journeyId: string; settings: string; bytes: number; startedAt: number; finishedAt: number }[]
  return rows.flatMap(({ journeyId, settings, bytes, startedAt, finishedAt }) => {
    const known = filmSettingsSchema.safeParse(JSON.parse(settings))
    if (!known.success || finishedAt <= startedAt) return []
    const { format, quality, shows, from, to, width, height } = known.data
    return [
      {
        journey: journeyId,
        format,
        quality,
        shows,
        pixels: (to - from) * width * height,
        bytes,
        seconds: (finishedAt - startedAt) / 1000,
      },
    ]
  })
}

/** So many films say enough of how fast this machine is. */
const MOST_PACES = 50

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

/** Marks exports as failed that were running or waiting when the server stopped. */
export const failInterruptedExports = (db: Db): void => {
  db.prepare(
    `UPDATE exports SET state = 'failed', error = 'The server stopped while this export was under way: export again.', finished_at = ?
     WHERE state IN ('queued', 'running')`,
  ).run(Date.now())
}
