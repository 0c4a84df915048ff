/** The automatic layover in seconds: a pin needs about one to appear (common practice, no source); short films use a share of their length. */
function usualLayovers(seconds: number) {
  const share = (most: number, part: number) => Math.min(most, Math.round(seconds * part * 100) / 100)
  return { first: share(0.6, 0.05), between: share(1, 0.05), last: share(2, 0.15) }
}

/** The automatic layover at a visit, by its index and the number of visits. A trip of one stop rests there to the end. */
export function usualLayover(visit: number, visits: number, seconds: number): number {
  const usual = usualLayovers(seconds)
  if (visit === visits - 1) return usual.last
  return visit === 0 ? usual.first : usual.between
}
