/** What whole films cost: painting, encoding, and both; how that goes with the number of painters; and against capturing a page. */
import { mkdtempSync, rmSync } from 'node:fs'
import { tmpdir } from 'node:os'
import { join } from 'node:path'
import { pixelFormatOf } from '#core/film/formats'
import { wholeFilm } from '#core/film/settings'
import type { Journey } from '#core/journey/schema'
import { frameCount } from '#core/pace/rate'
import { renderFilm } from '#render/film'
import { startPainters } from '#render/painters'
import { startEncoder } from '#render/start-encoder'
import { line, median, now, rate } from './measure'
import { FROM, paintAlone } from './painting'

async function encodeAlone(frames: readonly Uint8Array[], journey: Journey, out: string): Promise<number> {
  const start = now()
  const encoder = startEncoder(out, wholeFilm(journey), journey.frame.rate)
  for (const frame of frames) await encoder.write(frame)
  await encoder.finish()
  return now() - start
}

/** Painting alone, encoding the same frames alone, and both at once. */
export async function measureExport(folder: string, journey: Journey, what: string, count: number, target: string): Promise<void> {
  const scratch = mkdtempSync(join(tmpdir(), 'zephyrine-bench-'))
  try {
    const painted = await paintAlone(folder, journey, count)
    line(`painting, ${what}`, rate(count, painted.ms))
    const ratios: number[] = []
    // Alternating, so that a slow spell of the machine affects both; the median of three ratios is printed.
    for (let turn = 0; turn < 3; turn++) {
      const encoding = await encodeAlone(painted.frames, journey, join(scratch, 'encoded.mp4'))
      const start = now()
      await renderFilm({
        folder,
        journey,
        out: join(scratch, 'film.mp4'),
        settings: { ...wholeFilm(journey), from: FROM, to: FROM + count },
      })
      const whole = now() - start
      ratios.push(whole / encoding)
      line(`encoding alone, turn ${turn + 1}`, rate(count, encoding))
      line(`whole export, turn ${turn + 1}`, rate(count, whole))
    }
    line(`whole export / encoding alone, ${what}`, median(ratios).toFixed(2), target)
  } finally {
    rmSync(scratch, { recursive: true, force: true })
  }
}

/** A film from the order to the file, against its own length. */
export async function measureWholeFilm(folder: string, journey: Journey, what: string, target: string): Promise<void> {
  const scratch = mkdtempSync(join(tmpdir(), 'zephyrine-bench-'))
  try {
    const start = now()
    const { frames, paintMs } = await renderFilm({ folder, journey, out: join(scratch, 'film.mp4') })
    const seconds = (now() - start) / 1000
    line(`painting, ${what}, mean`, `${(paintMs / frames).toFixed(1)} ms`)
    line(`order to file / length, ${what}`, (seconds / journey.seconds).toFixed(2), `${seconds.toFixed(1)} s; ${target}`)
  } finally {
    rmSync(scratch, { recursive: true, force: true })
  }
}

/** The same 300 frames painted by one, two and four threads, without an encoder; from their second frame on, so that their start is left out. */
export async function measurePainters(folder: string, journey: Journey): Promise<void> {
  const frames = Array.from({ length: Math.min(300, frameCount(journey.seconds, journey.frame.rate) - FROM) }, (_, k) => FROM + k)
  const times = new Map<number, number[]>([1, 2, 4].map((count) => [count, []]))
  for (let turn = 0; turn < 3; turn++)
    for (const [count, list] of times) {
      const painters = startPainters({ folder, journey, shows: 'all', pixels: pixelFormatOf(wholeFilm(journey)), frames }, count)
      await painters.next()
      const start = now()
      for (let k = 1; k < frames.length; k++) await painters.next()
      list.push(now() - start)
      await painters.stop(new Error('Measured.'))
    }
  const [one, two, four] = [...times.values()].map(median)
  line('two painters / one', `${(one! / two!).toFixed(2)} x`, 'target: at least 1.7 times as fast, on two cores')
  line('four painters / one', `${(one! / four!).toFixed(2)} x`)
}
