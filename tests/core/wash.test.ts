import { flatView } from '#core/camera/view'
import fc from 'fast-check'
import { describe, expect, it } from 'vitest'
import { compile } from '#core/frame/compile'
import { frameAt, onTable } from '#core/frame/frame-at'
import { replaceSheet, setWash } from '#core/edits/ground/sheets'
import type { Wash } from '#core/journey/schema'
import { washSchema } from '#core/journey/schema'
import { WASH_PRESETS, washPixels } from '#core/sheet/wash'
import { demo, paperSheet } from '../support/journeys'

/** What a wash makes of one colour. */
function washed(rgb: readonly [number, number, number], wash: Partial<Wash>): number[] {
  const pixels = new Uint8ClampedArray([...rgb, 200])
  washPixels(pixels, washSchema.parse(wash))
  expect(pixels[3], 'opacity stays').toBe(200)
  return [...pixels.slice(0, 3)]
}

const byte = fc.integer({ min: 0, max: 255 })
const colour = fc.tuple(byte, byte, byte)

describe('a wash', () => {
  it('that asks for nothing changes nothing', () => {
    fc.assert(
      fc.property(colour, (rgb) => {
        washed(rgb, {}).forEach((value, c) => expect(Math.abs(value - rgb[c]!)).toBeLessThanOrEqual(1))
      }),
    )
  })

  it('with exposure +1 doubles the linear light: sRGB 0.5 (linear 0.2140) becomes 0.6858 (IEC 61966-2-1)', () => {
    // 128/255 is 0.50196, linear 0.21586; doubled 0.43172, in sRGB 0.68852, which is 175.57 of 255; computed by hand from the standard's formula.
    expect(Math.abs(washed([128, 128, 128], { exposure: 1 })[0]! - 175.57)).toBeLessThan(1)
    expect(washed([255, 255, 255], { exposure: 2 })).toEqual([255, 255, 255])
    expect(washed([0, 0, 0], { exposure: 3 })).toEqual([0, 0, 0])
  })

  it('with contrast keeps the middle, and at -1 leaves only that', () => {
    expect(washed([127, 128, 127], { contrast: 0.8 })).toEqual([127, 128, 127])
    expect(washed([0, 255, 40], { contrast: -1 })).toEqual([128, 128, 128])
    expect(washed([64, 64, 64], { contrast: 1 })[0]).toBeLessThan(3)
  })

  it('without saturation is grey, of the luma of BT.709', () => {
    expect(washed([255, 0, 0], { saturation: -1 })).toEqual([54, 54, 54])
    expect(washed([0, 255, 0], { saturation: -1 })).toEqual([182, 182, 182])
    expect(washed([0, 0, 255], { saturation: -1 })).toEqual([18, 18, 18])
  })

  it('in two tones takes black and white to its two colours, and greys in between', () => {
    const twoTone = { dark: '#102030', light: '#f0e0d0', strength: 1 }
    expect(washed([0, 0, 0], { twoTone })).toEqual([0x10, 0x20, 0x30])
    expect(washed([255, 255, 255], { twoTone })).toEqual([0xf0, 0xe0, 0xd0])
    washed([128, 128, 128], { twoTone }).forEach((value) => expect(Math.abs(value - 128)).toBeLessThan(2))
    expect(washed([10, 200, 90], { twoTone: { ...twoTone, strength: 0 } })).toEqual(washed([10, 200, 90], {}))
  })

  it('keeps the order of light and dark, whatever it does to greys', () => {
    const unit = fc.double({ min: -1, max: 1, noNaN: true })
    fc.assert(
      fc.property(byte, byte, unit, unit, (a, b, exposure, contrast) => {
        const [low, high] = [Math.min(a, b), Math.max(a, b)]
        expect(washed([low, low, low], { exposure, contrast })[0]).toBeLessThanOrEqual(
          washed([high, high, high], { exposure, contrast })[0]!,
        )
      }),
    )
  })
})

describe('the ready-made washes', () => {
  it('are at least six beside leaving the sheet as it is, each with a name and a look of its own', () => {
    expect(WASH_PRESETS.length).toBeGreaterThanOrEqual(7)
    expect(WASH_PRESETS[0]!.wash).toBeNull()
    const looks = WASH_PRESETS.map(({ wash }) => (wash ? washed([180, 120, 60], wash).join() : 'as it is'))
    expect(new Set(looks).size).toBe(WASH_PRESETS.length)
    expect(new Set(WASH_PRESETS.map(({ name }) => name)).size).toBe(WASH_PRESETS.length)
  })
})

describe('a washed sheet', () => {
  const wash = WASH_PRESETS[1]!.wash

  it('comes into the frame with its wash, and its edge shade above it and below all else', () => {
    const items = frameAt(compile(setWash(demo(), 'isles', wash)), 5).items
    expect(items.slice(0, 4).map((item) => item.kind)).toEqual(['ground', 'sheet', 'edge-shade', 'ink'])
    expect(items[1]).toMatchObject({ sheet: { wash } })
    expect(frameAt(compile(setWash(demo(), 'isles', null)), 5).items[2]!.kind).toBe('ink')
  })

  it('is seen on the table without the edge shade, which belongs to the lens', () => {
    const view = flatView({ x: 1, y: 2 }, 3)
    const laid = onTable(frameAt(compile(setWash(demo(), 'isles', wash)), 5), view)
    expect(laid.view).toBe(view)
    expect(laid.items.slice(0, 3).map((item) => item.kind)).toEqual(['ground', 'sheet', 'ink'])
  })

  it('hands its wash on to the sheet that replaces it', () => {
    const image = { ...paperSheet, width: 900 }
    expect(replaceSheet(setWash(demo(), 'isles', wash), 'isles', image, { by: 'frame' }).sheets[0]!.wash).toEqual(wash)
  })

  it('is nothing without a sheet', () => {
    const bare = { ...demo(), sheets: [] }
    expect(setWash(bare, 'isles', wash)).toEqual(bare)
  })
})
