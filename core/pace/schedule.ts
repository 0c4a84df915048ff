import { JourneyError } from '../journey/error'
import type { FrameRate } from './rate'
import { frameCount, frameTime } from './rate'

/** No leg without a set time is squeezed below this many seconds. */
export const SHORTEST_TRAVEL = 0.25

export interface Itinerary {
  /** Seconds before the traveller appears at the first stop. */
  startDelay: number
  /** Seconds spent at each stop, in order. */
  layovers: readonly number[]
  /** One fewer than the stops: length in ground units, and the travel time in seconds where it is set. */
  legs: readonly { length: number; travel: number | null }[]
}

/** When a traveller is at a stop, in frames; it travels between one visit's `leave` and the next one's `arrive`. */
export interface Visit {
  arrive: number
  leave: number
}

/**
 * Times of a traveller, exact to the frame. Legs without a set time share what is left of the total in proportion to length^exponent;
 * durations are rounded by largest remainder, so that they add up to the total. The last arrival is at frame N - 1 or earlier.
 *
 * @param seconds the film's length
 * @param exponent 0 shares the time equally, 1 by distance
 * @throws JourneyError if the set times do not fit into the total; it names the shortest total that would do.
 */
export function schedule(itinerary: Itinerary, seconds: number, rate: FrameRate, exponent: number): Visit[] {
  const { layovers, legs, startDelay } = itinerary
  if (layovers.length === 0) return []
  const durations = [startDelay]
  layovers.forEach((layover, i) => {
    durations.push(layover)
    const leg = legs[i]
    if (leg) durations.push(leg.travel ?? 0)
  })
  const last = durations.length - 1
  // The final picture needs a frame to be seen in, even where no layover was asked for.
  durations[last] = Math.max(durations[last]!, frameTime(1, rate))

  const free = legs.flatMap((leg, i) => (leg.travel === null ? [i] : []))
  const room = seconds - durations.reduce((a, b) => a + b, 0)
  const shortest = seconds - room + free.length * SHORTEST_TRAVEL
  if (shortest > seconds + 1e-9) {
    throw new JourneyError(
      `The set travel times and layovers need at least ${ceilTenth(shortest)} s, but the journey is ${Number(seconds.toFixed(2))} s long: make it longer, or shorten some of them.`,
    )
  }
  if (free.length === 0) durations[last]! += room
  else
    shareOut(
      room,
      free.map((i) => legs[i]!.length ** exponent),
    ).forEach((share, k) => (durations[2 + 2 * free[k]!] = share))

  const frames = largestRemainder(durations, frameCount(seconds, rate))
  const visits: Visit[] = []
  let at = frames[0]!
  for (let i = 0; i < layovers.length; i++) {
    const leave = at + frames[1 + 2 * i]!
    visits.push({ arrive: at, leave })
    at = leave + (frames[2 + 2 * i] ?? 0)
  }
  return visits
}

/** Splits `room` in proportion to the weights, but gives nobody less than SHORTEST_TRAVEL. */
function shareOut(room: number, weights: readonly number[]): number[] {
  const shares = weights.map(() => 0)
  let open = weights.map((_, i) => i)
  let left = room
  for (;;) {
    const total = open.reduce((sum, i) => sum + weights[i]!, 0)
    open.forEach((i) => (shares[i] = total > 0 ? (left * weights[i]!) / total : left / open.length))
    const squeezed = open.filter((i) => shares[i]! < SHORTEST_TRAVEL)
    if (squeezed.length === 0 || squeezed.length === open.length) return shares
    squeezed.forEach((i) => (shares[i] = SHORTEST_TRAVEL))
    left -= squeezed.length * SHORTEST_TRAVEL
    open = open.filter((i) => !squeezed.includes(i))
  }
}

/** Whole numbers in proportion to the parts that add up to `total`: the largest remainder method. Parts of zero stay zero. */
export function largestRemainder(parts: readonly number[], total: number): number[] {
  const sum = parts.reduce((a, b) => a + b, 0)
  const exact = parts.map((part) => (sum > 0 ? (part * total) / sum : 0))
  // A hair is added so that 2.9999999 counts as 3 before it is floored.
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
