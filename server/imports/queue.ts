import { EventEmitter } from 'node:events'
import { newId } from '../storage/new-id'
import PQueue from 'p-queue'
import { JourneyError } from '#core/error'
import { troubleOf } from '../http/trouble'

/** An import that runs, or has ended a short while ago. */
export type ImportRecord =
  | { state: 'running'; share: number }
  /** What came of it: the image, or the journey. */
  | { state: 'done'; result: object }
  | { state: 'failed'; error: string }
  | { state: 'cancelled' }

const records = new Map<string, { record: ImportRecord; control: AbortController }>()
const changes = new EventEmitter().setMaxListeners(0)

/** How long ended imports are remembered, in milliseconds. */
const KEPT = 10 * 60 * 1000

/** So many imports run at a time: each may need much of the machine, but one that takes long must not hold up all others. */
const AT_A_TIME = 2
const queue = new PQueue({ concurrency: AT_A_TIME })

/** Queues an import; returns its id at once. */
export function startImport(run: (onProgress: (share: number) => void, signal: AbortSignal) => Promise<object>): string {
  const id = newId()
  const control = new AbortController()
  records.set(id, { record: { state: 'running', share: 0 }, control })
  const set = (record: ImportRecord) => {
    records.set(id, { record, control })
    changes.emit(id, record)
  }
  void queue
    .add(async () => set({ state: 'done', result: await run((share) => set({ state: 'running', share }), control.signal) }))
    .catch((error: unknown) => {
      if (control.signal.aborted) return set({ state: 'cancelled' })
      if (!(error instanceof JourneyError)) console.error(error)
      set({ state: 'failed', error: messageOf(error) })
    })
    .finally(() => setTimeout(() => records.delete(id), KEPT).unref())
  return id
}

const messageOf = (error: unknown): string =>
  error instanceof JourneyError ? error.message : (troubleOf(error)?.message ?? 'The import went wrong inside Zephyrine: try again.')

export const findImport = (id: string): ImportRecord | undefined => records.get(id)?.record

export const cancelImport = (id: string): void => records.get(id)?.control.abort(new Error('cancelled'))

/** Calls back at each change of an import, until the returned function is called. */
export function watchImport(id: string, listener: (record: ImportRecord) => void): () => void {
  changes.on(id, listener)
  return () => changes.off(id, listener)
}
