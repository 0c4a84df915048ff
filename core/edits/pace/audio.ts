import { JourneyError } from '../../error'
import type { Audio, Journey, SoundKind } from '../../journey/schema'
import { audioSchema, LIMITS } from '../../journey/schema'

/** Changes to what is heard with a film: pure functions, journey in, journey out, as in journey.ts. */

/** Adds a piece of music or speech, from the film's start on. @throws JourneyError if there are as many as there can be */
export function addAudio(journey: Journey, id: string, piece: Pick<Audio, 'file' | 'name' | 'seconds'>): Journey {
  if (journey.audio.length >= LIMITS.audio)
    throw new JourneyError(`A journey has at most ${LIMITS.audio} pieces of sound: delete one first.`)
  return { ...journey, audio: [...journey.audio, audioSchema.parse({ id, ...piece, to: piece.seconds })] }
}

export type AudioPatch = Partial<Omit<Audio, 'id' | 'file' | 'seconds'>>

export const editAudio = (journey: Journey, id: string, patch: AudioPatch): Journey => ({
  ...journey,
  audio: journey.audio.map((piece) => (piece.id === id ? { ...piece, ...patch } : piece)),
})

export const removeAudio = (journey: Journey, id: string): Journey => ({
  ...journey,
  audio: journey.audio.filter((piece) => piece.id !== id),
})

export const setSound = (journey: Journey, kind: SoundKind, level: number): Journey => ({
  ...journey,
  sounds: { ...journey.sounds, [kind]: level },
})

/** The shortest piece that is heard, in seconds. */
const SHORTEST = 0.1

/** Seconds of a sound as they are kept, to a thousandth. */
export const rounded = (seconds: number): number => Math.round(seconds * 1000) / 1000

/** Cuts the beginning or the end of a piece at a second of the film; the rest is heard when it was. */
export function trimAudio(journey: Journey, id: string, end: 'from' | 'to', time: number): Journey {
  const piece = journey.audio.find((each) => each.id === id)
  if (!piece) return journey
  const at = piece.from + time - piece.offset
  if (end === 'to') return editAudio(journey, id, { to: rounded(Math.min(piece.seconds, Math.max(piece.from + SHORTEST, at))) })
  // It cannot begin before its own beginning, nor before the film's.
  const from = rounded(Math.min(piece.to - SHORTEST, Math.max(0, piece.from - piece.offset, at)))
  return editAudio(journey, id, { from, offset: rounded(Math.max(0, piece.offset + from - piece.from)) })
}
