import { EventEmitter } from 'node:events'
import { mkdirSync, rmSync, statSync } from 'node:fs'
import { join } from 'node:path'
import { parseJourney } from '#core/journey/parse'
import { renderFilm } from '#render/film'
import { database, dataFolder } from '../storage/database'
import type { ExportRecord } from '../storage/exports'
import { exportDocument, finishExport, readExport, setExportProgress } from '../storage/exports'

/** Exports run one after another: one keeps the machine busy by itself. */
const waiting: string[] = []
let current: { id: string; control: AbortController } | undefined

const changes = new EventEmitter().setMaxListeners(0)

/** How often progress is stored and reported to listeners, in milliseconds. */
const REPORT_EVERY = 200

export const exportFile = (id: string): string => join(dataFolder(), 'exports', `${id}.mp4`)

export function enqueueExport(id: string): void {
  waiting.push(id)
  void work()
}

/** Cancels an export that waits or runs, and deletes its file. */
export function cancelExport(id: string): void {
  const place = waiting.indexOf(id)
  if (place >= 0) {
    waiting.splice(place, 1)
    finishExport(database(), id, { state: 'cancelled' })
    announce(id)
  } else if (current?.id === id) current.control.abort(new Error('cancelled'))
}

/** Calls back with an export's record at each change, until the returned function is called. */
export function watchExport(id: string, listener: (record: ExportRecord) => void): () => void {
  changes.on(id, listener)
  return () => changes.off(id, listener)
}

const announce = (id: string) => changes.emit(id, readExport(database(), id))

async function work(): Promise<void> {
  if (current) return
  const id = waiting.shift()
  if (id === undefined) return
  current = { id, control: new AbortController() }
  const { signal } = current.control
  const db = database()
  try {
    setExportProgress(db, id, 0)
    announce(id)
    mkdirSync(join(dataFolder(), 'exports'), { recursive: true })
    let reported = Date.now()
    await renderFilm({
      folder: dataFolder(),
      journey: parseJourney(JSON.parse(exportDocument(db, id))),
      out: exportFile(id),
      signal,
      onProgress(done) {
        if (Date.now() - reported < REPORT_EVERY) return
        reported = Date.now()
        setExportProgress(db, id, done)
        announce(id)
      },
    })
    finishExport(db, id, { state: 'done', bytes: statSync(exportFile(id)).size })
  } catch (error) {
    rmSync(exportFile(id), { force: true })
    finishExport(
      db,
      id,
      signal.aborted ? { state: 'cancelled' } : { state: 'failed', error: error instanceof Error ? error.message : String(error) },
    )
  } finally {
    current = undefined
    announce(id)
    void work()
  }
}
