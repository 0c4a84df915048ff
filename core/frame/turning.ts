import { clamp } from '../geometry/clamp'
import { radians, turnBetween } from '../geometry/angle'

/** Nothing turns faster than 15 degrees a frame at 30 frames a second, in radians a second. */
export const MOST_TURN = radians(15 * 30)

/** An angle over a stretch of time, in radians, unwrapped: a pure function of the time in seconds. */
export type Turning = (t: number) => number

/** Angles closer than this count as unchanged, in radians. */
const SAME = 1e-9

/**
 * An angle that turns no faster than MOST_TURN: where the one it is made from does, the turn begins before and ends after it, in equal parts, so that
 * there is no lag. Where that one is slow enough nothing changes.
 *
 * @param raw the angle at a moment, in radians, to whatever turn
 * @param cuts rising moments at which the angle may jump, as where a map is cut
 * @param rate samples a second, such as the film's frames: at these the limit holds exactly
 */
export function turning(raw: Turning, from: number, to: number, rate: number, cuts: readonly number[] = []): Turning {
  const first = Math.ceil(from * rate - 1e-6)
  const count = Math.max(1, Math.floor(to * rate + 1e-6) - first + 1)
  let limited: Float64Array | undefined
  let given: Float64Array | undefined
  const prepare = () => {
    given = new Float64Array(count)
    for (let k = 0; k < count; k++) {
      const angle = raw((first + k) / rate)
      given[k] = k === 0 ? angle : given[k - 1]! + turnBetween(given[k - 1]!, angle)
    }
    limited = new Float64Array(count)
    let start = 0
    for (const cut of [...cuts.map((time) => Math.ceil(time * rate - 1e-6) - first), count]) {
      if (cut <= start) continue
      limited.set(withinRate(given.subarray(start, Math.min(cut, count)), MOST_TURN / rate), start)
      start = cut
    }
    return limited
  }
  return (t) => {
    const table = limited ?? prepare()
    const place = clamp(t * rate - first, 0, count - 1)
    const k = Math.min(Math.floor(place + 1e-6), count - 1)
    const u = Math.max(0, place - k)
    const next = Math.min(k + 1, count - 1)
    const isAsGiven = (i: number) => Math.abs(table[i]! - given![i]!) < SAME
    if (isAsGiven(k) && isAsGiven(next)) return raw(t)
    const isCut = cuts.some((cut) => cut > (first + k) / rate + 1e-9 && cut <= (first + next) / rate + 1e-9)
    return isCut || u < 1e-6 ? table[k]! : table[k]! + (table[next]! - table[k]!) * u
  }
}

/**
 * The middle between the greatest function below and the least function above the samples that change by no more than `most` from one to the next;
 * it does not either, being their mean. A function that never did is both, and so stays what it is.
 */
export function withinRate(samples: Float64Array, most: number): Float64Array {
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
