import * as fontkit from 'fontkit'
import { JourneyError } from '#core/error'
import type { OwnFont } from '#core/journey/font-schema'
import { MEASURED_LETTERS } from '#core/type/measure'

/**
 * What is needed of a font file to lay letters out: the widths of the letters that the shipped typefaces have too, as far as it has them.
 * @throws JourneyError that says why it cannot be used
 */
export function parseFont(file: Buffer, fileName: string): Omit<OwnFont, 'file'> {
  const font = openFont(file, fileName)
  try {
    return measuresOf(font, fileName)
  } catch (error) {
    if (error instanceof JourneyError) throw error
    // Tables are read when they are asked for, and damaged ones throw then.
    throw new JourneyError(`“${fileName}” is damaged: its letters cannot be measured. Choose another copy of the font.`)
  }
}

function measuresOf(font: fontkit.Font, fileName: string): Omit<OwnFont, 'file'> {
  const thousandth = (units: number) => Math.round((units / font.unitsPerEm) * 1000)
  const widths = Object.fromEntries(
    MEASURED_LETTERS.flatMap((letter) => {
      const code = letter.codePointAt(0)!
      if (!font.hasGlyphForCodePoint(code)) return []
      const width = thousandth(font.glyphForCodePoint(code).advanceWidth)
      return width >= 0 && width <= 10_000 ? [[letter, width]] : []
    }),
  )
  if (Object.keys(widths).length === 0)
    throw new JourneyError(`“${fileName}” has no letters of the Latin, Greek or Cyrillic scripts: choose a font for text.`)
  if (Object.values(widths).every((width) => width === 0))
    throw new JourneyError(`“${fileName}” does not say how wide its letters are: choose another copy of the font.`)
  const capital = Math.min(2000, Math.max(100, thousandth(font.capHeight || font.ascent * 0.7) || 700))
  const name = [font.familyName, font.subfamilyName]
    .filter((word) => word && word !== 'Regular')
    .join(' ')
    .trim()
  return { name: (name || fileName.replace(/\.[^.]*$/, '') || 'Font').slice(0, 80), capital, widths }
}

function openFont(file: Buffer, fileName: string): fontkit.Font {
  let font: fontkit.Font | fontkit.FontCollection
  try {
    font = fontkit.create(file)
    // Some damage shows only when the tables are read.
    if ('unitsPerEm' in font && !(font.unitsPerEm > 0 && font.numGlyphs > 0)) throw new Error('empty')
  } catch {
    throw new JourneyError(`“${fileName}” is not a font that can be read: choose a TTF, OTF, WOFF or WOFF2 file.`)
  }
  if ('fonts' in font) throw new JourneyError(`“${fileName}” holds several fonts: save one of them as a file of its own.`)
  return font
}
