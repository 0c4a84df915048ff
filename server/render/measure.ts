import { readFile, rm, stat } from 'node:fs/promises'
import { FILM_FORMATS, pixelFormatOf } from '#core/film/formats'
import type { FilmCost, FilmSettings } from '#core/film/settings'
import { AROUND, atSize, checkFilm, isHeard } from '#core/film/settings'
import type { Journey } from '#core/journey/schema'
import { sum } from '#core/pace/share-out'
import { fraction, framesPerSecond } from '#core/pace/rate'
import type { Encoder } from './encoder'
import { startEncoder } from './start-encoder'
import { startPainters, usualPainters } from './painters'

/** So many stretches of so many frames are made of a film to tell what all of it takes. */
const STRETCHES = 8
const FRAMES = 12

/** No stretch is begun after so many milliseconds, once there are two. */
const ENOUGH = 6000

const mean = (values: readonly number[]): number => sum(values) / values.length

/** Encoders begin anew with a whole picture after so many frames: the usual ones of H.264 and VP9 in ffmpeg lie about here (from memory). */
const KEY_EVERY = 250

interface MeasureOptions {
  /** The data folder with the sheets. */
  folder: string
  journey: Journey
  settings: FilmSettings
  /** Path of the file that is made of the stretches; it is deleted again. */
  out: string
  signal?: AbortSignal
}

/**
 * Makes a few stretches of a film as they would be made of all of it, and tells from them what that takes up, and how long it takes on this machine now.
 * @throws JourneyError for what cannot be exported so, the signal's reason when aborted, Error when painting or encoding fails
 */
export async function measureFilm({ folder, journey, settings, out, signal }: MeasureOptions): Promise<FilmCost> {
  signal?.throwIfAborted()
  checkFilm(journey, settings)
  const { format, from, to, shows, sound } = settings
  const { rate } = journey.frame
  const { encoder: kind, sound: heard } = FILM_FORMATS[format]
  if (kind.kind === 'sound') throw new Error('A file of sound alone has no frames.')
  const stretches = stretchesOf(from, to)
  const log = `${out}.log`
  const painted = { folder, journey: atSize(journey, settings), shows, pixels: pixelFormatOf(settings), frames: stretches.flat() }
  const painters = startPainters(painted, usualPainters())
  const aborted = new Promise<never>((_, reject) => signal?.addEventListener('abort', () => reject(signal.reason as Error)))
  aborted.catch(() => {})
  let encoder: Encoder | undefined
  const start = performance.now()
  try {
    const begun = startEncoder(
      out,
      settings,
      rate,
      undefined,
      kind.kind === 'ffmpeg' ? { log, keys: keyTimes(stretches, rate) } : undefined,
    )
    encoder = begun
    const write = async () => {
      const { pixels, paintMs } = await Promise.race([painters.next(), aborted])
      await Promise.race([begun.write(pixels), aborted])
      return paintMs
    }
    const { made, first, each } = await makeStretches(stretches, write, start)
    const written = performance.now()
    await Promise.race([begun.finish(), aborted])
    const last = performance.now() - written
    const bytes =
      kind.kind === 'ffmpeg'
        ? bytesOf(sizesOf(await readFile(log, 'utf8')), made, to - from, kind.takes === 'yuv420p' && stretches.length > 1 ? LATER : 1)
        : ((await stat(out)).size / made.flat().length) * (to - from)
    const hasSound = sound && heard !== null && isHeard(journey)
    return {
      bytes: bytes + (hasSound ? (heard.bytes * (to - from)) / framesPerSecond(rate) : 0),
      seconds: (first + each * (to - from - 1) + last) / 1000 + (hasSound ? AROUND : 0),
    }
  } catch (error) {
    await encoder?.abort()
    throw error
  } finally {
    await painters.stop(new Error('The stretches are finished.'))
    await Promise.all([out, log].map((file) => rm(file, { force: true })))
  }
}

/**
 * Makes stretches until they are enough. @param write makes the next frame, and tells the milliseconds of painting it
 * @returns which of them were made, and milliseconds: from the order to the first frame, and for each frame in a film of one piece
 */
async function makeStretches(stretches: readonly number[][], write: () => Promise<number>, start: number) {
  const made: number[][] = []
  let first: number | undefined
  /** When the frames that count were begun, and milliseconds of painting: of the first frames of stretches, and of the others. */
  let begun = start
  let [jumps, steps]: [number[], number[]] = [[], []]
  for (const stretch of stretches) {
    if (made.length >= 2 && performance.now() - start > ENOUGH) break
    for (let k = 0; k < stretch.length; k++) {
      ;(k === 0 ? jumps : steps).push(await write())
      if (first === undefined) begun = start + (first = performance.now() - start)
    }
    made.push(stretch)
    // In the first stretch everything is still being loaded, and slow: if there are others, it does not count.
    if (made.length > 1 || stretches.length === 1) continue
    begun = performance.now()
    ;[jumps, steps] = [[], []]
  }
  const isWhole = stretches.length === 1
  // What painting a stretch anew took longer is not taken in a film of one piece.
  const anew = isWhole || steps.length === 0 ? 0 : Math.max(0, mean(jumps) - mean(steps)) * jumps.length
  const count = jumps.length + steps.length - (isWhole ? 1 : 0)
  return { made, first: first!, each: Math.max(1, (performance.now() - begun - anew) / Math.max(1, count)) }
}

/** Frames in rows from all over a part of a film, those from its middle first; all of it where it is short. */
export function stretchesOf(from: number, to: number): number[][] {
  const total = to - from
  const row = (start: number, count: number) => Array.from({ length: count }, (_, k) => start + k)
  if (total <= STRETCHES * FRAMES) return [row(from, total)]
  const starts = Array.from({ length: STRETCHES }, (_, i) => from + Math.round(((i + 0.5) * total) / STRETCHES - FRAMES / 2))
  // Whenever it is broken off, what has been made is from different parts.
  return [3, 6, 1, 4, 7, 2, 5, 0].map((i) => row(starts[i]!, FRAMES))
}

/** When the stretches begin in a film that is put together of them, in seconds. */
function keyTimes(stretches: readonly number[][], rate: Journey['frame']['rate']): number[] {
  const [n, d] = fraction(rate)
  return stretches.map((_, i) => (sum(stretches.slice(0, i).map(({ length }) => length)) * d) / n)
}

/** The sizes of the pictures in a log of ffmpeg (`-vstats_file`), in bytes. */
const sizesOf = (log: string): number[] => [...log.matchAll(/f_size=\s*(\d+)/g)].map(([, size]) => Number(size))

/** Just after a whole picture the others are smaller than further on: by so much, in six films of the demos in H.264 and VP9 (1.0 to 1.5 times). */
const LATER = 1.2

/** The bytes of a film by the sizes of the pictures of stretches of it, each of which begins with a whole picture. @param later how much larger the others are further on */
export function bytesOf(sizes: readonly number[], stretches: readonly (readonly number[])[], total: number, later: number): number {
  if (sizes.length === 0) return 0
  const [whole, others]: [number[], number[]] = [[], []]
  // Some formats are given every second frame only.
  const share = sizes.length / stretches.flat().length
  const pictures = total * share
  let at = 0
  for (const { length } of stretches) {
    const own = sizes.slice(Math.round(at * share), Math.round((at + length) * share))
    at += length
    if (own.length > 0) whole.push(own[0]!)
    for (const size of own.slice(1)) others.push(size)
  }
  const keys = Math.ceil(pictures / KEY_EVERY)
  return keys * mean(whole) + (others.length > 0 ? (pictures - keys) * mean(others) * later : 0)
}
