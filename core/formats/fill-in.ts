/** Values along a line of which some are not known, as NaN. */

/** The share of values that must be known for the rest to be interpolated. */
const KNOWN = 0.5

/** The values, those that are missing in even steps between their neighbours; null where too few are known. */
export function filledIn(values: readonly number[]): Float64Array | null {
  const known = values.reduce((count, value) => count + (Number.isFinite(value) ? 1 : 0), 0)
  if (known < 2 || known < KNOWN * values.length) return null
  const filled = Float64Array.from(values)
  if (known === values.length) return filled
  let last = -1
  for (let i = 0; i <= filled.length; i++) {
    if (i < filled.length && !Number.isFinite(filled[i]!)) continue
    const [from, to] = [filled[last], filled[i]]
    for (let k = last + 1; k < i; k++) {
      // Before the first and after the last there is only one neighbour.
      filled[k] = from === undefined ? to! : to === undefined ? from : from + ((to - from) * (k - last)) / (i - last)
    }
    last = i
  }
  return filled
}

/**
 * The times, with NaN for those that do not belong among the others: as few as can be are left out for the rest never to fall. Source: C. Schensted,
 * Longest increasing and decreasing subsequences (1961), by patience sorting.
 */
export function risingOnes(times: readonly number[]): readonly number[] {
  if (times.every((time, i) => Number.isFinite(time) && (i === 0 || time >= times[i - 1]!))) return times
  /** For each length the number of the least time at which a rising row of that length ends; and before each time the one before it in its row. */
  const ends: number[] = []
  const before = new Int32Array(times.length).fill(-1)
  times.forEach((time, i) => {
    if (!Number.isFinite(time)) return
    let [low, high] = [0, ends.length]
    while (low < high) {
      const middle = (low + high) >> 1
      if (times[ends[middle]!]! <= time) low = middle + 1
      else high = middle
    }
    before[i] = low > 0 ? ends[low - 1]! : -1
    ends[low] = i
  })
  const kept = times.map(() => NaN)
  for (let i = ends.at(-1) ?? -1; i >= 0; i = before[i]!) kept[i] = times[i]!
  return kept
}
