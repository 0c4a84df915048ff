/** Frames as the encoder takes them: against the formulas of ITU-R BT.709, and against ffmpeg's own conversion. */
import { spawnSync } from 'node:child_process'
import fc from 'fast-check'
import { describe, expect, it } from 'vitest'
import { frameBytes } from '#core/film/pixel-format'
import type { Region } from '#draw/region'
import { createFilmPicture } from '#render/film-picture'
import { ffmpegPath } from '#render/ffmpeg'

const yuvOf = (rgba: Uint8Array, width: number, height: number): Uint8Array => {
  const picture = createFilmPicture('yuv420p', { width, height })
  picture.rgba.set(rgba)
  const whole = [{ x: 0, y: 0, width, height }]
  picture.changed(whole)
  const frame = new Uint8Array(frameBytes('yuv420p', { width, height }))
  picture.copyTo(frame, whole)
  return frame
}

/** ITU-R BT.709-6, items 3.2 and 3.3 (E'Y, E'CB and E'CR of E'R, E'G and E'B) and 3.4 (8 bits), of colours from 0 to 255; not rounded. */
function bt709(r: number, g: number, b: number): [y: number, cb: number, cr: number] {
  const [er, eg, eb] = [r / 255, g / 255, b / 255]
  const ey = 0.2126 * er + 0.7152 * eg + 0.0722 * eb
  return [219 * ey + 16, (224 * (eb - ey)) / 1.8556 + 128, (224 * (er - ey)) / 1.5748 + 128]
}

/** All colours with one value of red, each on four pixels: 512 x 512. */
const SIDE = 512
function colours(red: number): Uint8Array {
  const rgba = new Uint8Array(4 * SIDE * SIDE).fill(255)
  for (let y = 0, at = 0; y < SIDE; y++)
    for (let x = 0; x < SIDE; x++, at += 4) {
      rgba[at] = red
      rgba[at + 1] = y >> 1
      rgba[at + 2] = x >> 1
    }
  return rgba
}

describe('the colours of a film', () => {
  it('are those of the standard, rounded, for all 16.7 million', () => {
    let most = 0
    const picture = createFilmPicture('yuv420p', { width: SIDE, height: SIDE })
    const frame = new Uint8Array(frameBytes('yuv420p', { width: SIDE, height: SIDE }))
    const whole = [{ x: 0, y: 0, width: SIDE, height: SIDE }]
    for (let red = 0; red < 256; red++) {
      picture.rgba.set(colours(red))
      picture.changed(whole)
      picture.copyTo(frame, whole)
      for (let green = 0; green < 256; green++) {
        // The formulas are linear, so that from one blue to the next the same is added.
        const [from, to] = [bt709(red, green, 0), bt709(red, green, 255)]
        const at = [2 * green * SIDE, SIDE * SIDE + green * 256, 1.25 * SIDE * SIDE + green * 256]
        for (let plane = 0; plane < 3; plane++) {
          const [start, step] = [from[plane]!, (to[plane]! - from[plane]!) / 255]
          for (let blue = 0; blue < 256; blue++) {
            const off = Math.abs(frame[at[plane]! + (plane === 0 ? 2 * blue : blue)]! - start - step * blue)
            if (off > most) most = off
          }
        }
      }
    }
    // Half a step is rounding; the rest is that weights have 15 bits.
    expect(most).toBeLessThan(0.52)
  })

  it('differ from those of ffmpeg’s own conversion by one at most', () => {
    const reds = [0, 1, 37, 128, 200, 254, 255]
    const arrows = ['-v', 'error', '-f', 'rawvideo', '-pix_fmt', 'rgba', '-video_size', `${SIDE}x${SIDE}`, '-i', 'pipe:0']
    const filter = ['-vf', 'scale=in_range=full:out_range=tv:out_color_matrix=bt709:flags=accurate_rnd+full_chroma_int,format=yuv420p']
    const { stdout, status } = spawnSync(ffmpegPath(), [...arrows, ...filter, '-f', 'rawvideo', 'pipe:1'], { input: Buffer.concat(reds.map(colours)), maxBuffer: 1e9 }) // prettier-ignore
    expect(status).toBe(0)
    const bytes = frameBytes('yuv420p', { width: SIDE, height: SIDE })
    expect(stdout.length).toBe(reds.length * bytes)
    reds.forEach((red, i) => {
      const own = yuvOf(colours(red), SIDE, SIDE)
      let most = 0
      for (let k = 0; k < bytes; k++) most = Math.max(most, Math.abs(own[k]! - stdout[i * bytes + k]!))
      expect(most, `red ${red}`).toBeLessThanOrEqual(1)
    })
  })

  it('are of the mean of four pixels where these differ', () => {
    const rgba = Uint8Array.from({ length: 4 * 64 * 64 }, (_, i) => (i % 4 === 3 ? 255 : (i * 7919 + (i >> 5) * 31) & 255))
    const frame = yuvOf(rgba, 64, 64)
    for (let y = 0; y < 32; y++)
      for (let x = 0; x < 32; x++) {
        const mean = [0, 1, 2].map((k) => [0, 1, 64, 65].reduce((sum, at) => sum + rgba[4 * (2 * y * 64 + 2 * x + at) + k]!, 0) / 4)
        const [, cb, cr] = bt709(...(mean as [number, number, number]))
        expect(Math.abs(frame[64 * 64 + y * 32 + x]! - cb)).toBeLessThan(0.52)
        expect(Math.abs(frame[64 * 64 + 32 * 32 + y * 32 + x]! - cr)).toBeLessThan(0.52)
      }
  })

  it('come out the same when only what has changed is converted and copied', () => {
    const part: fc.Arbitrary<Region> = fc
      .record({ x: fc.nat(65), y: fc.nat(45), width: fc.integer({ min: 1, max: 66 }), height: fc.integer({ min: 1, max: 46 }) })
      .map(({ x, y, width, height }) => ({ x, y, width: Math.min(width, 66 - x), height: Math.min(height, 46 - y) }))
    for (const format of ['rgba', 'yuv420p'] as const)
      fc.assert(
        fc.property(fc.array(fc.tuple(part, fc.nat(255)), { maxLength: 4 }), (changes) => {
          const size = { width: 66, height: 46 }
          const picture = createFilmPicture(format, size)
          const frame = new Uint8Array(frameBytes(format, size))
          picture.rgba.fill(90)
          const whole = [{ x: 0, y: 0, ...size }]
          picture.changed(whole)
          picture.copyTo(frame, whole)
          for (const [{ x, y, width, height }, value] of changes)
            for (let row = y; row < y + height; row++) picture.rgba.fill(value, 4 * (row * 66 + x), 4 * (row * 66 + x + width))
          picture.changed(changes.map(([region]) => region))
          picture.copyTo(frame, changes.map(([region]) => region)) // prettier-ignore
          const wanted = format === 'rgba' ? picture.rgba : yuvOf(picture.rgba, 66, 46)
          expect(Buffer.compare(frame, wanted)).toBe(0)
        }),
        { numRuns: 60 },
      )
  })
})
