import { clamp } from './clamp'

/** A stretch of a course between two lengths, in ground units. */
export interface Stretch {
  from: number
  to: number
}

/** A piece of a pattern: a dash, a dot or a mark, with its number along the course. */
export interface Piece extends Stretch {
  index: number
}

/** A pattern of pieces on the ground, in ground units: piece and space, and how much longer or shorter each piece is drawn, about its middle. */
export interface Pattern {
  piece: number
  space: number
  longer: number
}

/** The most pieces of one line; the pattern of one that would have more is drawn as a whole. */
const MOST_PIECES = 50_000

/**
 * The pieces of a line between two lengths. They are counted from the start of the course, so that they stand still while the line grows.
 * @param phase by how much they are moved along the course, in ground units
 * @param shortest a piece that is drawn shorter than this, in ground units, is drawn as long
 * @param isWhole whether only whole pieces are drawn, and none is cut at an end
 */
export function piecesBetween(tail: number, head: number, pattern: Pattern, phase: number, shortest: number, isWhole = false): Piece[] {
  if (head <= tail) return []
  const period = pattern.piece + pattern.space
  if ((head - tail) / period > MOST_PIECES) return [{ from: tail, to: head, index: 0 }]
  const half = Math.max(shortest, pattern.piece + pattern.longer) / 2
  const pieces: Piece[] = []
  for (let index = Math.floor((tail - phase - pattern.piece / 2 - half) / period); ; index++) {
    const middle = phase + index * period + pattern.piece / 2
    if (middle - half >= head) return pieces
    if (isWhole) {
      if (middle - half >= tail - TINY && middle + half <= head + TINY) pieces.push({ from: middle - half, to: middle + half, index })
      continue
    }
    const [from, to] = [clamp(middle - half, tail, head), clamp(middle + half, tail, head)]
    if (to > from) pieces.push({ from, to, index })
  }
}

/** Rounding may put the end of the last piece this far beyond that of its line, in ground units. */
const TINY = 1e-9

/** The pattern changed a little so that a line of a length begins and ends with a whole piece; as it is if the line is too short for two. */
export function fittedPattern(pattern: Pattern, length: number): Pattern {
  const period = pattern.piece + pattern.space
  const count = Math.round((length - pattern.piece) / period)
  if (count < 1) return pattern
  const factor = length / (count * period + pattern.piece)
  return { ...pattern, piece: pattern.piece * factor, space: pattern.space * factor }
}
