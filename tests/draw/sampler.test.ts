import { ImageData } from '@napi-rs/canvas'
import fc from 'fast-check'
import { describe, expect, it } from 'vitest'
import type { SampledLevel, Tile } from '#draw/ground/sampler'
import { createSampler, EMPTY, MISSING, ROW } from '#draw/ground/sampler'

const sampler = createSampler((pixels, width, height) => new ImageData(pixels, width, height) as unknown as globalThis.ImageData)
const TILE = 512

type Rgba = [number, number, number, number]
/** A picture of 900 x 700 pixels with hard edges, soft gradients, and some that let half through; in tiles of 512. */
const WIDTH = 900
const HEIGHT = 700
function colourAt(x: number, y: number): Rgba {
  if ((x >> 4) % 7 === 3) return [250, 20, 20, 255]
  return [(x * 7) % 256, (y * 5 + x) % 256, 255 - ((x + y) % 256), (x >> 6) % 5 === 2 ? 128 : 255]
}
function tileAt(column: number, row: number): Tile {
  const [width, height] = [Math.min(TILE, WIDTH - column * TILE), Math.min(TILE, HEIGHT - row * TILE)]
  const data = new Uint8ClampedArray(4 * width * height)
  for (let y = 0; y < height; y++)
    for (let x = 0; x < width; x++) data.set(colourAt(column * TILE + x, row * TILE + y), 4 * (y * width + x))
  return sampler.tile({ data, width, height })
}
const tiles = Uint32Array.of(tileAt(0, 0), tileAt(1, 0), tileAt(0, 1), tileAt(1, 1))
const whole = { left: 0, top: 0, width: WIDTH, height: HEIGHT }
const levelOf = (change: Partial<SampledLevel> = {}): SampledLevel => ({ tiles, columns: 2, part: whole, copies: 0, ...change })

/** A pixel of the picture as it is repeated, premultiplied, in numbers with fractions. */
function premultiplied(x: number, y: number, { part, copies }: SampledLevel): Rgba {
  const fold = (at: number, start: number, length: number): number | undefined => {
    // Where nothing is repeated the outermost pixels go on, as far as the picture covers the place at all.
    if (copies === 0) return Math.min(start + length - 1, Math.max(start, at))
    const copy = Math.floor((at - start) / length)
    if (Math.abs(copy) > copies) return undefined
    const along = at - start - copy * length
    return start + (copy % 2 === 0 ? along : length - 1 - along)
  }
  const [u, v] = [fold(x, part.left, part.width), fold(y, part.top, part.height)]
  if (u === undefined || v === undefined) return [0, 0, 0, 0]
  const [r, g, b, a] = colourAt(u, v)
  return [(r * a) / 255, (g * a) / 255, (b * a) / 255, a]
}

/** Bilinear interpolation, written out in floating point: the weighted mean of the four pixels whose middles are around a place. */
function bilinear(u: number, v: number, level: SampledLevel): Rgba {
  const [x, y] = [Math.floor(u), Math.floor(v)]
  const [right, down] = [u - x, v - y]
  const [a, b, c, d] = [premultiplied(x, y, level), premultiplied(x + 1, y, level), premultiplied(x, y + 1, level), premultiplied(x + 1, y + 1, level)] // prettier-ignore
  const mix = (k: number) => (a[k]! * (1 - right) + b[k]! * right) * (1 - down) + (c[k]! * (1 - right) + d[k]! * right) * down
  return [mix(0), mix(1), mix(2), mix(3)]
}

interface Line {
  u: number
  v: number
  du: number
  dv: number
  share: number
}

/** Samples rows into a picture that is filled with a colour at first. @returns its pixels, not premultiplied */
function sample(lines: readonly Line[], width: number, level: SampledLevel, isKept = false): Uint8ClampedArray {
  if (!isKept) sampler.clear(target(width, lines.length))
  const rows = new Float64Array(ROW * lines.length)
  lines.forEach(({ u, v, du, dv, share }, i) => rows.set([u, v, du, dv, share], ROW * i))
  sampler.sample(target(width, lines.length), rows, level)
  return Uint8ClampedArray.from(sampler.finished(target(width, lines.length)).image.data)
}
const targets = new Map<string, ReturnType<typeof sampler.target>>()
function target(width: number, height: number) {
  const key = `${width} ${height}`
  const made = targets.get(key) ?? sampler.target(width, height)
  targets.set(key, made)
  return made
}

/** How much of a pixel of the frame the picture covers: by how far its middle is from the nearest edge, in pixels of the frame. */
function cover(u: number, v: number, { du, dv }: Line, { part, copies }: SampledLevel): number {
  if (copies > 0) return 1
  const inside = Math.min(u + 0.5 - part.left, part.left + part.width - 0.5 - u, v + 0.5 - part.top, part.top + part.height - 0.5 - v)
  return Math.min(1, Math.max(0, inside / Math.max(0.001, Math.hypot(du, dv)) + 0.5))
}

/** The greatest difference of colours, as far as they are seen, and of opacities, from those of the reference. */
function differenceFrom(pixels: Uint8ClampedArray, lines: readonly Line[], width: number, level: SampledLevel): number {
  let most = 0
  lines.forEach((line, row) => {
    const { u, v, du, dv } = line
    for (let x = 0; x < width; x++) {
      const of = cover(u + du * x, v + dv * x, line, level)
      const wanted = bilinear(u + du * x, v + dv * x, level).map((value) => value * of)
      const at = 4 * (row * width + x)
      const alpha = pixels[at + 3]!
      most = Math.max(most, Math.abs(alpha - wanted[3]!))
      for (let k = 0; k < 3; k++) most = Math.max(most, Math.abs((pixels[at + k]! * alpha) / 255 - wanted[k]!))
    }
  })
  return most
}

