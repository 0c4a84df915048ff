/** The value of a range that is nearest to a number: `low` below it, `high` above it. Of an empty range, `high`. */
export const clamp = (value: number, low: number, high: number): number => Math.min(high, Math.max(low, value))
