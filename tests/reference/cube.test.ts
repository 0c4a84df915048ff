/**
 * Tables of colours: files as the Cube LUT Specification 1.0 (2013) has them, tetrahedral interpolation written out case by case, and ffmpeg's own
 * (`lut3d=interp=tetrahedral`, of the FFmpeg project).
 */
import { spawnSync } from 'node:child_process'
import { rmSync, writeFileSync } from 'node:fs'
import { join } from 'node:path'
import fc from 'fast-check'
import { afterAll, describe, expect, it } from 'vitest'
import { cubeAt, readCube } from '#core/colour/cube'
import { JourneyError } from '#core/error'
import { gradeSchema } from '#core/journey/schema'
import { createGrader } from '#draw/grade'
import { ffmpegPath } from '#render/ffmpeg'
import { temporaryFolder } from '../support/server'

const folder = temporaryFolder()
afterAll(() => rmSync(folder, { recursive: true, force: true }))

type Colour = [number, number, number]

/** A .cube file of what a function makes of each colour. */
function cubeFile(size: number, of: (r: number, g: number, b: number) => Colour): string {
  const lines = [`TITLE "Made up"`, '# a comment', `LUT_3D_SIZE ${size}`, 'DOMAIN_MIN 0 0 0', 'DOMAIN_MAX 1 1 1', '']
  for (let b = 0; b < size; b++)
    for (let g = 0; g < size; g++)
      for (let r = 0; r < size; r++) lines.push(of(r / (size - 1), g / (size - 1), b / (size - 1)).map((v) => v.toFixed(6)).join(' ')) // prettier-ignore
  return lines.join('\n')
}
const identity = cubeFile(17, (r, g, b) => [r, g, b])
/** A strong look: crossed channels, curves, and values beyond the ends. */
const strange = cubeFile(9, (r, g, b) => [g ** 0.6 * 1.2 - 0.1, 0.3 * r + 0.7 * b * b, Math.abs(r - b) + 0.1 * g])
const at = (text: string, ...colour: Colour): Colour => {
  const out: Colour = [0, 0, 0]
  cubeAt(readCube(text, 'a.cube'), ...colour, out)
  return out
}
const refusal = (text: string): string => {
  try {
    readCube(text, 'a.cube')
  } catch (error) {
    if (error instanceof JourneyError) return error.message
    throw error
  }
  return 'taken'
}

/** The six tetrahedra, one by one, over a cell of values by its corners. */
function tetrahedral(c: (r: number, g: number, b: number) => number, x: number, y: number, z: number): number {
  const [c000, c111] = [c(0, 0, 0), c(1, 1, 1)]
  if (x > y) {
    if (y > z) return (1 - x) * c000 + (x - y) * c(1, 0, 0) + (y - z) * c(1, 1, 0) + z * c111
    if (x > z) return (1 - x) * c000 + (x - z) * c(1, 0, 0) + (z - y) * c(1, 0, 1) + y * c111
    return (1 - z) * c000 + (z - x) * c(0, 0, 1) + (x - y) * c(1, 0, 1) + y * c111
  }
  if (z > y) return (1 - z) * c000 + (z - y) * c(0, 0, 1) + (y - x) * c(0, 1, 1) + x * c111
  if (z > x) return (1 - y) * c000 + (y - z) * c(0, 1, 0) + (z - x) * c(0, 1, 1) + x * c111
  return (1 - y) * c000 + (y - x) * c(0, 1, 0) + (x - z) * c(1, 1, 0) + z * c111
}

