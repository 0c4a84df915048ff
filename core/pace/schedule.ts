import { JourneyError } from '../error'
import { usualLayover } from './layovers'
import type { FrameRate } from './rate'
import { frameCount, frameTime, rateLabel } from './rate'

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
  /** One fewer than the stops: length in ground units, and the travel time in seconds, null for automatic. */
  legs: readonly { length: number; travel: number | null }[]
}

/** When a traveller is at a stop, in frames; it travels between one visit's `leave` and the next one's `arrive`. */
export interface Visit {
  arrive: number
  leave: number
}

/**
 * The times of a traveller, exact to the frame. Automatic layovers have the usual length, or share a part of what the set times leave; legs without
 * a set time share the rest in proportion to length^exponent. Durations are rounded by largest remainder, so that they add up to the total. The last
 * arrival is at frame N - 1 or earlier.
 *
 * @param seconds the film's length
 * @param exponent 0 shares the time equally, 1 by distance
 * @throws JourneyError if the times do not fit into the total; it names the shortest total that would do.
 */
export function schedule(itinerary: Itinerary, seconds: number, rate: FrameRate, exponent: number): Visit[] {
  const { layovers, legs, startDelay } = itinerary
  if (layovers.length === 0) return []
  const frame = frameTime(1, rate)
  const shortest = shortestTotal(itinerary, rate)
  if (shortest > seconds + 1e-9) throw new JourneyError(tooShort(itinerary, shortest, seconds, rate))

  const rests = [...layovers]
  const last = rests.length - 1
  // The final picture needs at least one frame, even without a layover.
  if (rests[last] !== null) rests[last] = Math.max(rests[last]!, frame)
  const free = legs.flatMap((leg, i) => (leg.travel === null ? [i] : []))
  const open = rests.flatMap((rest, i) => (rest === null ? [i] : []))
  const room = seconds - setTimes({ ...itinerary, layovers: rests })
  const least = shortestTravel(legs.length, seconds, rate)

  const usual = open.map((i) => Math.max(usualLayover(i, rests.length, seconds), i === last ? frame : 0))
  const wanted = sum(usual)
  const most = free.length > 0 ? Math.min(room * LAYOVERS_PART, room - free.length * least) : room
  const resting = Math.min(wanted, Math.max(most, open.includes(last) ? frame : 0))
  shareOut(resting, usual, SHORTEST_LAYOVER).forEach((share, k) => (rests[open[k]!] = share))

  const travels = legs.map((leg) => leg.travel)
  const left = room - (open.length > 0 ? resting : 0)
  const lengths = free.map((i) => legs[i]!.length ** exponent)
  shareOut(left, lengths, least).forEach((share, k) => (travels[free[k]!] = share))
  // If every leg's time is set, the rest is spent at the end.
  if (free.length === 0) rests[last]! += left

  const durations = [startDelay, ...rests.flatMap((rest, i) => [rest!, ...(i < last ? [travels[i]!] : [])])]
  const isSeen = (k: number) => k === durations.length - 1 || (k > 0 && k % 2 === 0)
  const frames = withAFrameEach(largestRemainder(durations, frameCount(seconds, rate)), isSeen)
  const visits: Visit[] = []
  let at = frames[0]!
  for (let i = 0; i < rests.length; i++) {
    const leave = at + frames[1 + 2 * i]!
    visits.push({ arrive: at, leave })
    at = leave + (frames[2 + 2 * i] ?? 0)
  }
  return visits
}

const sum = (values: readonly number[]): number => values.reduce((a, b) => a + b, 0)

/** Seconds that have been set. */
const setTimes = ({ startDelay, layovers, legs }: Itinerary): number =>
  startDelay + sum(layovers.map((layover) => layover ?? 0)) + sum(legs.map((leg) => leg.travel ?? 0))

/** The shortest automatic travel time in seconds, at least a frame. */
const shortestTravel = (legs: number, seconds: number, rate: FrameRate): number =>
  Math.max(frameTime(1, rate), Math.min(SHORTEST_TRAVEL, seconds / (2 * legs)))

/** The length of the shortest film for a trip, in seconds. */
export function shortestTotal(itinerary: Itinerary, rate: FrameRate): number {
  const { layovers, legs } = itinerary
  const free = legs.filter((leg) => leg.travel === null).length
  const end = Math.max(frameTime(1, rate) - (layovers.at(-1) ?? 0), 0)
  const base = setTimes(itinerary) + end
  // The least time of a leg depends on the length itself; as the sum grows at most half as fast as that, this settles.
  let total = base
  for (let i = 0; i < 40; i++) total = base + free * shortestTravel(legs.length, total, rate)
  return total
}

function tooShort(itinerary: Itinerary, shortest: number, seconds: number, rate: FrameRate): string {
  const [needed, has] = [`${ceilTenth(shortest)} s`, `${Number(seconds.toFixed(2))} s`]
  return setTimes(itinerary) > 0
    ? `The set travel times and layovers need at least ${needed}, but the journey is ${has} long: make it longer, or shorten some of them.`
    : `A trip of ${itinerary.layovers.length} stops needs at least ${needed} at ${rateLabel(rate)} frames a second, but the journey is ${has} long: make it longer.`
}

/** Splits `room` in proportion to the weights, with at least `least` for each if there is enough. */
function shareOut(room: number, weights: readonly number[], least: number): number[] {
  const shares = weights.map(() => 0)
  const floor = Math.min(least, room / weights.length)
  let open = weights.map((_, i) => i)
  let left = room
  for (;;) {
    const total = open.reduce((all, i) => all + weights[i]!, 0)
    open.forEach((i) => (shares[i] = total > 0 ? (left * weights[i]!) / total : left / open.length))
    const squeezed = open.filter((i) => shares[i]! < floor)
    if (squeezed.length === 0) return shares
    squeezed.forEach((i) => (shares[i] = floor))
    if (squeezed.length === open.length) return shares
    left -= squeezed.length * floor
    open = open.filter((i) => !squeezed.includes(i))
  }
}

/** Gives each duration that must be visible at least a frame, taken from the longest. */
function withAFrameEach(frames: number[], isSeen: (k: number) => boolean): number[] {
  frames.forEach((count, k) => {
    if (count > 0 || !isSeen(k)) return
    const longest = frames.indexOf(Math.max(...frames))
    frames[longest]!--
    frames[k]!++
  })
  return frames
}

/** Whole numbers in proportion to the parts that add up to `total`: the largest remainder method. Parts of zero stay zero. */
export function largestRemainder(parts: readonly number[], total: number): number[] {
  const sum = parts.reduce((a, b) => a + b, 0)
  const exact = parts.map((part) => (sum > 0 ? (part * total) / sum : 0))
  // Add a little, so that 2.9999999 is floored to 3.
  const whole = exact.map((value) => Math.floor(value + 1e-9))
  const byRemainder = exact.map((value, i) => i).sort((a, b) => exact[b]! - whole[b]! - (exact[a]! - whole[a]!) || a - b)
  let missing = total - whole.reduce((a, b) => a + b, 0)
  for (const i of byRemainder) {
    if (missing <= 0) break
    if (parts[i]! > 0) {
      whole[i]!++
      missing--
    }
  }
  return whole
}

const ceilTenth = (value: number): string => (Math.ceil(value * 10 - 1e-6) / 10).toFixed(1)
