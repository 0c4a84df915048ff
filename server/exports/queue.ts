import { EventEmitter } from 'node:events'
import { mkdirSync, rmSync, statSync } from 'node:fs'
import { join } from 'node:path'
import PQueue from 'p-queue'
import type { FilmCost, FilmSettings } from '#core/film/settings'
import { parseJourney } from '#core/journey/parse'
import type { Journey } from '#core/journey/schema'
import { renderFilm } from '#render/film'
import { measureFilm } from '#render/measure'
import { troubleOf } from '../http/trouble'
import { database, dataFolder } from '../storage/database'
import type { ExportEnd, ExportRecord } from '../storage/exports'
import { beginExport, exportOrder, finishExport, listExports, readExport } from '../storage/exports'
import { filmFileName } from '../storage/film-files'
import { newId } from '../storage/new-id'

/** Exports run one after another: one keeps the machine busy by itself. */
const queue = new PQueue({ concurrency: 1 })
const waiting = new Set<string>()
/** The measurement that is under way: an export, or another one, ends it. */
let measuring: AbortController | undefined
let current: { id: string; control: AbortController; framesDone: number } | undefined

/** Ends of exports that could not be written, as on a full disk; they are written when that is possible. */
const unwritten = new Map<string, ExportEnd>()
const WRITE_AGAIN = 5000

const changes = new EventEmitter().setMaxListeners(0)

/** How often progress is reported to listeners, in milliseconds. */
const REPORT_EVERY = 200

export const exportFile = (film: Pick<ExportRecord, 'id' | 'format'>): string => join(dataFolder(), 'exports', filmFileName(film))

export function enqueueExport(id: string): void {
  waiting.add(id)
  measuring?.abort(new Error('An export begins.'))
  void queue.add(() => work(id))
}

/**
 * What an export of a journey would take, by a few of its frames; undefined while films are being made, as that would hold them up, and where it has been
 * broken off by the signal, an export, or the next measurement.
 */
export async function measureExport(journey: Journey, settings: FilmSettings, signal: AbortSignal): Promise<FilmCost | undefined> {
  measuring?.abort(new Error('Something else is measured.'))
  if (waiting.size > 0 || current) return undefined
  const own = (measuring = new AbortController())
  try {
    mkdirSync(join(dataFolder(), 'exports'), { recursive: true })
    const out = exportFile({ id: `measure-${newId()}`, format: settings.format })
    return await measureFilm({ folder: dataFolder(), journey, settings, out, signal: AbortSignal.any([signal, own.signal]) })
  } catch (error) {
    if (signal.aborted || own.signal.aborted) return undefined
    throw error
  } finally {
    if (measuring === own) measuring = undefined
  }
}

/** An export as it is now: how far it has come, and how it has ended, is known here before it is in the database. */
export function findExport(id: string): ExportRecord | undefined {
  const record = readExport(database(), id)
  return record && asItIs(record)
}

/** All exports of a journey, the newest first. */
export const exportsOf = (journeyId: string): ExportRecord[] => listExports(database(), journeyId).map(asItIs)

function asItIs(record: ExportRecord): ExportRecord {
  const end = unwritten.get(record.id)
  if (end) return { ...record, ...end }
  return current?.id === record.id ? { ...record, state: 'running', framesDone: current.framesDone } : record
}

/** Cancels an export that waits or runs, and deletes its file. */
export function cancelExport(id: string): void {
  if (waiting.delete(id)) end(id, { state: 'cancelled', bytes: null, error: null, finishedAt: Date.now() })
  else if (current?.id === id) current.control.abort(new Error('cancelled'))
}

/** Calls back with an export's record at each change, until the returned function is called. */
export function watchExport(id: string, listener: (record: ExportRecord) => void): () => void {
  changes.on(id, listener)
  return () => changes.off(id, listener)
}

const announce = (id: string) => changes.emit(id, findExport(id))

function end(id: string, how: ExportEnd): void {
  unwritten.set(id, how)
  write(id)
  announce(id)
}

function write(id: string): void {
  try {
    finishExport(database(), id, unwritten.get(id)!)
    unwritten.delete(id)
  } catch (error) {
    console.error(`The end of export ${id} could not be written:`, error)
    setTimeout(() => write(id), WRITE_AGAIN).unref()
  }
}

async function work(id: string): Promise<void> {
  // One that was cancelled while it waited is no longer among them.
  if (!waiting.delete(id)) return
  const mine = { id, control: new AbortController(), framesDone: 0 }
  current = mine
  const { signal } = mine.control
  const { document, settings } = exportOrder(database(), id)
  const out = exportFile({ id, format: settings.format })
  let how: ExportEnd
  try {
    beginExport(database(), id)
    announce(id)
    mkdirSync(join(dataFolder(), 'exports'), { recursive: true })
    let reported = Date.now()
    await renderFilm({
      folder: dataFolder(),
      journey: parseJourney(JSON.parse(document)),
      settings,
      out,
      signal,
      onProgress(done) {
        if (Date.now() - reported < REPORT_EVERY) return
        reported = Date.now()
        mine.framesDone = done
        announce(id)
      },
    })
    how = { state: 'done', bytes: statSync(out).size, error: null, finishedAt: Date.now() }
  } catch (error) {
    rmSync(out, { force: true })
    const reason = troubleOf(error)?.message ?? (error instanceof Error ? error.message : String(error))
    how = { state: signal.aborted ? 'cancelled' : 'failed', bytes: null, error: signal.aborted ? null : reason, finishedAt: Date.now() }
  }
  current = undefined
  end(id, how)
}