describe('a .cube file', () => {
  it('has red running fastest, then green', () => {
    // Eight colours, of which the second is that of full red, the third that of full green.
    const text = 'LUT_3D_SIZE 2\n0 0 0\n.1 0 0\n0 .2 0\n0 0 0\n0 0 .3\n0 0 0\n0 0 0\n1 1 1\n'
    expect(at(text, 1, 0, 0)[0]).toBeCloseTo(0.1, 6)
    expect(at(text, 0, 1, 0)[1]).toBeCloseTo(0.2, 6)
    expect(at(text, 0, 0, 1)[2]).toBeCloseTo(0.3, 6)
  })

  it('may have a domain of its own, and a table for each channel by itself', () => {
    const half = 'DOMAIN_MIN 0 0 0\nDOMAIN_MAX 2 2 2\nLUT_3D_SIZE 2\n' + '0 0 0\n1 0 0\n0 1 0\n1 1 0\n0 0 1\n1 0 1\n0 1 1\n1 1 1\n'
    for (const value of at(half, 1, 1, 1)) expect(value).toBeCloseTo(0.5, 6)
    const [r, g, b] = at('LUT_1D_SIZE 3\n0 1 0\n.5 .5 .25\n1 0 1\n', 0.25, 0.25, 0.75)
    expect(r).toBeCloseTo(0.25, 5)
    expect(g).toBeCloseTo(0.75, 5)
    expect(b).toBeCloseTo(0.625, 5)
  })

  it('is read with comments, tabs, any line ends, and numbers of any notation', () => {
    expect(refusal('# made by hand\r\nTITLE "A"\r\nLUT_1D_SIZE 2\r\n0\t0\t0\r\n1e0 1.0 +1\r\n\r\n')).toBe('taken')
  })

  it.each([
    ['LUT_3D_SIZE 2\n0 0 0\n1 1 1\n', 'has 2 of 8 colours'],
    ['LUT_1D_SIZE 2\n0 0 0\n1 1 1\n1 1 1\n', 'line 4 is beyond the end of the table'],
    ['LUT_1D_SIZE 2\n0 0 0\n1 1\n', 'line 3 must have three numbers'],
    ['LUT_1D_SIZE 2\n0 0 0\n1 nan 1\n', 'line 3 must have three numbers'],
    ['0 0 0\n', 'line 1 has numbers before the size'],
    ['LUT_3D_SIZE 4000\n', 'line 1 must name a size from 2 to 65'],
    ['LUT_1D_SIZE 1.5\n', 'line 1 must name a size from 2 to 65536'],
    ['LUT_3D_SIZE 2\nLUT_3D_SIZE 2\n', 'line 2 names a second size'],
    ['<html>\n', 'line 1'],
    ['PK\u0003\u0004', 'line 1 begins with a word that is not known'],
    ['DOMAIN_MIN 1 1 1\nDOMAIN_MAX 0 1 1\nLUT_1D_SIZE 2\n0 0 0\n1 1 1\n', 'domain that ends before it begins'],
    ['', 'names its size'],
  ])('that is damaged is refused with a sentence: %j', (text, says) => {
    expect(refusal(text)).toContain(says)
    expect(refusal(text)).toMatch(/^“a\.cube” [^\n]+\.$/)
  })
})

describe('a colour of a table', () => {
  const unit = fc.double({ min: 0, max: 1, noNaN: true })

  it('is interpolated in its tetrahedron', () => {
    const { size, values } = readCube(strange, 'a.cube')
    fc.assert(
      fc.property(unit, unit, unit, (r, g, b) => {
        const [x, y, z] = [r, g, b].map((v) => v * (size - 1)) as Colour
        const [i, j, k] = [x, y, z].map((v) => Math.min(size - 2, Math.floor(v))) as Colour
        const seen = at(strange, r, g, b)
        for (let channel = 0; channel < 3; channel++) {
          const corner = (dr: number, dg: number, db: number) => values[3 * (i + dr + size * (j + dg + size * (k + db))) + channel]!
          expect(seen[channel]).toBeCloseTo(tetrahedral(corner, x - i, y - j, z - k), 6)
        }
      }),
      { numRuns: 300 },
    )
  })

  it('is itself in the table of itself, at any strength', () => {
    fc.assert(
      fc.property(unit, unit, unit, (r, g, b) => {
        at(identity, r, g, b).forEach((value, channel) => expect(value).toBeCloseTo([r, g, b][channel]!, 6))
      }),
      { numRuns: 100 },
    )
  })
})

