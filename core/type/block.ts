import { greatest } from '../geometry/extremes'
import type { Face } from './measure'
import { capitalHeight, textWidth } from './measure'

/** How a text is set. Lengths are in reference pixels unless said otherwise. */
export interface Setting extends Face {
  size: number
  case: 'as-written' | 'capitals' | 'small-letters'
}

export type Align = 'left' | 'center' | 'right'

/** A part of a text, from the uppermost; small ones are notes to the others. */
export interface Part {
  text: string
  isSmall?: boolean
  /** Whether its digits are all as wide as the widest, so that a running figure does not shake. */
  isTabular?: boolean
}

export interface Line extends Face {
  text: string
  size: number
  isTabular: boolean
  width: number
  /** Its baseline, below the top of the block. */
  baseline: number
}

/**
 * A text broken into lines and set. Its box reaches from the top of the first line's capitals to the last baseline: what the eye takes for the text.
 * What hangs below the last line is `below` it.
 */
export interface TextBlock {
  lines: readonly Line[]
  width: number
  height: number
  below: number
}

/** The line height, in letter sizes, and the room between two parts, in letter sizes of the large ones. */
const LEADING = 1.05
const PART_GAP = 0.34

/** The size of small parts, as a share of the large ones'; they are never heavier than medium. */
const SMALL_SIZE = 0.56
const SMALL_WEIGHT = 500

/** How far letters hang below the baseline, in letter sizes. */
const HANGING = 0.24

/** A text wider than so many letter sizes is broken into lines. */
export const WIDEST = 14

const inCase = (text: string, as: Setting['case']): string =>
  as === 'capitals' ? text.toLocaleUpperCase('en') : as === 'small-letters' ? text.toLocaleLowerCase('en') : text

/** The weight of small parts beside large ones of a weight. */
export const smallWeight = (weight: number): number => Math.min(weight, SMALL_WEIGHT)

/** Sets a text in lines of at most `widest` reference pixels. Parts without text leave no room. */
export function setBlock(parts: readonly Part[], { size, case: as, family, weight, spacing }: Setting, widest: number): TextBlock {
  const lines: Line[] = []
  for (const { text, isSmall = false, isTabular = false } of parts) {
    if (text.trim() === '') continue
    const face: Face = { family, weight: isSmall ? smallWeight(weight) : weight, spacing }
    const letters = isSmall ? size * SMALL_SIZE : size
    const capital = capitalHeight(face) * letters
    const above = lines.at(-1)
    const first = (above ? above.baseline + PART_GAP * size : 0) + capital
    breakLines(inCase(text, as), (line) => textWidth(line, face) * letters <= widest).forEach((line, i) =>
      lines.push({
        ...face,
        text: line,
        size: letters,
        isTabular,
        width: textWidth(line, face, isTabular) * letters,
        baseline: first + i * LEADING * letters,
      }),
    )
  }
  const last = lines.at(-1)
  return {
    lines,
    width: Math.max(0, greatest(lines.map(({ width }) => width))),
    height: last?.baseline ?? 0,
    below: HANGING * (last?.size ?? 0),
  }
}

/** Breaks a text into lines that fit, at spaces where there are any; line breaks in it stay. */
function breakLines(text: string, fits: (line: string) => boolean): string[] {
  return text
    .trim()
    .split('\n')
    .flatMap((paragraph) => {
      const lines: string[] = []
      let line = ''
      for (const word of paragraph.split(/\s+/)) {
        const longer = line === '' ? word : `${line} ${word}`
        if (fits(longer)) {
          line = longer
          continue
        }
        if (line !== '') lines.push(line)
        line = ''
        // A word that is too long by itself, or a script without spaces.
        for (const letter of word) {
          if (line !== '' && !fits(line + letter)) {
            lines.push(line)
            line = ''
          }
          line += letter
        }
      }
      return [...lines, line]
    })
    .filter((line, i, all) => line !== '' || i < all.length - 1)
}

/** Breaks a text into lines of at most a width, both in letter sizes. */
export const brokenInto = (text: string, face: Face, widest: number): string[] =>
  breakLines(text, (line) => textWidth(line, face) <= widest)
