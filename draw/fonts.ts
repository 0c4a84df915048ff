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

/** The CSS font of a label whose letters have the given size in the canvas's units. */
export const labelFont = (size: number): string => `${size}px ${STACK}`
