import type { Appears } from '../journey/schema'
import { overshoot, smooth } from '../pace/easing'
import type { TextBlock } from '../type/block'

/** How long a part of a text takes to appear, in seconds, where nothing else is said. */
export const USUAL_APPEARING = 0.4

/** By how much later than the one before a part of a text usually begins, in seconds, at most. */
const STEP = { whole: 0, word: 0.16, letter: 0.05 } as const satisfies Record<Appears['by'], number>

/** All parts have begun after so many seconds, however many they are. */
const LAST_START = 1.2

/** How far from its place a part that rises begins, in letter sizes. */
const RISE = 0.55

const graphemes = new Intl.Segmenter('en', { granularity: 'grapheme' })

/** The parts in which a line appears, one after another; together they are the line. Spaces go with the word before them. */
export function partsOf(line: string, by: Appears['by']): string[] {
  switch (by) {
    case 'whole':
      return [line]
    case 'word':
      return line.match(/\S+\s*/g) ?? [line]
    case 'letter':
      return [...graphemes.segment(line)].map(({ segment }) => segment)
    default:
      return by satisfies never
  }
}

/** How many parts a text has. */
export const countParts = ({ lines }: TextBlock, by: Appears['by']): number =>
  by === 'whole' ? 1 : lines.reduce((sum, { text }) => sum + partsOf(text, by).length, 0)

/** By how much later than the one before a part of a text begins, in seconds, where nothing else is said. */
export const usualApart = (by: Appears['by'], parts: number): number => Math.min(STEP[by], LAST_START / (parts - 1))

function stepOf({ by, apart }: Appears, parts: number): number {
  if (parts <= 1 || by === 'whole') return 0
  return apart ?? usualApart(by, parts)
}

/** How long a text takes to appear, in seconds. */
export function revealSeconds(appears: Appears, parts: number): number {
  return stepOf(appears, parts) * (parts - 1) + (appears.style === 'none' ? 0 : (appears.seconds ?? USUAL_APPEARING))
}

/** How much of what appears as a whole is seen, 0 to 1, so many seconds after it began; null once it has settled. What appears part by part fades part by part. */
export const fadeOf = (appears: Appears, elapsed: number | null): number =>
  elapsed === null || appears.by !== 'whole' ? 1 : partAt(appears, 1, 0, elapsed).opacity

/** How far one of a text's parts has appeared. */
export interface PartState {
  scale: number
  opacity: number
  /** How far below its place it is, in letter sizes. */
  rise: number
  /** The share of it, from the left, that is seen. */
  seen: number
}

export const SEEN: PartState = { scale: 1, opacity: 1, rise: 0, seen: 1 }

/** How far part `k` of a text has appeared, so many seconds after the first began. */
export function partAt(appears: Appears, parts: number, k: number, elapsed: number): PartState {
  const { style, seconds = USUAL_APPEARING } = appears
  const since = elapsed - k * stepOf(appears, parts)
  const u = style === 'none' ? (since >= 0 ? 1 : 0) : since / seconds
  if (u >= 1) return SEEN
  if (u <= 0) return { ...SEEN, opacity: 0, seen: 0 }
  switch (style) {
    case 'none':
      return SEEN
    case 'pop':
      return { ...SEEN, scale: overshoot(u), opacity: smooth(u * 2) }
    case 'fade':
      return { ...SEEN, opacity: smooth(u) }
    case 'rise':
      return { ...SEEN, opacity: smooth(u), rise: RISE * (1 - smooth(u)) }
    case 'wipe':
      return { ...SEEN, seen: smooth(u) }
    default:
      return style satisfies never
  }
}
