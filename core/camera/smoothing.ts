/** Filters without lag: the whole way of the camera is known, so each value is the mean of those before and after it. */

/**
 * A smoothing close to a Gaussian: three running means of one odd width, the variance of each being (width^2 - 1) / 12.
 * @param sigma standard deviation in samples; below half a sample nothing changes
 * @param ends 'on' goes on beyond the ends as it came, so that an even movement stays one; 'still' stays at the end's value, so that nothing exceeds the values given;
 *   'nearer' takes in as many on both sides as there are on each, so that both are true, and what is close to the ends is smoothed the less
 */
export function smoothed(values: Float64Array, sigma: number, ends: 'on' | 'still' | 'nearer'): Float64Array {
  const half = halfWidth(sigma)
  if (half === 0 || values.length < 2) return values
  if (ends === 'nearer') return nearerMean(nearerMean(nearerMean(values, half), half), half)
  const reach = 3 * half
  const n = values.length
  let padded = new Float64Array(n + 2 * reach)
  for (let i = -reach; i < 0; i++) padded[reach + i] = ends === 'on' ? goneOn(values, i) : values[0]!
  for (let i = n; i < n + reach; i++) padded[reach + i] = ends === 'on' ? goneOn(values, i) : values[n - 1]!
  padded.set(values, reach)
  for (let pass = 0; pass < 3; pass++) padded = runningMean(padded, half)
  return padded
}

/** A value beyond the ends of some, which are mirrored there in both directions, again and again. */
function goneOn(values: Float64Array, i: number): number {
  const last = values.length - 1
  const [from, to] = [values[0]!, values[last]!]
  const turns = Math.floor(i / (2 * last))
  const within = i - 2 * last * turns
  return (within <= last ? values[within]! : 2 * to - values[2 * last - within]!) + 2 * turns * (to - from)
}

/** How many samples to each side one of the three means takes in. */
const halfWidth = (sigma: number): number => Math.round((Math.sqrt(4 * sigma * sigma + 1) - 1) / 2)

/** How many samples to each side the smoothing takes in. */
export const smoothingReach = (sigma: number): number => 3 * halfWidth(sigma)

/** Means of 2 half + 1 values; there are so many fewer of them. Summed anew now and then, so that rounding does not add up. */
function runningMean(values: Float64Array, half: number): Float64Array<ArrayBuffer> {
  const width = 2 * half + 1
  const means = new Float64Array(values.length - 2 * half)
  let sum = 0
  for (let i = 0; i < means.length; i++) {
    if (i % 256 === 0) {
      sum = 0
      for (let k = 0; k < width; k++) sum += values[i + k]!
    } else sum += values[i + width - 1]! - values[i - 1]!
    means[i] = sum / width
  }
  return means
}

/** Means of 2 half + 1 values, or of as many about each as there are. */
function nearerMean(values: Float64Array, half: number): Float64Array {
  const n = values.length
  const sums = new Float64Array(n + 1)
  for (let i = 0; i < n; i++) sums[i + 1] = sums[i]! + values[i]!
  return values.map((_, i) => {
    const k = Math.min(half, i, n - 1 - i)
    return (sums[i + k + 1]! - sums[i - k]!) / (2 * k + 1)
  })
}

/** The least of the values within so many samples of each. */
export function leastWithin(values: Float64Array, reach: number): Float64Array {
  const least = new Float64Array(values.length)
  // The samples that may still be the least, by rising value: each is entered and left once.
  const queue: number[] = []
  let head = 0
  for (let next = 0, i = 0; i < values.length; i++) {
    for (; next < values.length && next <= i + reach; next++) {
      while (queue.length > head && values[queue.at(-1)!]! >= values[next]!) queue.pop()
      queue.push(next)
    }
    while (queue[head]! < i - reach) head++
    least[i] = values[queue[head]!]!
  }
  return least
}
