import { JourneyError } from '../../error'
import type { Audio, Journey } from '../../journey/schema'
import { LIMITS, MOST_IN_BAR } from '../../journey/schema'
import { scheduleOf } from '../../trips/compile-traveller'
import { travellerOf } from '../../journey/lookup'
import { frameTime } from '../../pace/rate'
import { snapTime } from '../../pace/snap'
import { clamp } from '../../geometry/clamp'
import { editAudio, rounded } from './audio'
import { holdArrival } from './pace'

/** Beats of music, set by hand, and what arrives on them: pure functions, journey in, journey out. Bars go by the numbers of beats, and stay where they are. */

/** Two beats are never closer than this, in seconds: what comes sooner is a slip of the hand. */
const CLOSEST_BEATS = 0.1

type Beaten = Pick<Audio, 'beats' | 'bars'>

/** Gives a piece that has beats what a change makes of them. */
function editBeats(journey: Journey, id: string, change: (beats: readonly number[], piece: Audio) => Beaten | undefined): Journey {
  const piece = journey.audio.find((each) => each.id === id)
  const changed = piece && change(piece.beats ?? [], piece)
  return changed ? editAudio(journey, id, changed) : journey
}

/** Bars whose first beat has another number, by how many beats there are before it that were not there. */
const barsLater = (bars: Audio['bars'], by: number): Audio['bars'] =>
  bars && { ...bars, first: (bars.first + by + bars.beats) % bars.beats }

/** Adds a beat that is tapped at a second of the film. */
export const tapBeat = (journey: Journey, id: string, time: number): Journey =>
  editBeats(journey, id, (beats, { from, offset, seconds, bars }) => {
    const at = rounded(from + time - offset)
    if (at < 0 || at > seconds || beats.length >= LIMITS.beats || beats.some((beat) => Math.abs(beat - at) < CLOSEST_BEATS))
      return undefined
    return { beats: [...beats, at].sort((a, b) => a - b), bars: at < (beats[0] ?? 0) ? barsLater(bars, 1) : bars }
  })

/** Moves one beat, by its number, to a second of the piece: never past its neighbours. */
export const moveBeat = (journey: Journey, id: string, beat: number, to: number): Journey =>
  editBeats(journey, id, (beats, { seconds, bars }) => {
    if (beats[beat] === undefined) return undefined
    const least = (beats[beat - 1] ?? -CLOSEST_BEATS) + CLOSEST_BEATS
    const most = (beats[beat + 1] ?? seconds + CLOSEST_BEATS) - CLOSEST_BEATS
    if (least > most) return undefined
    return { beats: beats.with(beat, rounded(clamp(to, least, most))), bars }
  })

export const removeBeat = (journey: Journey, id: string, beat: number): Journey =>
  editBeats(journey, id, (beats, { bars }) => ({ beats: beats.toSpliced(beat, 1), bars: beat === 0 ? barsLater(bars, -1) : bars }))

/** Moves all beats by so many seconds; those that would lie before the piece or after it are left out. */
export const shiftBeats = (journey: Journey, id: string, by: number): Journey =>
  editBeats(journey, id, (beats, { seconds, bars }) => {
    const moved = beats.map((beat) => rounded(beat + by))
    const lost = moved.filter((beat) => beat < 0).length
    return { beats: moved.filter((beat) => beat >= 0 && beat <= seconds), bars: bars && barsLater(bars, -(lost % bars.beats)) }
  })

/** Keeps every second beat of a piece, where the notes between were taken for beats: those that begin bars, if there are bars. */
export const everySecondBeat = (journey: Journey, id: string): Journey =>
  editBeats(journey, id, (beats, { bars }) => {
    const from = (bars?.first ?? 0) % 2
    const halved = bars && bars.beats % 2 === 0 && bars.beats > 2 ? { beats: bars.beats / 2, first: (bars.first - from) / 2 } : null
    return { beats: beats.filter((_, i) => i % 2 === from), bars: halved }
  })

/** Adds a beat half-way between any two, as far as there may be so many and so close. */
export const doubleBeats = (journey: Journey, id: string): Journey =>
  editBeats(journey, id, (beats, { bars }) => {
    if (2 * beats.length > LIMITS.beats || beats.some((beat, i) => i > 0 && (beat - beats[i - 1]!) / 2 < CLOSEST_BEATS)) return undefined
    const doubled = bars && 2 * bars.beats <= MOST_IN_BAR ? { beats: 2 * bars.beats, first: 2 * bars.first } : null
    return { beats: beats.flatMap((beat, i) => (i === 0 ? [beat] : [rounded((beats[i - 1]! + beat) / 2), beat])), bars: doubled }
  })

/** Says how many beats a bar has, and which beat begins one; no bars for null. */
export const setBars = (journey: Journey, id: string, bars: { beats: number; first: number } | null): Journey =>
  editAudio(journey, id, { bars: bars && { beats: bars.beats, first: bars.first % bars.beats } })

/** The beats that are heard with a film, in its seconds, rising. */
export const beatsOf = ({ audio, seconds }: Pick<Journey, 'audio' | 'seconds'>): number[] =>
  heardBeats({ audio, seconds }).map(({ time }) => time)

interface HeardBeat {
  /** The film's second. */
  time: number
  beginsBar: boolean
}

/** The beats that are heard with a film, rising, and which of them begin bars. */
const heardBeats = ({ audio, seconds }: Pick<Journey, 'audio' | 'seconds'>): HeardBeat[] =>
  audio
    .flatMap(({ beats, bars, from, to, offset }) =>
      (beats ?? []).flatMap((beat, i) =>
        beat >= from && beat <= to ? [{ time: offset + beat - from, beginsBar: bars !== null && i % bars.beats === bars.first }] : [],
      ),
    )
    .filter(({ time }) => time <= seconds)
    .sort((a, b) => a.time - b.time)

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
 * Holds all arrivals of a traveller on beats, or on beats that begin bars: each on the one next to it that leaves time for what is set before it and after
 * it. One for which there is none stays as it comes.
 */
export function arriveOnBeats(journey: Journey, who: string, on: 'beats' | 'bars' = 'beats'): Journey {
  const free = travellerOf(journey, who).visits.reduce((j, _, i) => holdArrival(j, i, null, who), journey)
  const beats = heardBeats(free).flatMap(({ time, beginsBar }) => (on === 'beats' || beginsBar ? [time] : []))
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
