import type { ReplyOf } from '#core/worker-calls'
import { SOUND_CALLS } from '#core/film/sound-messages'
import { readAudio } from './api'
import { callWorker } from './call-worker'

type Peaks = ReplyOf<typeof SOUND_CALLS, 'keep'>

/** The worker for sound; the pieces that it has kept stay with it. */
export function openSoundDesk() {
  const kept = new Map<string, Promise<Peaks>>()
  const start = () => new Worker(new URL('../workers/sound-worker.ts', import.meta.url), { type: 'module' })
  const { call, close } = callWorker(SOUND_CALLS, start, () => kept.clear())

  /** Hands a piece to the worker, once; the answer is its peaks. */
  function keep(file: string): Promise<Peaks> {
    const known = kept.get(file)
    if (known) return known
    const asked = readAudio(file).then((samples) => call('keep', { file, samples }, { transfer: [samples.buffer] }))
    kept.set(file, asked)
    asked.catch(() => kept.delete(file))
    return asked
  }

  return { call, keep, close }
}
