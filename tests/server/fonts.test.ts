/** Damaged fonts: what throws inside the package that reads them becomes a sentence. */
import { readFileSync } from 'node:fs'
import { describe, expect, it } from 'vitest'
import { JourneyError } from '#core/error'
import { parseFont } from '../../server/fonts/parse-font'

const font = readFileSync('node_modules/@fontsource/jura/files/jura-latin-400-normal.woff')

/** The font with one of its tables made unreadable. Its directory: WOFF File Format 1.0, W3C Recommendation 2012, sections 3 and 4. */
function without(tag: string): Buffer {
  const damaged = Buffer.from(font)
  for (let at = 44; at < 44 + 20 * font.readUInt16BE(12); at += 20) {
    if (font.toString('latin1', at, at + 4) !== tag) continue
    const [offset, length] = [font.readUInt32BE(at + 4), font.readUInt32BE(at + 8)]
    return damaged.fill(0xff, offset, offset + length)
  }
  throw new Error(`The font has no table ${tag}.`)
}

describe('a font', () => {
  it('is measured', () => {
    const { name, widths } = parseFont(font, 'jura.woff')
    expect(name).toMatch(/Jura/)
    expect(widths.m!).toBeGreaterThan(widths.i!)
  })

  it.each(['cmap', 'glyf', 'head', 'hhea', 'hmtx', 'loca', 'maxp'])('whose table %s is damaged is refused with a sentence', (tag) => {
    expect(() => parseFont(without(tag), 'odd.woff')).toThrow(JourneyError)
    expect(() => parseFont(without(tag), 'odd.woff')).toThrow(/^“odd\.woff” .*\.$/)
  })

  it('that is cut off is refused', () => {
    for (const length of [0, 3, 40, 300, 2000, 8000]) expect(() => parseFont(font.subarray(0, length), 'cut.woff')).toThrow(/^“cut\.woff” /)
  })
})