/** A picture of many colours as a grader makes it. */
function graded(
  grade: Parameters<typeof gradeSchema.parse>[0],
  pixels: Uint8Array,
  size: { width: number; height: number },
  cube?: string,
): Uint8Array {
  const table = cube === undefined ? undefined : readCube(cube, 'a.cube')
  const grader = createGrader(size, { grade: gradeSchema.parse(grade), cube: table, scale: 1, ground: true })
  grader.pixels.set(pixels)
  const out = new Uint8Array(pixels.length)
  grader.finish([{ x: 0, y: 0, ...size }], 0, out)
  return out
}
const SIZE = { width: 512, height: 128 }
const colours = new Uint8Array(4 * SIZE.width * SIZE.height)
for (let i = 0; i < SIZE.width * SIZE.height; i++)
  colours.set([(i * 7) & 255, (i >> 3) & 255, (i >> 8) & 255, i % 11 === 0 ? 90 : 255], 4 * i)
const lut = { file: 'a'.repeat(64), name: 'Made up' }

describe('a graded picture', () => {
  it('is as it was, to the last value, in the table of itself', () => {
    expect(Buffer.compare(graded({ lut }, colours, SIZE, identity), colours)).toBe(0)
  })

  it('is what ffmpeg makes of it with the same table, within one', () => {
    const path = join(folder, 'strange.cube')
    writeFileSync(path, strange)
    const opaque = colours.map((value, i) => (i % 4 === 3 ? 255 : value))
    const format = ['-f', 'rawvideo', '-pix_fmt', 'rgba', '-video_size', `${SIZE.width}x${SIZE.height}`]
    const { stdout, status, stderr } = spawnSync(ffmpegPath(), ['-v', 'error', ...format, '-i', 'pipe:0', '-vf', `format=gbrp,lut3d=file=${path}:interp=tetrahedral,format=rgba`, '-f', 'rawvideo', 'pipe:1'], { input: opaque, maxBuffer: 1e8 }) // prettier-ignore
    expect(stderr.toString()).toBe('')
    expect(status).toBe(0)
    const own = graded({ lut }, opaque, SIZE, strange)
    let most = 0
    own.forEach((value, i) => (most = Math.max(most, Math.abs(value - stdout[i]!))))
    expect(most).toBeLessThanOrEqual(1)
  })

  it('is mixed with what it was by the strength of its table', () => {
    const [half, full] = [graded({ lut: { ...lut, strength: 0.5 } }, colours, SIZE, strange), graded({ lut }, colours, SIZE, strange)]
    let most = 0
    half.forEach((value, i) => (most = Math.max(most, Math.abs(value - (full[i]! + colours[i]!) / 2))))
    // Both are rounded; where the table is cut off at white or black, it is before it is mixed.
    expect(most).toBeLessThan(14)
  })

  const one = (grade: Parameters<typeof gradeSchema.parse>[0], ...colour: Colour) => [...graded(grade, Uint8Array.of(...colour, 255), { width: 1, height: 1 })].slice(0, 3) // prettier-ignore

  it('is exposed in linear light, has contrast about the middle, and saturation about the luma', () => {
    // One stop more is twice the light: 0.5 in sRGB is 0.2140 in linear light, 0.4281 is 0.6858 (IEC 61966-2-1).
    expect(one({ exposure: 1 }, 127, 127, 127)[0]).toBeCloseTo(174.3, -0.3)
    expect(one({ contrast: 0.5 }, 191, 64, 128)).toEqual([223, 32, 128])
    // ITU-R BT.709: 0.2126 of 200, 0.7152 of 100, 0.0722 of 50 are 117.7.
    for (const channel of one({ saturation: -1 }, 200, 100, 50)) expect(channel).toBeCloseTo(117.65, -0.3)
    const [red, , blue] = one({ warmth: 0.5 }, 128, 128, 128)
    expect(red! - blue!).toBeGreaterThan(15)
    expect(one({}, 12, 34, 56)).toEqual([12, 34, 56])
  })

  it('is close to those formulas for any colour, though it is a table', () => {
    const grade = { exposure: 0.3, contrast: 0.2, saturation: 0.4 }
    const seen = graded(grade, colours, SIZE)
    const light = (v: number) => (v <= 0.04045 ? v / 12.92 : ((v + 0.055) / 1.055) ** 2.4)
    const value = (v: number) => (v <= 0.0031308 ? 12.92 * v : 1.055 * v ** (1 / 2.4) - 0.055)
    const held = (v: number) => Math.min(1, Math.max(0, v))
    let [most, sum] = [0, 0]
    for (let i = 0; i < colours.length; i += 4) {
      const toned = [0, 1, 2].map((k) => 0.5 + (value(held(light(colours[i + k]! / 255) * 2 ** 0.3)) - 0.5) * 1.2)
      const luma = 0.2126 * toned[0]! + 0.7152 * toned[1]! + 0.0722 * toned[2]!
      toned.forEach((v, k) => {
        const off = Math.abs(seen[i + k]! - 255 * held(luma + (v - luma) * 1.4))
        most = Math.max(most, off)
        sum += off
      })
    }
    // Where a channel is cut off at white or black, the lattice rounds the corner.
    expect(most).toBeLessThan(6)
    expect(sum / (0.75 * colours.length)).toBeLessThan(0.6)
  })

  it('is darker towards its corners and the same in its middle, and has grain that is another one in each frame and 0 in the mean', () => {
    const size = { width: 200, height: 100 }
    const grey = new Uint8Array(4 * size.width * size.height).fill(128)
    const dark = graded({ vignette: { strength: 0.5, size: 0.5 } }, grey, size)
    const at = (pixels: Uint8Array, x: number, y: number) => pixels[4 * (y * size.width + x)]!
    expect(at(dark, 100, 50)).toBe(128)
    expect(at(dark, 0, 0)).toBeLessThan(80)
    expect(at(dark, 0, 0)).toBe(at(dark, 199, 99))
    const grader = createGrader(size, { grade: gradeSchema.parse({ grain: { strength: 1 } }), cube: undefined, scale: 1, ground: true })
    grader.pixels.set(grey)
    const frames = [7, 8, 7].map((frame) => {
      const out = new Uint8Array(grey.length)
      // Nothing has changed but the grain.
      expect(grader.finish([], frame, out)).toEqual([{ x: 0, y: 0, ...size }])
      return out
    })
    expect(Buffer.compare(frames[0]!, frames[2]!)).toBe(0)
    expect(Buffer.compare(frames[0]!, frames[1]!)).not.toBe(0)
    const reds = [...frames[1]!].filter((_, i) => i % 4 === 0)
    const mean = reds.reduce((sum, v) => sum + v, 0) / reds.length
    expect(Math.abs(mean - 128)).toBeLessThan(2)
    expect(Math.max(...reds) - Math.min(...reds)).toBeGreaterThan(40)
  })

  it('that is to be laid over another has neither vignette nor grain', () => {
    const grader = createGrader({ width: 1, height: 1 }, { grade: gradeSchema.parse({ vignette: {}, grain: { strength: 1 } }), cube: undefined, scale: 1, ground: false }) // prettier-ignore
    grader.pixels.set([10, 20, 30, 40])
    const out = new Uint8Array(4)
    grader.finish([{ x: 0, y: 0, width: 1, height: 1 }], 3, out)
    expect([...out]).toEqual([10, 20, 30, 40])
  })
})
