import { closeSync, openSync, readSync } from 'node:fs'
import { open, rm } from 'node:fs/promises'
import { setImmediate } from 'node:timers/promises'
import { JourneyError } from '#core/error'
import type { Mix, PieceSource } from '#core/film/mix'
import { mixPart } from '#core/film/mix'
import { SOUND_RATE, toIntegers, wavHeader } from '#core/sound/pcm'
import { audioPath, hasAudio } from '../storage/audio-files'

/** Writes the sound of a part of a film as a WAV file, a second at a time, so that others get their turn. @param span in seconds of the film @returns the file's path */
export async function writeSound(
  folder: string,
  mix: Mix,
  span: { from: number; to: number },
  path: string,
  signal?: AbortSignal,
  onProgress?: (share: number) => void,
): Promise<string> {
  const [first, end] = [Math.round(span.from * SOUND_RATE), Math.round(span.to * SOUND_RATE)]
  const { source, close } = pieceFiles(folder)
  const file = await open(path, 'w')
  try {
    await file.write(wavHeader(end - first, 2, SOUND_RATE))
    for (let at = first; at < end; at += SOUND_RATE) {
      const samples = toIntegers(mixPart(mix, source, at, Math.min(SOUND_RATE, end - at)))
      await file.write(new Uint8Array(samples.buffer))
      onProgress?.((at - first) / (end - first))
      await setImmediate()
      signal?.throwIfAborted()
    }
  } catch (error) {
    await rm(path, { force: true })
    throw error
  } finally {
    await file.close()
    close()
  }
  return path
}

/** The pieces of sound of a data folder. */
function pieceFiles(folder: string): { source: PieceSource; close: () => void } {
  const files = new Map<string, number>()
  const source: PieceSource = (hash, first, count) => {
    if (!hasAudio(folder, hash)) throw new JourneyError(`A piece of sound is missing in ${folder}: add its file again.`)
    const file = files.get(hash) ?? openSync(audioPath(folder, hash), 'r')
    files.set(hash, file)
    const samples = new Int16Array(2 * count)
    const bytes = readSync(file, samples, 0, 4 * count, 4 * first)
    return samples.subarray(0, 2 * Math.floor(bytes / 4))
  }
  return { source, close: () => files.forEach((file) => closeSync(file)) }
}
