/** Ways to split a time into parts. */

export const sum = (values: readonly number[]): number => values.reduce((a, b) => a + b, 0)

/** Splits `room` in proportion to the weights, with at least `least` for each if there is enough. */
export function shareOut(room: number, weights: readonly number[], least: number): number[] {
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

/** Whole numbers in proportion to the parts that add up to `total`: the largest remainder method. Parts of zero stay zero. */
export function largestRemainder(parts: readonly number[], total: number): number[] {
  const all = sum(parts)
  const exact = parts.map((part) => (all > 0 ? (part * total) / all : 0))
  // Add a little, so that 2.9999999 is floored to 3.
  const whole = exact.map((value) => Math.floor(value + 1e-9))
  const byRemainder = exact.map((value, i) => i).sort((a, b) => exact[b]! - whole[b]! - (exact[a]! - whole[a]!) || a - b)
  let missing = total - sum(whole)
  for (const i of byRemainder) {
    if (missing <= 0) break
    if (parts[i]! > 0) {
      whole[i]!++
      missing--
    }
  }
  return whole
}
