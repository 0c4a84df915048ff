import { append, greatest } from '../geometry/extremes'
import { JourneyError } from '../error'
import { usualLayover } from './layovers'
import type { FrameRate } from './rate'
import { frameCount, frameTime, rateLabel } from './rate'
import { largestRemainder, shareOut, sum } from './share-out'

/** No leg without a set time is squeezed below this many seconds, unless the film is too short for all its legs to have twice as much. */
const SHORTEST_TRAVEL = 0.25

/** Automatic layovers together get at most this share of the remaining time, and each at least this many seconds if that allows it. */
const LAYOVERS_PART = 1 / 3
const SHORTEST_LAYOVER = 0.2

export interface Itinerary {
  /** Seconds before the traveller appears at the first stop. */
  startDelay: number
  /** Seconds spent at each stop, in order; null for automatic. */
  layovers: readonly (number | null)[]
  /** Seconds of the film at which each stop is reached and left, where they are held; null elsewhere. */
  held: readonly Held[]
  /**
   * One fewer than the stops: the travel time in seconds, null for automatic; of that the seconds rested on the way, which an automatic time has on top of
   * its share; and how much of what there is to share out a leg gets.
   */
  legs: readonly { weight: number; travel: number | null; rests: number }[]
}

interface Held {
  arrive: number | null
  leave: number | null
}

/** When a traveller is at a stop, in frames; it travels between one visit's `leave` and the next one's `arrive`. */
export interface Visit {
  arrive: number
  leave: number
}

/** The times that were set do not fit; the message says which, and what would do. */
export class TimesError extends JourneyError {
  override name = 'TimesError'
}

/** Durations of a trip in turn: the delay at the start, then a layover and a travel time alternately, up to the last layover. */
const LAYOVER = 'layover'
const TRAVEL = 'travel'
interface Duration {
  kind: typeof LAYOVER | typeof TRAVEL | 'delay'
  /** Of the stop, or of the leg. */
  index: number
  /** In seconds; null for automatic. */
  set: number | null
}

/** What lies between two moments that are held: durations that add up to so many seconds. */
interface Stretch {
  durations: Duration[]
  from: number
  to: number
  /** What is held at its end, for messages; undefined at the film's end. */
  end: string | undefined
}

/**
 * The times of a traveller, exact to the frame. What is set is kept; held arrivals and departures cut the film into stretches, whose automatic times share what
 * the set ones leave: layovers have the usual length, or share a part of it, and legs share the rest by their weights. Durations are rounded by largest
 * remainder, so that they add up to their stretch. The last arrival is at frame N - 1 or earlier.
 *
 * @param seconds the film's length
 * @throws TimesError if the times do not fit; it names the shortest film that would do.
 */
export function schedule(itinerary: Itinerary, seconds: number, rate: FrameRate): Visit[] {
  const { layovers } = itinerary
  if (layovers.length === 0) return []
  const shortest = shortestTotal(itinerary, rate)
  if (shortest > seconds + 1e-9) throw new TimesError(tooShort(itinerary, shortest, seconds, rate))
  const frames: number[] = []
  for (const stretch of stretchesOf(itinerary, seconds, rate)) {
    const total = frameCount(stretch.to, rate) - frameCount(stretch.from, rate)
    const parts = timesOf(stretch, itinerary, seconds, rate)
    const isSeen = (k: number) => {
      const { kind, index } = stretch.durations[k]!
      return kind === TRAVEL || (kind === LAYOVER && index === layovers.length - 1)
    }
    append(frames, withAFrameEach(largestRemainder(parts, total), isSeen))
  }
  const visits: Visit[] = []
  let at = frames[0]!
  for (let i = 0; i < layovers.length; i++) {
    const leave = at + frames[1 + 2 * i]!
    visits.push({ arrive: at, leave })
    at = leave + (frames[2 + 2 * i] ?? 0)
  }
  return visits
}

