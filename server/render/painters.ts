import { availableParallelism } from 'node:os'
import type { Worker } from 'node:worker_threads'
import type { PixelFormat } from '#core/film/pixel-format'
import { frameBytes } from '#core/film/pixel-format'
import type { Journey } from '#core/journey/schema'
import { startThread } from '../programs'
import type { PaintJob, PaintOrder, PaintReport } from './painter-worker'

/** What the threads paint: frames `from` up to, not including, `to`. */
export interface PaintedFilm {
  folder: string
  journey: Journey
  ground: boolean
  pixels: PixelFormat
  from: number
  to: number
}

export interface Painters {
  /**
   * The pixels of the next frame of the film, in order, once it is painted. They are good until the frame after it is asked for.
   * @throws Error when a painter has failed, or has been stopped
   */
  next(): Promise<Buffer>
  /** Milliseconds that all of them have spent painting. */
  paintMs(): number
  /** Ends the threads; whoever waits for a frame is told why. */
  stop(reason: Error): Promise<void>
}

/** Frames in a row that one painter paints: only what changes from one to the next is painted. */
const RUN = 12

/** Memory for frames that are painted ahead, of all painters, in bytes; each has room for two at least. */
const MOST_AHEAD = 160 * 2 ** 20

/** The most painters where nothing else is asked for: each keeps the tiles that it sees, in 1080p about 300 MB at the most. */
const MOST_USUAL = 6

/** How many painters a film gets, where nothing else is asked for: one core is left to the encoder and the server. */
export const usualPainters = (): number => Math.max(1, Math.min(MOST_USUAL, availableParallelism() - 1))

interface Thread {
  worker: Worker
  slots: SharedArrayBuffer[]
  free: number[]
  /** What is left of its run. */
  next: number
  end: number
}

/**
 * Starts threads that paint a film into shared memory. Each paints a run of frames, then the next run that no other has; the first one finds the places of
 * labels for all, so that they paint the same film.
 */
export function startPainters({ folder, journey, ground, pixels, from, to }: PaintedFilm, count: number): Painters {
  const bytes = frameBytes(pixels, journey.frame)
  const threads = Math.max(1, Math.min(count, Math.ceil((to - from) / RUN)))
  const room = Math.max(2, Math.min(RUN, Math.floor(MOST_AHEAD / (threads * bytes)), to - from))
  /** Painted, and not yet taken. */
  const painted = new Map<number, { thread: Thread; slot: number }>()
  let upcoming = from
  let wanted = from
  let spent = 0
  let taken: { thread: Thread; slot: number } | undefined
  let failure: Error | undefined
  let wake: (() => void) | undefined

  const fail = (error: Error) => {
    failure ??= error
    wake?.()
  }
  const send = ({ worker }: Thread, order: PaintOrder) => worker.postMessage(order)

  /** Gives a thread as many frames to paint as it has room for. */
  function supply(thread: Thread): void {
    while (thread.free.length > 0) {
      if (thread.next === thread.end) {
        if (upcoming === to) return
        thread.next = upcoming
        thread.end = upcoming = Math.min(to, upcoming + room)
      }
      send(thread, { kind: 'frame', frame: thread.next++, slot: thread.free.shift()! })
    }
  }

  function start(isFirst: boolean): Thread {
    const slots = Array.from({ length: room }, () => new SharedArrayBuffer(bytes))
    const worker = startThread('painter', { folder, journey, ground, pixels, slots, findsPlaces: isFirst } satisfies PaintJob)
    const thread: Thread = { worker, slots, free: slots.map((_, slot) => slot), next: from, end: from }
    worker.on('message', (report: PaintReport) => {
      if (report.kind === 'places') {
        for (const other of all.slice(1)) {
          send(other, report)
          supply(other)
        }
        return
      }
      spent += report.paintMs
      painted.set(report.frame, { thread, slot: report.slot })
      if (report.frame === wanted) wake?.()
    })
    worker.on('error', fail)
    worker.on('exit', (code) => fail(new Error(`The painter stopped unexpectedly (exit code ${code}).`)))
    return thread
  }

  const all: Thread[] = Array.from({ length: threads }, (_, i) => start(i === 0))
  supply(all[0]!)

  return {
    async next() {
      if (taken) {
        taken.thread.free.push(taken.slot)
        supply(taken.thread)
      }
      while (!painted.has(wanted) && !failure) await new Promise<void>((resolve) => (wake = resolve))
      if (failure) throw failure
      taken = painted.get(wanted)!
      painted.delete(wanted++)
      return Buffer.from(taken.thread.slots[taken.slot]!)
    },
    paintMs: () => spent,
    async stop(reason) {
      fail(reason)
      await Promise.all(all.map(({ worker }) => worker.terminate()))
    },
  }
}
