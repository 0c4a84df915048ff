import { clamp } from '../geometry/clamp'
import { radians, turnBetween } from '../geometry/angle'

/** Nothing turns faster than 15 degrees a frame at 30 frames a second, in radians a second. */
const MOST_TURN = radians(15 * 30)

/** An angle over a stretch of time, in radians, to whatever turn: a pure function of the time in seconds. */
export type Turning = (t: number) => number

/** Angles closer than this count as unchanged, in radians. */
const SAME = 1e-9

/**
 * So many samples are worked out together, when one of them is asked for, with so many more on either side: a turn that is spread over more than those would have
 * to be one of five times round without a rest.
 */
const TOGETHER = 256
const AROUND = 128

/**
 * An angle that turns no faster than MOST_TURN: where the one it is made from does, the turn begins before and ends after it, in equal parts, so that
 * there is no lag. Where that one is slow enough nothing changes.
 *
 * @param raw the angle at a moment, in radians, to whatever turn
 * @param cuts rising moments at which the angle may jump, as where a map is cut
 * @param rate samples a second, such as the film's frames: at these the limit holds exactly
 * @returns the angle, to whatever turn
 */
export function turning(raw: Turning, from: number, to: number, rate: number, cuts: readonly number[] = []): Turning {
  const first = Math.ceil(from * rate - 1e-6)
  const count = Math.max(1, Math.floor(to * rate + 1e-6) - first + 1)
  const cutAt = cuts.map((time) => Math.ceil(time * rate - 1e-6) - first)
  const known = new Map<number, Samples>()
  const samplesAbout = (k: number): Samples => {
    const part = Math.floor(k / TOGETHER)
    const made = known.get(part) ?? samplesOf(raw, { first, rate, cutAt }, Math.max(0, part * TOGETHER - AROUND), Math.min(count, (part + 1) * TOGETHER + 1 + AROUND)) // prettier-ignore
    known.set(part, made)
    return made
  }
  return (t) => {
    const place = clamp(t * rate - first, 0, count - 1)
    const k = Math.min(Math.floor(place + 1e-6), count - 1)
    const u = Math.max(0, place - k)
    const next = Math.min(k + 1, count - 1)
    const { start, given, limited } = samplesAbout(k)
    const isAsGiven = (i: number) => Math.abs(limited[i - start]! - given[i - start]!) < SAME
    if (isAsGiven(k) && isAsGiven(next)) return raw(t)
    const isCut = cuts.some((cut) => cut > (first + k) / rate + 1e-9 && cut <= (first + next) / rate + 1e-9)
    const [a, b] = [limited[k - start]!, limited[next - start]!]
    return isCut || u < 1e-6 ? a : a + (b - a) * u
  }
}

/** Some samples of an angle, from number `start` on, unwrapped: as they are given, and within the limit. */
interface Samples {
  start: number
  given: Float64Array
  limited: Float64Array
}

/** @param cutAt the numbers of samples before which the angle may jump, rising */
function samplesOf(
  raw: Turning,
  { first, rate, cutAt }: { first: number; rate: number; cutAt: readonly number[] },
  start: number,
  end: number,
): Samples {
  const given = new Float64Array(end - start)
  for (let i = 0; i < given.length; i++) {
    const angle = raw((first + start + i) / rate)
    given[i] = i === 0 ? angle : given[i - 1]! + turnBetween(given[i - 1]!, angle)
  }
  const limited = new Float64Array(given.length)
  let begin = 0
  for (const cut of [...cutAt.map((at) => at - start), given.length]) {
    if (cut <= begin) continue
    limited.set(withinRate(given.subarray(begin, Math.min(cut, given.length)), MOST_TURN / rate), begin)
    begin = cut
  }
  return { start, given, limited }
}

/**
 * The middle between the greatest function below and the least function above the samples that change by no more than `most` from one to the next;
 * it does not either, being their mean. A function that never did is both, and so stays what it is.
 */
function withinRate(samples: Float64Array, most: number): Float64Array {
  const above = Float64Array.from(samples)
  const below = Float64Array.from(samples)
  for (let k = 1; k < samples.length; k++) {
    above[k] = Math.max(above[k]!, above[k - 1]! - most)
    below[k] = Math.min(below[k]!, below[k - 1]! + most)
  }
  for (let k = samples.length - 2; k >= 0; k--) {
    above[k] = Math.max(above[k]!, above[k + 1]! - most)
    below[k] = Math.min(below[k]!, below[k + 1]! + most)
  }
  return above.map((value, k) => (value + below[k]!) / 2)
}
