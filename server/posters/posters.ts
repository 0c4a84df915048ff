import { once } from 'node:events'
import { copyFileSync } from 'node:fs'
import type { Worker } from 'node:worker_threads'
import PQueue from 'p-queue'
import type { PosterOrder, PosterReport } from '../render/poster-worker'
import { startThread } from '../programs'
import { database, dataFolder } from '../storage/database'
import { journeyDocument } from '../storage/journeys'
import { deleteOlderPosters, posterPath, storedPosters } from './poster-files'

/**
 * Posters are painted in the background, one at a time, in a thread of their own: some time after a journey has come or been saved, and when the
 * list shows one without. Nothing waits for a poster: the list says which exist.
 */

/** A journey is saved every other second during editing; its poster waits for this pause, in milliseconds. */
const QUIET = 2500

/** How long the idle thread is kept, in milliseconds. */
const IDLE = 10_000

const queue = new PQueue({ concurrency: 1 })
/** The journeys whose poster waits or is being painted. */
const ordered = new Set<string>()
const timers = new Map<string, NodeJS.Timeout>()
/** Revisions for which making a poster failed, and when that may be tried again, in milliseconds since 1970. */
const failed = new Map<string, { revision: number; until: number }>()
const TRY_AGAIN = 60_000
let stored: Map<string, number> | undefined
let thread: Worker | undefined
/** The journey whose poster is being painted. */
let painting: string | undefined
let idle: NodeJS.Timeout | undefined

const known = (): Map<string, number> => (stored ??= storedPosters(dataFolder()))

/** The revision shown by a journey's stored poster; undefined if there is none yet. */
export const posterRevision = (id: string): number | undefined => known().get(id)

function isGivenUp(id: string, revision: number): boolean {
  const last = failed.get(id)
  return last !== undefined && last.revision === revision && Date.now() < last.until
}

/** Whether a newer poster than the stored one is coming. Orders it if that was not done yet; at once where there is none to be shown meanwhile. */
export function posterIsComing(id: string, revision: number): boolean {
  if (posterRevision(id) === revision || isGivenUp(id, revision)) return false
  if (!timers.has(id) || posterRevision(id) === undefined) enqueue(id, LOOKED_FOR)
  return true
}

/** Gives a journey that is a copy of another one, as that is now, its poster, if there is one. */
export function copyPoster(from: { id: string; revision: number }, to: { id: string; revision: number }): void {
  if (posterRevision(from.id) !== from.revision) return
  copyFileSync(posterPath(dataFolder(), from.id, from.revision), posterPath(dataFolder(), to.id, to.revision))
  known().set(to.id, to.revision)
}

/** Orders a poster of a journey that has just come, or been saved. */
export function orderPoster(id: string): void {
  clearTimeout(timers.get(id))
  timers.set(id, setTimeout(() => enqueue(id), QUIET).unref())
}

/** Forgets the poster of a journey that has been deleted; one that is being painted is ended, however long it would take. */
export function forgetPoster(id: string): void {
  clearTimeout(timers.get(id))
  timers.delete(id)
  if (painting === id) void thread?.terminate()
}

/** What somebody looks for comes before the others. */
const LOOKED_FOR = 1

function enqueue(id: string, priority = 0): void {
  clearTimeout(timers.get(id))
  timers.delete(id)
  if (ordered.has(id)) return
  ordered.add(id)
  clearTimeout(idle)
  void queue.add(() => paint(id).finally(() => ordered.delete(id)), { priority })
}

queue.on('idle', () => {
  idle = setTimeout(() => {
    void thread?.terminate()
    thread = undefined
  }, IDLE).unref()
})

async function paint(id: string): Promise<void> {
  const row = journeyDocument(database(), id)
  if (!row || posterRevision(id) === row.revision) return
  painting = id
  const error = await painted({ folder: dataFolder(), document: row.document, out: posterPath(dataFolder(), id, row.revision) })
  painting = undefined
  // Of a journey that was deleted meanwhile nothing is missing.
  if (error !== null && !journeyDocument(database(), id)) return
  if (error !== null) {
    console.error(`The poster of journey ${id} could not be painted: ${error}`)
    failed.set(id, { revision: row.revision, until: Date.now() + TRY_AGAIN })
    return
  }
  known().set(id, row.revision)
  deleteOlderPosters(dataFolder(), id, row.revision)
}

/** Lets the thread paint a poster. @returns what went wrong, or null */
async function painted(order: PosterOrder): Promise<string | null> {
  const settled = new AbortController()
  try {
    thread ??= startThread('poster')
    thread.unref()
    const ended = once(thread, 'exit', { signal: settled.signal }).then((): [PosterReport] => {
      thread = undefined
      return [{ error: 'its thread stopped' }]
    })
    // `once` rejects with what the thread throws.
    const report = once(thread, 'message', { signal: settled.signal }) as Promise<[PosterReport]>
    thread.postMessage(order)
    return (await Promise.race([report, ended]))[0].error
  } catch (error) {
    thread = undefined
    return error instanceof Error ? error.message : String(error)
  } finally {
    settled.abort()
  }
}
