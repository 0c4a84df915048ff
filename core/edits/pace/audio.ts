import { JourneyError } from '../../error'
import type { Audio, Journey, SoundKind } from '../../journey/schema'
import { audioSchema, LIMITS } from '../../journey/schema'
import { scheduleOf } from '../../trips/compile-traveller'
import { travellerOf } from '../../journey/lookup'
import { frameTime } from '../../pace/rate'
import { snapTime } from '../../pace/snap'
import { holdArrival } from './pace'

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

const rounded = (seconds: number): number => Math.round(seconds * 1000) / 1000

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

/** Two beats are never closer than this, in seconds: what comes sooner is a slip of the hand. */
const CLOSEST_BEATS = 0.1

/** Adds a beat that is tapped at a second of the film. */
export function tapBeat(journey: Journey, id: string, time: number): Journey {
  const piece = journey.audio.find((each) => each.id === id)
  if (!piece) return journey
  const at = rounded(piece.from + time - piece.offset)
  const beats = piece.beats ?? []
  if (at < 0 || at > piece.seconds || beats.length >= LIMITS.beats || beats.some((beat) => Math.abs(beat - at) < CLOSEST_BEATS))
    return journey
  return editAudio(journey, id, { beats: [...beats, at].sort((a, b) => a - b) })
}

/** Keeps every second beat of a piece, where the notes between were taken for beats. */
export function everySecondBeat(journey: Journey, id: string): Journey {
  const beats = journey.audio.find((each) => each.id === id)?.beats
  return beats ? editAudio(journey, id, { beats: beats.filter((_, i) => i % 2 === 0) }) : journey
}

/** The beats that are heard with a film, in its seconds, rising. */
export const beatsOf = ({ audio, seconds }: Pick<Journey, 'audio' | 'seconds'>): number[] =>
  audio
    .flatMap(({ beats, from, to, offset }) => (beats ?? []).flatMap((beat) => (beat >= from && beat <= to ? [offset + beat - from] : [])))
    .filter((time) => time <= seconds)
    .sort((a, b) => a - b)

/** Holds an arrival on the beat next to it. @throws JourneyError where there is none */
export function arriveOnBeat(journey: Journey, visit: number, who: string): Journey {
  const arrive = arrivalsOf(journey, who)[visit]
  const beats = beatsOf(journey)
  if (arrive === undefined || beats.length === 0)
    throw new JourneyError('There are no beats to arrive on: find those of a piece of music first.')
  return holdArrival(journey, visit, rounded(snapTime(arrive, beats, Infinity)), who)
}

const arrivalsOf = (journey: Journey, who: string): number[] =>
  scheduleOf(journey, travellerOf(journey, who)).visits.map(({ arrive }) => arrive * frameTime(1, journey.frame.rate))

/**
 * Holds all arrivals of a traveller on beats: each on the one next to it that leaves time for what is set before it and after it. One for which there is none
 * stays as it comes.
 */
export function arriveOnBeats(journey: Journey, who: string): Journey {
  const free = travellerOf(journey, who).visits.reduce((j, _, i) => holdArrival(j, i, null, who), journey)
  const beats = beatsOf(free)
  if (beats.length === 0) throw new JourneyError('There are no beats to arrive on: find those of a piece of music first.')
  return travellerOf(free, who)
    .visits.slice(1)
    .reduce((held, _, k) => {
      const visit = k + 1
      const arrive = arrivalsOf(held, who)[visit]!
      const nearest = [...beats].sort((a, b) => Math.abs(a - arrive) - Math.abs(b - arrive)).slice(0, 6)
      for (const beat of nearest) {
        const tried = holdArrival(held, visit, rounded(beat), who)
        if (fits(tried, who)) return tried
      }
      return held
    }, free)
}

function fits(journey: Journey, who: string): boolean {
  try {
    scheduleOf(journey, travellerOf(journey, who))
    return true
  } catch (error) {
    if (error instanceof JourneyError) return false
    throw error
  }
}
