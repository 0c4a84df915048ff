import fc from 'fast-check'
import { describe, expect, it } from 'vitest'
import type { Region } from '#draw/region'
import { around, isEmpty, onCanvas, overlap, squaresOver, union } from '#draw/region'

const side = fc.integer({ min: 0, max: 400 })
const region: fc.Arbitrary<Region> = fc.record({
  x: fc.integer({ min: -200, max: 500 }),
  y: fc.integer({ min: -200, max: 500 }),
  width: side,
  height: side,
})
const contains = (a: Region, b: Region) => a.x <= b.x && a.y <= b.y && a.x + a.width >= b.x + b.width && a.y + a.height >= b.y + b.height

describe('regions', () => {
  it('united hold both, and empty ones add nothing', () => {
    fc.assert(
      fc.property(region, region, (a, b) => {
        const both = union(a, b)
        if (!isEmpty(a)) expect(contains(both, a)).toBe(true)
        if (!isEmpty(b)) expect(contains(both, b)).toBe(true)
        if (isEmpty(a)) expect(both).toEqual(b)
      }),
    )
    expect(union(undefined, { x: 1, y: 2, width: 3, height: 4 })).toEqual({ x: 1, y: 2, width: 3, height: 4 })
  })

  it('cut along a grid cover each pixel of some once, and are few where these lie along a line', () => {
    const size = { width: 500, height: 300 }
    const pixelsOf = (regions: readonly Region[]) => {
      const times = new Uint8Array(size.width * size.height)
      for (const { x, y, width, height } of regions)
        for (let row = y; row < y + height; row++) for (let column = x; column < x + width; column++) times[row * size.width + column]!++
      return times
    }
    fc.assert(
      fc.property(fc.array(region, { maxLength: 5 }), (regions) => {
        const held = regions.map((any) => onCanvas(any, 0, size)).filter((any) => !isEmpty(any))
        const cut = squaresOver(regions, size)
        for (const part of cut) expect(onCanvas(part, 0, size)).toEqual(part)
        const [wanted, got] = [pixelsOf(held), pixelsOf(cut)]
        expect(got.every((times) => times <= 1)).toBe(true)
        expect(wanted.every((times, i) => times === 0 || got[i] === 1)).toBe(true)
      }),
    )
    const alongLine = Array.from({ length: 40 }, (_, i) => ({ x: 45 * i, y: 25 * i, width: 40, height: 40 }))
    const pixels = squaresOver(alongLine, { width: 1920, height: 1080 }).reduce((sum, { width, height }) => sum + width * height, 0)
    expect(pixels / (1920 * 1080)).toBeLessThan(0.25)
    expect(squaresOver([], size)).toEqual([])
  })

  it('overlap both ways or not at all; touching is not overlapping', () => {
    fc.assert(
      fc.property(region, region, (a, b) => {
        expect(overlap(a, b)).toBe(overlap(b, a))
      }),
    )
    expect(overlap({ x: 0, y: 0, width: 10, height: 10 }, { x: 10, y: 0, width: 5, height: 5 })).toBe(false)
    expect(overlap({ x: 0, y: 0, width: 10, height: 10 }, { x: 9, y: 9, width: 5, height: 5 })).toBe(true)
  })

  it('on a canvas are whole pixels within it', () => {
    const size = { width: 640, height: 360 }
    expect(onCanvas({ x: 10.4, y: 20.6, width: 5, height: 5 }, 2, size)).toEqual({ x: 8, y: 18, width: 10, height: 10 })
    fc.assert(
      fc.property(region, fc.nat(20), (any, margin) => {
        const held = onCanvas(any, margin, size)
        if (!isEmpty(held)) expect(contains({ x: 0, y: 0, ...size }, held)).toBe(true)
        expect(held.width).toBeGreaterThanOrEqual(0)
      }),
    )
    expect(isEmpty(onCanvas(around(-500, 20, 30), 2, size))).toBe(true)
  })
})