/** The stretches of a trip, in order. @throws TimesError where one moment is held before another that it follows */
function stretchesOf({ startDelay, layovers, held, legs }: Itinerary, seconds: number, rate: FrameRate): Stretch[] {
  const stretches: Stretch[] = []
  const last = layovers.length - 1
  let open: Stretch = { durations: [{ kind: 'delay', index: 0, set: startDelay }], from: 0, to: 0, end: undefined }
  const cut = (at: number | null, end: string) => {
    if (at === null) return
    if (at < open.from)
      throw new TimesError(`${capital(end)} at ${told(at)}, before ${told(open.from)}, up to which the times before it are held.`)
    stretches.push({ ...open, to: at, end })
    open = { durations: [], from: at, to: 0, end: undefined }
  }
  layovers.forEach((layover, i) => {
    if (i > 0) cut(held[i]!.arrive, `stop ${i + 1} is to be reached`)
    // The final picture needs at least one frame, even without a layover.
    const set = i === last && layover !== null ? Math.max(layover, frameTime(1, rate)) : layover
    open.durations.push({ kind: LAYOVER, index: i, set })
    if (i === last) return
    cut(held[i]!.leave, `stop ${i + 1} is to be left`)
    open.durations.push({ kind: TRAVEL, index: i, set: legs[i]!.travel })
  })
  return [...stretches, { ...open, to: seconds }]
}

/** The durations of a stretch in seconds, which add up to it. */
function timesOf({ durations, from, to, end }: Stretch, { layovers, legs }: Itinerary, seconds: number, rate: FrameRate): number[] {
  const frame = frameTime(1, rate)
  const last = layovers.length - 1
  const times = durations.map(({ set }) => set)
  const pick = (kind: Duration['kind']) => durations.flatMap((part, k) => (part.kind === kind && part.set === null ? [k] : []))
  const [free, open] = [pick(TRAVEL), pick(LAYOVER)]
  const resting = sum(free.map((k) => legs[durations[k]!.index]!.rests))
  const room = to - from - setTimes(durations) - resting
  if (end !== undefined) checkHeld(room - free.length * frame, free.length + open.length, end, from, to)
  const least = Math.min(shortestTravel(legs.length, seconds, rate), free.length > 0 ? Math.max(frame, room / (2 * free.length)) : Infinity)

  const isFinal = (k: number) => durations[k]!.kind === LAYOVER && durations[k]!.index === last
  const usual = open.map((k) => Math.max(usualLayover(durations[k]!.index, layovers.length, seconds), isFinal(k) ? frame : 0))
  const most = free.length > 0 ? Math.min(room * LAYOVERS_PART, room - free.length * least) : room
  // Where there is nothing else to take up the time, layovers are longer than usual.
  const wanted = free.length === 0 && end !== undefined ? room : sum(usual)
  const rests = Math.min(wanted, Math.max(most, open.some(isFinal) ? frame : 0))
  shareOut(rests, usual, SHORTEST_LAYOVER).forEach((share, n) => (times[open[n]!] = share))

  const left = room - (open.length > 0 ? rests : 0)
  const weights = free.map((k) => legs[durations[k]!.index]!.weight)
  shareOut(left, weights, least).forEach((share, n) => (times[free[n]!] = share + legs[durations[free[n]!]!.index]!.rests))
  // If every leg's time is set, the rest is spent at the end.
  if (free.length === 0 && end === undefined) times[times.length - 1]! += left
  return times.map((time) => time!)
}

/** @param room what the automatic times of a stretch have, of which there are `count` @throws TimesError if the set ones do not come out */
function checkHeld(room: number, count: number, end: string, from: number, to: number): void {
  if (room < -1e-9)
    throw new TimesError(
      `${capital(end)} at ${told(to)}, but the times set before it end at ${told(to - room)} at the soonest: hold it later, or shorten some of them.`,
    )
  if (count === 0 && room > 1e-3)
    throw new TimesError(
      `${capital(end)} at ${told(to)}, but the times set since ${told(from)} take only ${told(to - from - room)}: make one of them automatic.`,
    )
}

/** Seconds that have been set. */
const setTimes = (durations: readonly Duration[]): number => sum(durations.map(({ set }) => set ?? 0))

