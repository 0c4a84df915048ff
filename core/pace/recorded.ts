import { clamp } from '../geometry/clamp'
import type { Course } from '../geometry/course'
import type { EasingFunction } from './easing'

/**
 * Progress at the pace of a recorded track: real speed, compressed.
 * @param times seconds at which each point of the course was reached, rising
 */
export function recorded({ lengths, length }: Course, times: Float64Array): EasingFunction {
  const [first, last] = [times[0]!, times.at(-1)!]
  if (!(last > first) || length === 0) return (u) => u
  return (u) => {
    const t = first + clamp(u, 0, 1) * (last - first)
    let [low, high] = [0, times.length - 1]
    while (high - low > 1) {
      const middle = (low + high) >> 1
      if (times[middle]! <= t) low = middle
      else high = middle
    }
    const span = times[high]! - times[low]!
    const share = span > 0 ? (t - times[low]!) / span : 1
    return (lengths[low]! + Math.min(1, share) * (lengths[high]! - lengths[low]!)) / length
  }
}
