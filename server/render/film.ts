import { rename, rm } from 'node:fs/promises'
import type { Worker } from 'node:worker_threads'
import { FILM_FORMATS } from '#core/film/formats'
import type { FilmSettings } from '#core/film/settings'
import { atSize, checkFilm, wholeFilm } from '#core/film/settings'
import { compile } from '#core/frame/compile'
import { NO_PLACES } from '#core/labels/label-scene'
import type { Journey } from '#core/journey/schema'
import { frameTime } from '#core/pace/rate'
import type { Mix } from '#core/film/mix'
import { mixOf } from '#core/film/mix'
import type { Encoder } from './encoder'
import { partOf } from './encoder'
import { writeSound } from './sound'
import { startEncoder } from './start-encoder'
import type { PaintJob, PaintOrder, PaintReport } from './painter-worker'
import { startThread } from '../programs'

export interface FilmOptions {
  /** The data folder with the sheets. */
  folder: string
  journey: Journey
  /** The whole film as an MP4 if left out. */
  settings?: FilmSettings
  /** Path of the file. */
  out: string
  onProgress?: (done: number, total: number) => void
  signal?: AbortSignal
}

export interface FilmReport {
  frames: number
  seconds: number
  /** Milliseconds spent painting, reading back included. */
  paintMs: number
}

/** Frames that may be painted ahead of the encoder. */
const SLOTS = 4

/**
 * Renders the film: a worker thread paints into shared memory, and the encoder takes the frames from there in order, each at its own pace.
 * @throws JourneyError for a journey that cannot be compiled or exported so, the signal's reason when aborted, Error when painting or encoding fails;
 *   in each case no file is left.
 */
export async function renderFilm({
  folder,
  journey,
  out,
  settings = wholeFilm(journey),
  onProgress,
  signal,
}: FilmOptions): Promise<FilmReport> {
  signal?.throwIfAborted()
  checkFilm(journey, settings)
  const { from, to, width, height } = settings
  const { rate } = journey.frame
  const { encoder: kind, sound } = FILM_FORMATS[settings.format]
  const span = { from: frameTime(from, rate), to: frameTime(to, rate) }
  const total = to - from
  const mixed = () => mixOf(compile(journey, NO_PLACES))
  if (kind.kind === 'sound') return soundAlone(folder, mixed()!, span, out, total, onProgress, signal)
  const slots = Array.from({ length: SLOTS }, () => new SharedArrayBuffer(width * height * 4))
  const job = { folder, journey: atSize(journey, settings), ground: settings.ground, slots } satisfies PaintJob
  const worker = startThread('painter', job)
  const painted = painterReports(worker, signal)
  const order = (frame: number, slot: number) => worker.postMessage({ frame, slot } satisfies PaintOrder)
  let encoder: Encoder | undefined
  let heard: string | undefined
  let paintMs = 0
  const start = performance.now()
  try {
    for (let k = 0; k < Math.min(SLOTS, total); k++) order(from + k, k)
    // The thread loads and compiles the journey meanwhile, with the places of its labels. Here it is compiled for its sound, and for what may be wrong with it.
    const mix = mixed()
    if (settings.sound && sound && mix) heard = await writeSound(folder, mix, span, `${out}.sound`, signal)
    encoder = startEncoder(out, settings, rate, heard)
    for (let k = 0; k < total; k++) {
      const report = await painted()
      paintMs += report.paintMs
      await Promise.race([encoder.write(Buffer.from(slots[report.slot]!)), painted.aborted])
      if (k + SLOTS < total) order(from + k + SLOTS, report.slot)
      onProgress?.(k + 1, total)
    }
    await Promise.race([encoder.finish(), painted.aborted])
  } catch (error) {
    await encoder?.abort()
    throw error
  } finally {
    await worker.terminate()
    if (heard) await rm(heard, { force: true })
  }
  return { frames: total, seconds: (performance.now() - start) / 1000, paintMs }
}

/** Writes the sound of a film as a file of its own. */
async function soundAlone(
  folder: string,
  mix: Mix,
  span: { from: number; to: number },
  out: string,
  total: number,
  onProgress: FilmOptions['onProgress'],
  signal: AbortSignal | undefined,
): Promise<FilmReport> {
  const start = performance.now()
  await rename(await writeSound(folder, mix, span, partOf(out), signal, (share) => onProgress?.(Math.round(share * total), total)), out)
  return { frames: total, seconds: (performance.now() - start) / 1000, paintMs: 0 }
}

/** The reports of a painter, one at a time and in order; rejects when it fails or the signal is aborted. */
function painterReports(worker: Worker, signal: AbortSignal | undefined) {
  const waiting: PaintReport[] = []
  let wake: (() => void) | undefined
  let failure: Error | undefined
  const fail = (error: Error) => {
    failure ??= error
    wake?.()
  }
  worker.on('message', (report: PaintReport) => {
    waiting.push(report)
    wake?.()
  })
  worker.on('error', fail)
  worker.on('exit', (code) => fail(new Error(`The painter stopped unexpectedly (exit code ${code}).`)))
  const aborted = new Promise<never>((_, reject) => {
    signal?.addEventListener('abort', () => {
      fail(signal.reason as Error)
      reject(signal.reason as Error)
    })
  })
  aborted.catch(() => {})
  const next = async (): Promise<PaintReport> => {
    while (waiting.length === 0 && !failure) await new Promise<void>((resolve) => (wake = resolve))
    if (failure) throw failure
    return waiting.shift()!
  }
  return Object.assign(next, { aborted })
}
