import { writeFileSync } from 'node:fs'
import { join } from 'node:path'
import * as fontkit from 'fontkit'
import type { Script } from '#core/type/families'
import { FAMILIES, FAMILY_IDS } from '#core/type/families'

/**
 * Writes core/type/metrics.json: how wide the letters of each typeface are, read from its font files. Run it again when a typeface is added.
 * Usage: npm run type-metrics
 */
const range = (from: number, to: number) => Array.from({ length: to - from + 1 }, (_, i) => String.fromCodePoint(from + i)).join('')

/** Letters with accents are as wide as those without, so only these are listed. */
const LETTERS = [
  range(0x20, 0x7e),
  'ÆæŒœØøßẞÐðÞþŁłĐđıŊŋ¡¿§©ª°º·×÷«»‹›–—‘’‚“”„•…€£¥№',
  range(0x391, 0x3a1) + range(0x3a3, 0x3a9) + range(0x3b1, 0x3c9),
  range(0x410, 0x44f) + 'ЄєІіҐґЂђЉљЊњЋћЏџЅѕЈј',
].join('')

/** The files in which a letter is looked for, in this order. */
const SCRIPTS: readonly Script[] = ['latin', 'latin-ext', 'greek', 'cyrillic', 'vietnamese']

function faceOf(family: string, weight: number) {
  const fonts = SCRIPTS.flatMap((script): fontkit.Font[] => {
    const path = join(process.cwd(), `node_modules/@fontsource/${family}/files/${family}-${script}-${weight}-normal.woff2`)
    try {
      return [fontkit.openSync(path) as fontkit.Font]
    } catch {
      return []
    }
  })
  const thousandth = (font: fontkit.Font, units: number) => Math.round((units / font.unitsPerEm) * 1000)
  const latin = fonts[0]!
  const advances = [...LETTERS].map((letter) => {
    const font = fonts.find((candidate) => candidate.hasGlyphForCodePoint(letter.codePointAt(0)!))
    return font ? thousandth(font, font.glyphForCodePoint(letter.codePointAt(0)!).advanceWidth) : 0
  })
  return {
    capital: thousandth(latin, latin.capHeight),
    small: thousandth(latin, latin.xHeight),
    ascent: thousandth(latin, latin.ascent),
    descent: thousandth(latin, -latin.descent),
    advances,
  }
}

const faces = Object.fromEntries(
  FAMILY_IDS.flatMap((family) => FAMILIES[family].weights.map((weight) => [`${family} ${weight}`, faceOf(family, weight)] as const)),
)
const target = join(process.cwd(), 'core/type/metrics.json')
const lines = Object.entries(faces).map(([name, face]) => `    ${JSON.stringify(name)}: ${JSON.stringify(face)}`)
writeFileSync(target, `{\n  "letters": ${JSON.stringify(LETTERS)},\n  "faces": {\n${lines.join(',\n')}\n  }\n}\n`)
console.log(`${Object.keys(faces).length} faces of ${[...LETTERS].length} letters written to ${target}`)