/** The shortest automatic travel time in seconds, at least a frame. */
const shortestTravel = (legs: number, seconds: number, rate: FrameRate): number =>
  Math.max(frameTime(1, rate), Math.min(SHORTEST_TRAVEL, seconds / (2 * legs)))

/** The last stretch of a trip, which lasts to the film's end; its length does not matter here. */
const lastStretch = (itinerary: Itinerary, rate: FrameRate): Stretch => stretchesOf(itinerary, 0, rate).at(-1)!

/** The length of the shortest film for a trip, in seconds. @throws TimesError as `schedule` does, if no film would do */
export function shortestTotal(itinerary: Itinerary, rate: FrameRate): number {
  const { layovers, legs } = itinerary
  if (layovers.length === 0) return 0
  const { durations, from } = lastStretch(itinerary, rate)
  const free = durations.filter(({ kind, set }) => kind === TRAVEL && set === null)
  const end = layovers.at(-1) === null ? frameTime(1, rate) : 0
  const base = from + setTimes(durations) + sum(free.map(({ index }) => legs[index]!.rests)) + end
  // The least time of a leg depends on the length itself; as the sum grows at most half as fast as that, this settles.
  let total = base
  for (let i = 0; i < 40; i++) total = base + free.length * shortestTravel(legs.length, total, rate)
  return total
}

/**
 * The length of a film in which automatic layovers have their usual length and automatic legs take `legSeconds` on average, in seconds.
 * @throws TimesError where moments are held against their order
 */
export function naturalTotal(itinerary: Itinerary, legSeconds: number, rate: FrameRate): number {
  const { layovers, legs } = itinerary
  if (layovers.length === 0) return 0
  const { durations, from } = lastStretch(itinerary, rate)
  const mean = sum(legs.map(({ weight }) => weight)) / legs.length
  const lengthIn = (seconds: number): number =>
    from +
    sum(
      durations.map(({ kind, index, set }) => {
        if (set !== null) return set
        // By its share of all legs, so that it stays as it is whichever of the others are set.
        return kind === TRAVEL
          ? (mean > 0 ? (legSeconds * legs[index]!.weight) / mean : legSeconds) + legs[index]!.rests
          : usualLayover(index, layovers.length, seconds)
      }),
    )
  // Layovers are shorter in a short film; from above this comes down to the longest film that agrees with itself.
  let total = lengthIn(Infinity)
  for (let i = 0; i < 60; i++) total = lengthIn(total)
  return Math.max(total, shortestTotal(itinerary, rate))
}

function tooShort(itinerary: Itinerary, shortest: number, seconds: number, rate: FrameRate): string {
  const [needed, has] = [`${ceilTenth(shortest)} s`, `${Number(seconds.toFixed(2))} s`]
  const { durations, from } = lastStretch(itinerary, rate)
  const hold = from > 0 ? ', or hold arrivals earlier' : ''
  return setTimes(durations) > 0 || from > 0
    ? `The set travel times and layovers need at least ${needed}, but the journey is ${has} long: make it longer, or shorten some of them${hold}.`
    : `A trip of ${itinerary.layovers.length} stops needs at least ${needed} at ${rateLabel(rate)} frames a second, but the journey is ${has} long: make it longer.`
}

/** Gives each duration that must be visible at least a frame, taken from the longest. */
function withAFrameEach(frames: number[], isSeen: (k: number) => boolean): number[] {
  frames.forEach((count, k) => {
    if (count > 0 || !isSeen(k)) return
    const longest = frames.indexOf(greatest(frames))
    if (frames[longest]! < 2)
      throw new TimesError('There is not a frame for each leg between the moments that are held: hold them further apart.')
    frames[longest]!--
    frames[k]!++
  })
  return frames
}

const capital = (text: string): string => text.slice(0, 1).toUpperCase() + text.slice(1)
const told = (seconds: number): string => `${Number(seconds.toFixed(2))} s`
const ceilTenth = (value: number): string => (Math.ceil(value * 10 - 1e-6) / 10).toFixed(1)
