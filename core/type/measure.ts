import { greatest } from '../geometry/extremes'
import type { FamilyName, OwnFamily } from './families'
import { familyOf, isOwnFamily, ownFamily, weightOf } from './families'
import metrics from './metrics.json'

/** Which letters a text is set in: a typeface, how heavy (100 to 900), and what is added between letters, in letter sizes. */
export interface Face {
  family: FamilyName
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

/** The letters that are measured of each typeface; those with accents are as wide as those without. */
export const MEASURED_LETTERS: readonly string[] = [...metrics.letters]
const faces = new Map<string, FaceMetrics>()

const ownFaces = new Map<OwnFamily, FaceMetrics>()

/**
 * Makes fonts of one's own known by their measures, in thousandths of the letter size. What a font's file is called by says what is in it, so to learn it
 * again, or in another order, changes nothing.
 */
export function learnFonts(fonts: readonly { file: string; capital: number; widths: Readonly<Record<string, number>> }[]): void {
  for (const { file, capital, widths: thousandths } of fonts) {
    const family = ownFamily(file)
    if (ownFaces.has(family)) continue
    const widths = new Map(Object.entries(thousandths).map(([letter, width]) => [letter, width / 1000] as const))
    const digit = greatest([...'0123456789'].map((figure) => widths.get(figure) ?? 0)) || UNKNOWN
    ownFaces.set(family, { capital: capital / 1000, widths, digit })
  }
}

function faceMetrics({ family, weight }: Pick<Face, 'family' | 'weight'>): FaceMetrics {
  // One that is not known is measured as the house's until it is.
  if (isOwnFamily(family)) return ownFaces.get(family) ?? faceMetrics(HOUSE_FACE)
  const name = `${family} ${weightOf(family, weight)}`
  const known = faces.get(name)
  if (known) return known
  const { capital, advances } = (metrics.faces as Record<string, { capital: number; advances: number[] }>)[name]!
  const widths = new Map(MEASURED_LETTERS.map((letter, i) => [letter, (advances[i] || 1000 * UNKNOWN) / 1000] as const))
  const made = { capital: capital / 1000, widths, digit: greatest([...'0123456789'].map((digit) => widths.get(digit)!)) }
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
  const { wordSpace } = familyOf(face.family)
  let width = 0
  for (const letter of text.normalize('NFD')) {
    if (IS_MARK.test(letter)) continue
    const own = widths.get(letter) ?? (IS_SQUARE.test(letter) ? SQUARE : UNKNOWN)
    width += (isTabular && IS_DIGIT.test(letter) ? digit : own) + face.spacing + (letter === ' ' ? wordSpace : 0)
  }
  return width
}
