import { describe, expect, it } from 'vitest'
import { contrast, luminance } from '#core/colour/contrast'
import { lettersIn } from '#core/dress/legible'
import { textStyleSchema } from '#core/journey/schema'

describe('contrast (W3C Web Content Accessibility Guidelines 2.2)', () => {
  it('is that of the definition: 21 for black on white, 4.48 and 4.54 about #777 and #767676 on white', () => {
    expect(contrast('#000000', '#ffffff')).toBeCloseTo(21, 9)
    expect(contrast('#777777', '#ffffff')).toBeCloseTo(4.48, 2)
    // The lightest grey that passes 4.5 on white, as the guidelines' own examples have it (from memory).
    expect(contrast('#767676', '#ffffff')).toBeCloseTo(4.54, 2)
    expect([luminance('#ff0000'), luminance('#00ff00'), luminance('#0000ff')]).toEqual([0.2126, 0.7152, 0.0722])
  })
})

describe('letters of another colour', () => {
  const style = textStyleSchema.parse({})

  it('keep a halo that they are told from, and get another where they are not', () => {
    expect(lettersIn('#d8412f', style)).toEqual({ colour: '#d8412f' })
    expect(lettersIn('#fdf3d8', style)).toEqual({ colour: '#fdf3d8', halo: { colour: '#14233a', width: 0.1 } })
    const dark = textStyleSchema.parse({ colour: '#fdf3d8', halo: { colour: '#14233a', width: 0.2 } })
    expect(lettersIn('#0a1426', dark)).toEqual({ colour: '#0a1426', halo: { colour: '#fbf6ea', width: 0.2 } })
    expect(lettersIn('#fdf3d8', { halo: null })).toEqual({ colour: '#fdf3d8' })
  })
})
