import type { Box } from '../geometry/box'
import type { Carried } from '../journey/schema'
import { HOUSE_FACE, textWidth } from '../type/measure'

/** The staff under what a vehicle carries, as a share of its height. */
export const STAFF = 0.45

/** Of a plate: its letters and the air beside them, as shares of its height. */
export const LETTERS = 0.62
const AIR = 0.28

/** Of a flag: its length, as a share of its height, and how far it waves. */
const FLAG_LENGTH = 1.5
export const FLAG_WAVE = 0.12

/** The light edge round everything, as a share of the height. */
export const EDGE = 0.09

/** The width of what is carried, in reference pixels. */
export function carriedWidth(carried: Carried): number {
  switch (carried.kind) {
    case 'plate':
      return carried.size * (LETTERS * textWidth(carried.text, HOUSE_FACE) + 2 * AIR)
    case 'flag':
      return carried.size * FLAG_LENGTH
    case 'picture':
      return (carried.size * carried.picture.width) / carried.picture.height
    default:
      return carried satisfies never
  }
}

/** What it covers about its vehicle's place, in reference pixels. @param foot how far above that place its staff begins */
export function carriedBox(carried: Carried, foot: number): Box {
  const width = carriedWidth(carried) + 2 * EDGE * carried.size
  // A flag waves to one side of its staff; everything else is centred over it.
  const left = carried.kind === 'flag' ? -EDGE * carried.size : -width / 2
  return { left, right: left + width, top: -foot - carried.size * (1 + STAFF + FLAG_WAVE + EDGE), bottom: -foot }
}
