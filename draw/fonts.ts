/**
 * The typeface of labels. It comes in parts by script, and each part is registered under its own family name on both sides, so that browser
 * and server pick the same glyphs from the same files.
 */
const PARTS = ['latin', 'latin-ext', 'greek', 'cyrillic', 'vietnamese'] as const

export interface FontPart {
  family: string
  /** File name within the folder `files` of the package @fontsource/alegreya. */
  file: string
}

export const LABEL_FONT_PARTS: readonly FontPart[] = PARTS.map((part) => ({
  family: `Zephyrine Label ${part}`,
  file: `alegreya-${part}-700-normal.woff2`,
}))

const STACK = [...LABEL_FONT_PARTS.map((part) => `"${part.family}"`), 'serif'].join(', ')

/** The typeface's word space is as narrow as a thin space; this widens it to a quarter of the letter size (common practice, no source). */
const WORD_SPACE = 0.08

/** Sets letters of the given size, in the canvas's units. */
export function setFont(context: CanvasRenderingContext2D, size: number): void {
  context.font = `${size}px ${STACK}`
  context.wordSpacing = `${size * WORD_SPACE}px`
}
