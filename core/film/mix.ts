import type { CompiledJourney } from '../trips/compiled'
import type { Audio } from '../journey/schema'
import type { FilmSounds } from './sounds'
import { addSounds, soundsOf } from './sounds'
import { SOUND_RATE } from '../sound/pcm'

/** What is heard with a film: pieces of music or speech, and the film's own sounds. Preview and export hear the same mix. */

/** Gives the samples of a piece from one on: two channels in turn, 16-bit integers, at `SOUND_RATE`; fewer than asked for at its end. */
export type PieceSource = (file: string, first: number, count: number) => Int16Array

export interface Mix {
  pieces: readonly Audio[]
  sounds: FilmSounds
  /** Samples of the whole film. */
  length: number
}

/** What a film sounds like; undefined where it is silent. */
export function mixOf(compiled: CompiledJourney): Mix | undefined {
  const { journey } = compiled
  const sounds = soundsOf(compiled)
  if (journey.audio.length === 0 && sounds.events.length === 0 && sounds.drones.length === 0) return undefined
  return { pieces: journey.audio, sounds, length: Math.round(journey.seconds * SOUND_RATE) }
}

/** Mixes a part of a film: two channels from sample `first` on. */
export function mixPart({ pieces, sounds }: Mix, source: PieceSource, first: number, count: number): [Float32Array, Float32Array] {
  const [left, right] = [new Float32Array(count), new Float32Array(count)]
  addSounds(sounds, left, first)
  right.set(left)
  for (const piece of pieces) addPiece(piece, source, left, right, first)
  return [left, right]
}

function addPiece(piece: Audio, source: PieceSource, left: Float32Array, right: Float32Array, first: number): void {
  const start = Math.round(piece.offset * SOUND_RATE)
  const [from, to] = [Math.round(piece.from * SOUND_RATE), Math.round(piece.to * SOUND_RATE)]
  const begin = Math.max(first, start)
  const end = Math.min(first + left.length, start + to - from)
  if (begin >= end) return
  const samples = source(piece.file, from + begin - start, end - begin)
  const loudness = 10 ** (piece.gain / 20) / 32768
  const [rise, fall] = [piece.fadeIn * SOUND_RATE, piece.fadeOut * SOUND_RATE]
  for (let i = 0; 2 * i + 1 < samples.length; i++) {
    const k = begin - start + i
    // Fades are even in amplitude.
    const fade = Math.min(1, rise > 0 ? k / rise : 1, fall > 0 ? (to - from - k) / fall : 1)
    left[begin - first + i]! += loudness * fade * samples[2 * i]!
    right[begin - first + i]! += loudness * fade * samples[2 * i + 1]!
  }
}
