/** A stretch of a course between two lengths, in ground units. */
export interface Stretch {
  from: number
  to: number
}

/** A pattern of dashes on the ground, in ground units: dash and space, and how much longer or shorter each dash is drawn, about its middle. */
export interface DashPattern {
  dash: number
  space: number
  longer: number
}

/** The most dashes of one line; the pattern of one that would have more is drawn as a whole. */
const MOST_DASHES = 50_000

/**
 * The stretches of a line between two lengths that are drawn: all of it, or its dashes. These are counted from the start of the course, so that they
 * stand still while the line grows.
 * @param phase by how much they are moved along the course, in ground units
 * @param shortest a dash that is drawn shorter than this, in ground units, is drawn as long
 */
export function stretchesBetween(tail: number, head: number, pattern: DashPattern | null, phase: number, shortest: number): Stretch[] {
  if (head <= tail) return []
  const period = pattern ? pattern.dash + pattern.space : Infinity
  if (!pattern || (head - tail) / period > MOST_DASHES) return [{ from: tail, to: head }]
  const half = Math.max(shortest, pattern.dash + pattern.longer) / 2
  const stretches: Stretch[] = []
  for (let i = Math.floor((tail - phase - pattern.dash / 2 - half) / period); ; i++) {
    const middle = phase + i * period + pattern.dash / 2
    if (middle - half >= head) return stretches
    const [from, to] = [Math.max(tail, middle - half), Math.min(head, middle + half)]
    if (to > from) stretches.push({ from, to })
  }
}
