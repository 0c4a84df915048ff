import type { FamilyId } from './families'
import { FAMILIES, weightOf } from './families'
import metrics from './metrics.json'

/** Which letters a text is set in: a typeface, how heavy (100 to 900), and what is added between letters, in letter sizes. */
export interface Face {
  family: FamilyId
  weight: number
  spacing: number
}

/** The face of what is not set by a style: numbers in pins, postcards, and the line that names the sources. */
export const HOUSE_FACE: Face = { family: 'alegreya', weight: 700, spacing: 0 }

interface FaceMetrics {
  /** The height of capitals above the baseline, in letter sizes. */
  capital: number
  /** Letter to width, in letter sizes. */
  widths: ReadonlyMap<string, number>
  /** The width of the widest digit. */
  digit: number
}

/** What is not in the tables: the square characters of East Asia, and everything else. */
const SQUARE = 1
const UNKNOWN = 0.6
const IS_SQUARE = /[\u1100-\u11ff\u2e80-\u9fff\uac00-\ud7af\uf900-\ufaff\uff00-\uffef]|\p{Extended_Pictographic}/u
const IS_DIGIT = /[0-9]/
const IS_MARK = /\p{Mark}/u

const letters = [...metrics.letters]
const faces = new Map<string, FaceMetrics>()

function faceMetrics({ family, weight }: Pick<Face, 'family' | 'weight'>): FaceMetrics {
  const name = `${family} ${weightOf(family, weight)}`
  const known = faces.get(name)
  if (known) return known
  const { capital, advances } = (metrics.faces as Record<string, { capital: number; advances: number[] }>)[name]!
  const widths = new Map(letters.map((letter, i) => [letter, (advances[i] || 1000 * UNKNOWN) / 1000] as const))
  const made = { capital: capital / 1000, widths, digit: Math.max(...[...'0123456789'].map((digit) => widths.get(digit)!)) }
  faces.set(name, made)
  return made
}

/** The width of a face's widest digit, in letter sizes. */
export const digitWidth = (face: Pick<Face, 'family' | 'weight'>): number => faceMetrics(face).digit

/** The height of a face's capitals, in letter sizes. */
export const capitalHeight = (face: Pick<Face, 'family' | 'weight'>): number => faceMetrics(face).capital

/**
 * How wide a line of text is, in letter sizes: the sum of its letters' advances, without kerning, so within some hundredths of what is painted. It is the
 * same wherever it is computed, which what a canvas measures is not.
 * @param isTabular whether all digits are as wide as the widest
 */
export function textWidth(text: string, face: Face, isTabular = false): number {
  const { widths, digit } = faceMetrics(face)
  const { wordSpace } = FAMILIES[face.family]
  let width = 0
  for (const letter of text.normalize('NFD')) {
    if (IS_MARK.test(letter)) continue
    const own = widths.get(letter) ?? (IS_SQUARE.test(letter) ? SQUARE : UNKNOWN)
    width += (isTabular && IS_DIGIT.test(letter) ? digit : own) + face.spacing + (letter === ' ' ? wordSpace : 0)
  }
  return width
}
