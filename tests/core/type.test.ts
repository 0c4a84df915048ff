import { readFileSync } from 'node:fs'
import { createRequire } from 'node:module'
import * as fontkit from 'fontkit'
import fc from 'fast-check'
import { describe, expect, it } from 'vitest'
import { brokenInto, setBlock } from '#core/type/block'
import type { FamilyId } from '#core/type/families'
import { FAMILIES, FAMILY_IDS, weightOf } from '#core/type/families'
import { capitalHeight, textWidth } from '#core/type/measure'

const require = createRequire(import.meta.url)
const fontOf = (family: FamilyId, script: string, weight: number): fontkit.Font =>
  fontkit.create(readFileSync(require.resolve(`@fontsource/${family}/files/${family}-${script}-${weight}-normal.woff2`))) as fontkit.Font

const every = FAMILY_IDS.flatMap((family) => FAMILIES[family].weights.map((weight) => [family, weight] as const))

describe('the width of a text', () => {
  /** fontkit shapes with kerning, which the tables leave out: the two may differ by some hundredths. */
  it.each(every)('in %s %i is what fontkit makes of the font file, to 6 %%', (family, weight) => {
    const { wordSpace } = FAMILIES[family]
    for (const [script, text] of [
      ['latin', 'Harrowmere'],
      ['latin', 'Quillhaven & Oar’s End, 1234'],
      ['greek', 'Οδυσσεια'],
      ['cyrillic', 'Остров маяков'],
    ] as const) {
      const font = fontOf(family, script, weight)
      const laidOut = font.layout(text)
      const spaces = text.split(' ').length - 1
      const real = laidOut.advanceWidth / font.unitsPerEm + spaces * wordSpace
      expect(Math.abs(textWidth(text, { family, weight, spacing: 0 }) / real - 1), text).toBeLessThan(0.06)
    }
  })

  it('counts letters with accents as those without, and adds what is asked between letters', () => {
    const face = { family: 'alegreya', weight: 700, spacing: 0 } as const
    expect(textWidth('Žluťoučký', face)).toBeCloseTo(textWidth('Zlutoucky', face), 9)
    expect(textWidth('abcd', { ...face, spacing: 0.1 })).toBeCloseTo(textWidth('abcd', face) + 0.4, 9)
    expect(textWidth('灯台', face)).toBe(2)
  })

  it('does not change with the digits where they are set in cells', () => {
    const face = { family: 'alegreya', weight: 700, spacing: 0 } as const
    const widths = [...'0123456789'].map((digit) => textWidth(`${digit}${digit} km`, face, true))
    expect(new Set(widths).size).toBe(1)
    expect(new Set([...'0123456789'].map((digit) => textWidth(digit, face))).size).toBeGreaterThan(1)
  })

  it('has the height of capitals that the font file says', () => {
    expect(capitalHeight({ family: 'roboto-slab', weight: 700 })).toBeCloseTo(fontOf('roboto-slab', 'latin', 700).capHeight / fontOf('roboto-slab', 'latin', 700).unitsPerEm, 3) // prettier-ignore
  })
})

describe('a weight', () => {
  it('is the nearest that the family has', () => {
    expect([100, 400, 640, 700, 900].map((asked) => weightOf('comfortaa', asked))).toEqual([400, 400, 700, 700, 700])
    expect(weightOf('oi', 900)).toBe(400)
  })
})

describe('a block of text', () => {
  const setting = { family: 'alegreya', weight: 700, spacing: 0, size: 50, case: 'as-written' } as const

  it('reaches from the top of the first capitals to the last baseline', () => {
    const { lines, height } = setBlock([{ text: 'Oar’s End' }], setting, Infinity)
    expect(lines).toHaveLength(1)
    // Capitals of Alegreya are 0.637 of the letter size high (its OS/2 table).
    expect(height).toBeCloseTo(0.637 * 50, 6)
    const two = setBlock([{ text: 'Oar’s End' }, { text: 'second day', isSmall: true }], setting, Infinity)
    expect(two.lines.map(({ size }) => Math.round(size))).toEqual([50, 28])
    expect(two.height).toBeGreaterThan(height + 28 * 0.637)
  })

  it('leaves no room for parts without text, and sets capitals where asked', () => {
    expect(setBlock([{ text: '' }, { text: 'x' }], setting, Infinity)).toEqual(setBlock([{ text: 'x' }], setting, Infinity))
    expect(setBlock([{ text: 'Straße' }], { ...setting, case: 'capitals' }, Infinity).lines[0]!.text).toBe('STRASSE')
    expect(setBlock([{ text: '' }], setting, Infinity)).toMatchObject({ lines: [], width: 0, height: 0 })
  })

  it('is broken into lines that fit and lose no letter', () => {
    const face = { family: 'alegreya-sans', weight: 400, spacing: 0 } as const
    fc.assert(
      fc.property(
        fc.array(fc.string({ minLength: 1, maxLength: 12 }), { maxLength: 8 }),
        fc.double({ min: 3, max: 12, noNaN: true }),
        (words, widest) => {
          const text = words.join(' ')
          const lines = brokenInto(text, face, widest)
          for (const line of lines) expect(line.length === 1 || textWidth(line, face) <= widest).toBe(true)
          expect(lines.join('').replace(/\s/g, '')).toBe(text.replace(/\s/g, ''))
        },
      ),
    )
  })
})
