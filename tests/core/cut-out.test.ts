/** Pictures in boxes: what stands round a thing is noticed, and cut away with what is connected to it alone. */
import { describe, expect, it } from 'vitest'
import type { Rgba } from '#core/picture/cut-out'
import { cutOut, noticedBackground, opaquePart } from '#core/picture/cut-out'

type Paint = (x: number, y: number) => readonly [number, number, number, number]

function picture(width: number, height: number, paint: Paint): Rgba {
  const pixels = new Uint8ClampedArray(4 * width * height)
  for (let y = 0; y < height; y++) for (let x = 0; x < width; x++) pixels.set(paint(x, y), 4 * (y * width + x))
  return { width, height, pixels }
}
const alphaAt = ({ width, pixels }: Rgba, x: number, y: number) => pixels[4 * (y * width + x) + 3]!

const WHITE = [255, 255, 255, 255] as const
const RED = [216, 65, 47, 255] as const
const NOTHING = [0, 0, 0, 0] as const
/** A red ring round a white middle, at (50, 40). */
const isRing = (x: number, y: number) => Math.hypot(x - 50, y - 40) < 30 && Math.hypot(x - 50, y - 40) > 15
const ring = (around: Paint, middle: Paint = around) =>
  picture(100, 80, (x, y) => (isRing(x, y) ? RED : Math.hypot(x - 50, y - 40) <= 15 ? middle(x, y) : around(x, y)))
/** A small disturbance, the same at each pixel, as a JPEG leaves it. */
const noisy = (x: number, y: number) => {
  const d = ((x * 7 + y * 13) % 9) - 4
  return [248 + d, 249 + d, 247 + d, 255] as const
}
const checkerboard = (x: number, y: number) => ((Math.floor(x / 8) + Math.floor(y / 8)) % 2 === 0 ? WHITE : ([204, 204, 204, 255] as const))

describe('the part of a picture that is not transparent', () => {
  it('is found to the pixel, and none where there is nothing', () => {
    expect(opaquePart(picture(40, 30, (x, y) => (x >= 5 && x < 12 && y >= 20 && y < 21 ? RED : NOTHING)))).toEqual({
      left: 5,
      top: 20,
      width: 7,
      height: 1,
    })
    expect(opaquePart(picture(4, 4, () => NOTHING))).toBeUndefined()
    expect(opaquePart(picture(1, 1, () => RED))).toEqual({ left: 0, top: 0, width: 1, height: 1 })
  })
})

describe('a box round a picture', () => {
  it('of one colour is noticed, also after it has been a JPEG', () => {
    expect(noticedBackground(ring(() => WHITE))).toEqual([[255, 255, 255]])
    const [colour] = noticedBackground(ring(noisy))!
    for (const [c, value] of [248, 249, 247].entries()) expect(Math.abs(colour[c]! - value)).toBeLessThan(3)
  })

  it('with a painted checkerboard is noticed with both its colours', () => {
    const found = noticedBackground(ring(checkerboard))!
    expect(found).toHaveLength(2)
    expect(found.map(([red]) => Math.round(red)).sort()).toEqual([204, 255])
  })

  it('is not seen where there is none: a transparent edge, a photograph, two halves, a single pixel', () => {
    expect(noticedBackground(ring(() => NOTHING))).toBeUndefined()
    expect(noticedBackground(picture(60, 60, (x, y) => [(x * 37 + y * 11) % 256, (x * 91) % 256, (y * 53) % 256, 255]))).toBeUndefined()
    expect(noticedBackground(picture(60, 60, (x) => (x < 30 ? WHITE : RED)))).toBeUndefined()
    expect(noticedBackground(picture(1, 1, () => WHITE))).toBeUndefined()
  })
})

describe('cutting out', () => {
  it.each([
    ['white', () => WHITE],
    ['nearly white', noisy],
    ['a checkerboard', checkerboard],
  ] as const)('takes away %s around, and leaves the thing and what it encloses', (_what, around) => {
    const boxed = ring(around as Paint)
    const cut = cutOut(boxed, noticedBackground(boxed)!, 30, 0)
    for (let y = 0; y < 80; y++)
      for (let x = 0; x < 100; x++) {
        const isInside = Math.hypot(x - 50, y - 40) < 30
        expect(alphaAt(cut, x, y), `${x} ${y}`).toBe(isInside ? 255 : 0)
      }
    expect(boxed.pixels[3], 'the original is as it was').toBe(255)
  })

  it('softens the edge inwards only', () => {
    const boxed = ring(() => WHITE)
    const soft = cutOut(boxed, [[255, 255, 255]], 30, 2)
    const row = Array.from({ length: 100 }, (_, x) => alphaAt(soft, x, 40))
    expect(row[19]).toBe(0)
    expect(row[21]).toBeGreaterThan(0)
    expect(row[21]).toBeLessThan(255)
    expect(row[27]).toBe(255)
    expect(row.every((alpha, x) => alpha <= (x > 20 && x < 80 ? 255 : 0))).toBe(true)
  })

  it('takes more with more tolerance', () => {
    const shaded = ring(() => [225, 225, 225, 255])
    const left = (tolerance: number) =>
      cutOut(shaded, [[255, 255, 255]], tolerance, 0).pixels.filter((alpha, i) => i % 4 === 3 && alpha > 0).length
    expect(left(30)).toBe(8000)
    expect(left(60)).toBeLessThan(3000)
  })
})
