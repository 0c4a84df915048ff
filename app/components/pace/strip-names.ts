import type { CompiledVisit } from '#core/trips/compiled'
import { nameOfStop } from '#core/journey/lookup'

/** Where a name is written on the pace strip, in CSS pixels. */
export interface NameBox {
  left: number
  width: number
  text: string
}

/** Room left between two names, in CSS pixels. */
const GAP = 8
/** A name that would be cut shorter than this many letters is left out. */
const FEWEST = 4

/**
 * Places the names of stops under their beads without overlaps: the first and the last always, the others if they have room, cut
 * short if they are slightly too long. Names without a box show on hover.
 * @param x where a moment lies on the strip
 * @param width of the whole strip
 * @param measure the width of a text
 */
export function namesOnStrip(
  visits: readonly CompiledVisit[],
  x: (time: number) => number,
  width: number,
  measure: (text: string) => number,
): (NameBox | undefined)[] {
  const boxes: (NameBox | undefined)[] = visits.map(() => undefined)
  const last = visits.length - 1
  const middleOf = ({ arrive, leave }: CompiledVisit) => (x(arrive) + x(leave)) / 2
  const place = (i: number, from: number, to: number) => {
    const { stop, arrive, leave } = visits[i]!
    const text = cutTo(nameOfStop(stop), to - from, measure)
    if (text === undefined) return
    const wide = measure(text)
    const left = i === 0 ? x(arrive) - 7 : i === last ? x(leave) + 7 - wide : middleOf(visits[i]!) - wide / 2
    boxes[i] = { left: Math.min(Math.max(left, from), to - wide), width: wide, text }
  }
  const endOf = (box: NameBox | undefined, otherwise: number) => (box ? box.left + box.width + GAP : otherwise)
  if (last >= 0) place(0, 0, last > 0 ? width / 2 : width)
  if (last > 0) place(last, endOf(boxes[0], 0), width)
  const end = (boxes[last]?.left ?? width) - GAP
  let taken = endOf(boxes[0], 0)
  for (let i = 1; i < last; i++) {
    const middle = middleOf(visits[i]!)
    if (middle < taken || middle > end) continue
    // Centred on its bead, and short of the next bead.
    const until = Math.min(
      Math.max(middle + (middle - taken), middle + (middleOf(visits[i + 1]!) - middle) / 2),
      middleOf(visits[i + 1]!) - GAP,
      end,
    )
    place(i, taken, until)
    taken = endOf(boxes[i], taken)
  }
  return boxes
}

/** A text that fits into a width: whole, cut short, or undefined if too little of it would be left. */
function cutTo(text: string, room: number, measure: (text: string) => number): string | undefined {
  if (measure(text) <= room) return text
  const letters = [...text]
  for (let count = letters.length - 1; count >= FEWEST; count--) {
    const cut = `${letters.slice(0, count).join('').trimEnd()}…`
    if (measure(cut) <= room) return cut
  }
  return undefined
}
