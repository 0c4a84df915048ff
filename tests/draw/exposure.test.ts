/** Pictures that one is the mean of: in linear light, by the formulas of sRGB written out here, whatever changes in them. */
import fc from 'fast-check'
import { describe, expect, it } from 'vitest'
import { createExposure } from '#draw/exposure'
import type { Region } from '#draw/region'

/** IEC 61966-2-1, items 5.2 and 5.3, for values from 0 to 255. */
const light = (value: number) => (value / 255 <= 0.04045 ? value / 255 / 12.92 : ((value / 255 + 0.055) / 1.055) ** 2.4)
const value = (of: number) => 255 * (of <= 0.0031308 ? 12.92 * of : 1.055 * of ** (1 / 2.4) - 0.055)

type Pixel = readonly [red: number, green: number, blue: number, alpha: number]

/** The mean of one pixel of several pictures: what is more opaque counts for more. */
function meanOf(pixels: readonly Pixel[]): number[] {
  const opacity = pixels.reduce((sum, [, , , alpha]) => sum + alpha / 255, 0)
  if (opacity === 0) return [0, 0, 0, 0]
  const colours = [0, 1, 2].map((k) => value(pixels.reduce((sum, pixel) => sum + light(pixel[k]!) * (pixel[3] / 255), 0) / opacity))
  return [...colours, (255 * opacity) / pixels.length]
}

const WIDTH = 256
const row = createExposure({ width: WIDTH, height: 1 })
/** The mean of pictures of up to 256 pixels in a row. */
function meanOfRows(pictures: readonly Pixel[][]): Uint8Array {
  for (const pixels of pictures) {
    row.change([{ x: 0, y: 0, width: WIDTH, height: 1 }])
    row.pixels.set(pixels.flat())
    row.add()
  }
  const out = new Uint8Array(4 * WIDTH)
  row.finish(out)
  return out
}
const exposed = (...pixels: Pixel[]): number[] => [...meanOfRows(pixels.map((pixel) => [pixel])).subarray(0, 4)]

describe('the mean of pictures', () => {
  it('is that of their light: half of white is 188', () => {
    // 0.5 in linear light is 0.735 in sRGB: IEC 61966-2-1, and 187.5 of 255.
    expect(exposed([255, 255, 255, 255], [0, 0, 0, 255])).toEqual([188, 188, 188, 255])
    // A quarter is 0.537.
    expect(exposed([255, 0, 255, 255], [0, 0, 0, 255], [0, 0, 0, 255], [0, 0, 0, 255])).toEqual([137, 0, 137, 255])
  })

  it('keeps the colour of what is there half of the time, and half of its opacity', () => {
    expect(exposed([216, 65, 47, 255], [0, 0, 0, 0])).toEqual([216, 65, 47, 128])
    expect(exposed([9, 9, 9, 0], [200, 100, 0, 0])).toEqual([0, 0, 0, 0])
  })

  it('leaves every value as it is where all are alike', () => {
    const values = Array.from({ length: WIDTH }, (_, v): Pixel => [v, 255 - v, v, 255])
    expect([...meanOfRows([values, values, values])]).toEqual(values.flat())
  })

  const channel = fc.integer({ min: 0, max: 255 })
  it('is within one of the formulas for any pictures', () => {
    fc.assert(
      fc.property(
        fc.array(fc.tuple(channel, channel, channel, fc.oneof(channel, fc.constant(255))), { minLength: 2, maxLength: 16 }),
        (pixels) => {
          const [made, wanted] = [exposed(...pixels), meanOf(pixels)]
          for (let k = 0; k < 4; k++) expect(Math.abs(made[k]! - wanted[k]!)).toBeLessThan(0.52)
        },
      ),
    )
  })
})

describe('pictures of which parts change', () => {
  const size = { width: 200, height: 150 }
  const region = fc
    .tuple(fc.nat(180), fc.nat(130), fc.integer({ min: 1, max: 90 }), fc.integer({ min: 1, max: 90 }))
    .map(([x, y, width, height]): Region => ({ x, y, width: Math.min(width, size.width - x), height: Math.min(height, size.height - y) }))
  /** Frames of a film, each of some pictures, each of which changes some parts of the one before. */
  const film = fc.array(fc.array(fc.array(region, { maxLength: 3 }), { minLength: 1, maxLength: 4 }), { minLength: 1, maxLength: 4 })

  it('are in each frame the mean of its own, and what is said to have changed has', () => {
    fc.assert(
      fc.property(film, fc.integer(), (frames, seed) => {
        const exposure = createExposure(size)
        const picture = new Uint8Array(4 * size.width * size.height).fill(255)
        exposure.pixels.set(picture)
        const out = new Uint8Array(picture.length)
        let number = seed
        const next = () => (number = (Math.imul(number, 1664525) + 1013904223) | 0) >>> 24
        for (const pictures of frames) {
          const before = Uint8Array.from(out)
          const seen = pictures.map((parts) => {
            exposure.change(parts)
            for (const { x, y, width, height } of parts) {
              const colour = [next(), next(), next(), 255]
              for (let row = y; row < y + height; row++)
                for (let at = x; at < x + width; at++) picture.set(colour, 4 * (row * size.width + at))
            }
            exposure.pixels.set(picture)
            exposure.add()
            return Uint8Array.from(picture)
          })
          const told = new Uint8Array(size.width * size.height)
          for (const { x, y, width, height } of exposure.finish(out))
            for (let row = y; row < y + height; row++) told.fill(1, row * size.width + x, row * size.width + x + width)
          const off = Array.from(told, (isTold, at) => {
            if (at % 13 > 0) return 0
            const wanted = meanOf(seen.map((of) => Array.from(of.subarray(4 * at, 4 * at + 4)) as unknown as Pixel))
            return Math.max(...wanted.map((of, k) => Math.abs(out[4 * at + k]! - of)), isTold || out[4 * at] === before[4 * at] ? 0 : 999)
          })
          expect(Math.max(...off.filter((most) => most > 0), 0)).toBeLessThan(0.52)
        }
      }),
      { numRuns: 30 },
    )
  })
})
