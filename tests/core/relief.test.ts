import fc from 'fast-check'
import { describe, expect, it } from 'vitest'
import type { EarthGrid } from '#core/maps/relief'
import { hornSlope, lightOn, shadeGrid, valueAt } from '#core/maps/relief'

const grid = (width: number, values: number[]): EarthGrid => ({ width, height: values.length / width, values: Float32Array.from(values) })

describe('hill shading', () => {
  // The worked example of a widely used handbook page, "How hillshade works": cells of 5 m, light from 315 degrees at 45; its slopes are 3.125 and -0.525
  // (southwards), its result 154 of 255. From memory.
  const example = grid(3, [2450, 2461, 2483, 2452, 2461, 2483, 2447, 2455, 2477])

  it('finds the slopes of the worked example by Horn’s formula', () => {
    const slope = hornSlope(example, 1, 1, 5, 5)
    expect(slope.east).toBeCloseTo(3.125, 6)
    expect(slope.north).toBeCloseTo(0.525, 6)
  })

  it('lights it as the worked example does', () =>
    expect(255 * lightOn(hornSlope(example, 1, 1, 5, 5), { azimuth: 315, altitude: 45 })).toBeCloseTo(154, 0))

  it('gives level ground the sine of the light’s altitude, and a slope that faces the light all of it', () => {
    expect(lightOn({ east: 0, north: 0 }, { azimuth: 200, altitude: 30 })).toBeCloseTo(0.5, 9)
    // A slope that falls to the north-west by 45 degrees.
    const fall = Math.SQRT1_2
    expect(lightOn({ east: fall, north: -fall }, { azimuth: 315, altitude: 45 })).toBeCloseTo(1, 9)
    expect(lightOn({ east: -3, north: 3 }, { azimuth: 315, altitude: 20 })).toBe(0)
  })

  it('is light on the north-western sides of a mountain and dark on the south-eastern, and even where it is level', () => {
    const values = Array.from(
      { length: 64 * 32 },
      (_, i) => 40_000 * Math.exp(-(((i % 64) - 32) ** 2 + (Math.floor(i / 64) - 16) ** 2) / 8),
    )
    const { values: shade } = shadeGrid(grid(64, values))
    expect(shade[14 * 64 + 30]).toBeGreaterThan(0.02)
    expect(shade[18 * 64 + 34]).toBeLessThan(-0.02)
    expect(shade[16 * 64 + 2]).toBeCloseTo(0, 6)
  })
})

describe('a value between the cells of a grid', () => {
  it('is that of the cells where they are all the same, all round the Earth and at the poles', () => {
    const even = grid(8, new Array<number>(32).fill(7))
    fc.assert(
      fc.property(fc.double({ min: -180, max: 180, noNaN: true }), fc.double({ min: -90, max: 90, noNaN: true }), (lon, lat) => {
        expect(valueAt(even, lon, lat)).toBeCloseTo(7, 5)
      }),
    )
  })

  it('follows a slope exactly, and has no jump anywhere', () => {
    // A quadratic B-spline reproduces straight lines (de Boor, A Practical Guide to Splines, 1978; from memory).
    const slope = grid(36, Array.from({ length: 36 * 18 }, (_, i) => 10 * (i % 36))) // prettier-ignore
    expect(valueAt(slope, 13.7, 20)).toBeCloseTo(((13.7 + 180) / 10 - 0.5) * 10, 4)
    const rough = grid(36, Array.from({ length: 36 * 18 }, (_, i) => (i * 7919) % 101)) // prettier-ignore
    for (let lon = -180; lon < 180; lon += 0.05)
      expect(Math.abs(valueAt(rough, lon, 3.3) - valueAt(rough, lon + 0.05, 3.3))).toBeLessThan(2)
  })
})