const number = (min: number, max: number) => fc.double({ min, max, noNaN: true })
const anyLine = fc.record({ u: number(-400, 1300), v: number(-300, 1000), du: number(-2, 2), dv: number(-2, 2), share: fc.constant(256) })

describe('the sampler', () => {
  it('gives what bilinear interpolation does, within tiles, across their edges, at the edge of the picture, and mirrored', () => {
    const crop = { left: 130, top: 77, width: 610, height: 509 }
    fc.assert(
      fc.property(
        fc.array(anyLine, { minLength: 1, maxLength: 5 }),
        fc.integer({ min: 1, max: 131 }),
        fc.constantFrom(whole, crop),
        fc.constantFrom(0, 1, 4),
        (lines, width, part, copies) => {
          const level = levelOf({ part, copies })
          // Its arithmetic rounds three times, and shares and places are exact to 1/256 of a pixel: a hard edge of 250 gives up to one more.
          expect(differenceFrom(sample(lines, width, level), lines, width, level)).toBeLessThan(3.5)
        },
      ),
      { numRuns: 300 },
    )
  })

  it('lays a share of a level over what is there, and nothing where that is none', () => {
    const lines = [0, 64, 128, 255].map((share) => ({ u: 300, v: 300, du: 0.7, dv: 0.1, share }))
    sample(lines.map((line) => ({ ...line, u: 20, v: 20, share: 256 })), 50, levelOf()) // prettier-ignore
    const mixed = sample(lines, 50, levelOf(), true)
    lines.forEach(({ share }, row) => {
      for (let x = 0; x < 50; x++) {
        const under = bilinear(20 + 0.7 * x, 20 + 0.1 * x, levelOf())
        const over = bilinear(300 + 0.7 * x, 300 + 0.1 * x, levelOf())
        const alpha = mixed[4 * (row * 50 + x) + 3]!
        expect(Math.abs(alpha - (under[3] + ((over[3] - under[3]) * share) / 256))).toBeLessThan(3)
      }
    })
  })

  it('leaves what is there where a tile is missing, and takes an empty one for nothing', () => {
    const lines = [{ u: 500, v: 100, du: 1, dv: 0, share: 256 }]
    const full = sample(lines, 40, levelOf())
    const missing = Uint32Array.from(tiles)
    missing[1] = MISSING
    const other = [{ u: 20, v: 100, du: 1, dv: 0, share: 256 }]
    const under = sample(other, 40, levelOf())
    const part = sample(lines, 40, levelOf({ tiles: missing }), true)
    // Up to the last pixel of the first tile it is new, from the next one on it is what was there.
    expect([...part.subarray(0, 4 * 11)]).toEqual([...full.subarray(0, 4 * 11)])
    expect([...part.subarray(4 * 13)]).toEqual([...under.subarray(4 * 13)])
    const empty = Uint32Array.from(tiles)
    empty[1] = EMPTY
    expect([...sample(lines, 40, levelOf({ tiles: empty })).subarray(4 * 13)].every((value) => value === 0)).toBe(true)
  })

  it('halves a picture to the means of four', () => {
    const lines = Array.from({ length: 6 }, (_, row) => ({ u: 10, v: 10 + row, du: 1, dv: 0, share: 256 }))
    const big = sampler.target(8, 6)
    const rows = new Float64Array(ROW * 6)
    lines.forEach(({ u, v, du, dv, share }, i) => rows.set([u, v, du, dv, share], ROW * i))
    sampler.clear(big)
    sampler.sample(big, rows, levelOf())
    const half = sampler.target(4, 3)
    sampler.halveInto(half, 0, big, 6)
    const { image, isOpaque } = sampler.finished(half)
    expect(isOpaque).toBe(true)
    for (let y = 0; y < 3; y++)
      for (let x = 0; x < 4; x++)
        for (let k = 0; k < 3; k++) {
          const four = [[0, 0], [1, 0], [0, 1], [1, 1]].map(([dx, dy]) => colourAt(10 + 2 * x + dx!, 10 + 2 * y + dy!)[k]!) // prettier-ignore
          expect(Math.abs(image.data[4 * (4 * y + x) + k]! - four.reduce((a, b) => a + b) / 4)).toBeLessThanOrEqual(0.5)
        }
  })

  it('says whether anything is seen through a picture', () => {
    const [opaque, clear] = [{ u: 60, v: 60, du: 0, dv: 0, share: 256 }, { u: 150, v: 60, du: 0, dv: 0, share: 256 }] // prettier-ignore
    for (const [line, isOpaque] of [
      [opaque, true],
      [clear, false],
    ] as const) {
      sample([line], 4, levelOf())
      expect(sampler.finished(target(4, 1)).isOpaque).toBe(isOpaque)
    }
  })

  it('covers all of a frame that a magnified map fills to its edges', () => {
    // 900 pixels over 3600: the middle of the first pixel of the frame is 3/8 of a map pixel before the middle of the first one of the map.
    const lines = Array.from({ length: 20 }, (_, row) => ({ u: 0.125 - 0.5, v: (row + 0.5) / 4 - 0.5, du: 0.25, dv: 0, share: 256 }))
    sample(lines, 100, levelOf())
    expect(sampler.finished(target(100, 20)).isOpaque).toBe(true)
  })
})
