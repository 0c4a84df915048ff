import { rename, rm } from 'node:fs/promises'
import { FILM_FORMATS, pixelFormatOf } from '#core/film/formats'
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
import { startPainters, usualPainters } from './painters'

export interface FilmOptions {
  /** The data folder with the sheets. */
  folder: string
  journey: Journey
  /** The whole film as an MP4 if left out. */
  settings?: FilmSettings
  /** Path of the file. */
  out: string
  /** How many threads paint; as many as there are cores to spare if left out. The film is the same. */
  painters?: number
  onProgress?: (done: number, total: number) => void
  signal?: AbortSignal
}

export interface FilmReport {
  frames: number
  seconds: number
  /** Milliseconds that all painters have spent painting, reading back included. */
  paintMs: number
}

/**
 * Renders the film: threads paint into shared memory, and the encoder takes the frames from there in order, each at its own pace.
 * @throws JourneyError for a journey that cannot be compiled or exported so, the signal's reason when aborted, Error when painting or encoding fails;
 *   in each case no file is left.
 */
export async function renderFilm({
  folder,
  journey,
  out,
  settings = wholeFilm(journey),
  painters: count = usualPainters(),
  onProgress,
  signal,
}: FilmOptions): Promise<FilmReport> {
  signal?.throwIfAborted()
  checkFilm(journey, settings)
  const { from, to } = settings
  const { rate } = journey.frame
  const { encoder: kind, sound } = FILM_FORMATS[settings.format]
  const span = { from: frameTime(from, rate), to: frameTime(to, rate) }
  const total = to - from
  const mixed = () => mixOf(compile(journey, NO_PLACES))
  if (kind.kind === 'sound') return soundAlone(folder, mixed()!, span, out, total, onProgress, signal)
  const painters = startPainters(
    {
      folder,
      journey: atSize(journey, settings),
      shows: settings.shows,
      pixels: pixelFormatOf(settings),
      frames: Array.from({ length: total }, (_, k) => from + k),
    },
    count,
  )
  const aborted = new Promise<never>((_, reject) => signal?.addEventListener('abort', () => reject(signal.reason as Error)))
  aborted.catch(() => {})
  let encoder: Encoder | undefined
  let heard: string | undefined
  const start = performance.now()
  try {
    // The painters load and compile the journey meanwhile. Here it is compiled for its sound, and for what may be wrong with it.
    const mix = mixed()
    if (settings.sound && sound && mix) heard = await writeSound(folder, mix, span, `${out}.sound`, signal)
    encoder = startEncoder(out, settings, rate, heard)
    for (let k = 0; k < total; k++) {
      const { pixels } = await Promise.race([painters.next(), aborted])
      await Promise.race([encoder.write(pixels), aborted])
      onProgress?.(k + 1, total)
    }
    await Promise.race([encoder.finish(), aborted])
  } catch (error) {
    await encoder?.abort()
    throw error
  } finally {
    await painters.stop(new Error('The film is finished.'))
    if (heard) await rm(heard, { force: true })
  }
  return { frames: total, seconds: (performance.now() - start) / 1000, paintMs: painters.paintMs() }
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
