import { availableParallelism } from 'node:os'
import type { Worker } from 'node:worker_threads'
import type { Shown } from '#core/film/passes'
import type { PixelFormat } from '#core/film/pixel-format'
import { frameBytes } from '#core/film/pixel-format'
import type { Journey } from '#core/journey/schema'
import { startThread } from '../programs'
import type { PaintJob, PaintOrder, PaintReport } from './painter-worker'

/** What the threads paint: frames of a film, in this order. */
export interface PaintedFilm {
  folder: string
  journey: Journey
  shows: Shown
  pixels: PixelFormat
  frames: readonly number[]
}

/** A frame's pixels, and the milliseconds that painting them took. */
interface PaintedFrame {
  pixels: Buffer
  paintMs: number
}

export interface Painters {
  /**
   * The next of the frames, once it is painted. Its pixels are good until the frame after it is asked for.
   * @throws Error when a painter has failed, or has been stopped
   */
  next(): Promise<PaintedFrame>
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
  /** What is left of its run, by places in the list of frames. */
  next: number
  end: number
}

/**
 * Starts threads that paint a film into shared memory. Each paints a run of frames, then the next run that no other has; the first one finds the places of
 * labels for all, so that they paint the same film.
 */
export function startPainters({ folder, journey, shows, pixels, frames }: PaintedFilm, count: number): Painters {
  const bytes = frameBytes(pixels, journey.frame)
  const threads = Math.max(1, Math.min(count, Math.ceil(frames.length / RUN)))
  const room = Math.max(2, Math.min(RUN, Math.floor(MOST_AHEAD / (threads * bytes)), frames.length))
  /** Painted, and not yet taken. */
  const painted = new Map<number, { thread: Thread; slot: number; paintMs: number }>()
  let upcoming = 0
  let wanted = 0
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
        if (upcoming === frames.length) return
        thread.next = upcoming
        thread.end = upcoming = Math.min(frames.length, upcoming + room)
      }
      const place = thread.next++
      send(thread, { kind: 'frame', place, frame: frames[place]!, slot: thread.free.shift()! })
    }
  }

  function start(isFirst: boolean): Thread {
    const slots = Array.from({ length: room }, () => new SharedArrayBuffer(bytes))
    const worker = startThread('painter', { folder, journey, shows, pixels, slots, findsPlaces: isFirst } satisfies PaintJob)
    const thread: Thread = { worker, slots, free: slots.map((_, slot) => slot), next: 0, end: 0 }
    worker.on('message', (report: PaintReport) => {
      if (report.kind === 'places') {
        for (const other of all.slice(1)) {
          send(other, report)
          supply(other)
        }
        return
      }
      spent += report.paintMs
      painted.set(report.place, { thread, slot: report.slot, paintMs: report.paintMs })
      if (report.place === wanted) wake?.()
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
      const { thread, slot, paintMs } = (taken = painted.get(wanted)!)
      painted.delete(wanted++)
      return { pixels: Buffer.from(thread.slots[slot]!), paintMs }
    },
    paintMs: () => spent,
    async stop(reason) {
      fail(reason)
      await Promise.all(all.map(({ worker }) => worker.terminate()))
    },
  }
}
