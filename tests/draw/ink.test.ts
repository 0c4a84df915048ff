/** How lines look: their light against its own formula, their colours at given lengths, and lines by hand that stand still. */
import { describe, expect, it } from 'vitest'
import { flatView, referenceSize } from '#core/camera/view'
import type { FrameItem, InkItem } from '#core/frame/frame'
import { polylineCourse } from '#core/geometry/course'
import { groundSchema } from '#core/journey/schema'
import { createPainter } from '#draw/painter'
import { createServerStudio, createServerSurface } from '#render/studio'
import { BENT, EVERY_INK, inkItem } from '../support/inks'

const reference = referenceSize({ width: 1920, height: 1080 })
const middle = { x: reference.width / 2, y: reference.height / 2 }
const STRAIGHT = polylineCourse(Float64Array.of(200, 540, 1700, 540))

const ground = (colour: string): FrameItem => ({ kind: 'ground', ground: groundSchema.parse({ colour }) })
const frameOf = (items: FrameItem[], height: number, pitch = 0) => ({
  time: 0,
  size: { width: (height * 16) / 9, height },
  scale: height / 1080,
  reference,
  view: { ...flatView(middle, 1), pitch },
  isMoving: false,
  sun: null,
  items,
  motions: [],
})

function paint(items: FrameItem[], height = 1080, pitch = 0) {
  const frame = frameOf(items, height, pitch)
  const surface = createServerSurface(frame.size.width, height)
  createPainter(createServerStudio('/nowhere')).paint(frame, surface.context, frame.scale)
  const pixels = Uint8Array.from(surface.pixels())
  return {
    pixels,
    at: (x: number, y: number) =>
      [...pixels.subarray(4 * (y * frame.size.width + x), 4 * (y * frame.size.width + x) + 3)] as [number, number, number],
  }
}

/** A box of a width convolved with a Gaussian, brought to 1 at its middle; summed up numerically, apart from the code under test. */
function blurredBox(distance: number, width: number, sigma: number): number {
  const sum = (d: number) => {
    let total = 0
    for (let i = 0; i < 400; i++) total += Math.exp(-((d - width / 2 + ((i + 0.5) * width) / 400) ** 2) / (2 * sigma * sigma))
    return total
  }
  return sum(distance) / sum(0)
}

describe('a glow', () => {
  const [width, radius] = [8, 40]
  /** What the glow is said to be: 55 parts of a Gaussian of 0.16 of its radius and 45 of one of 0.46. */
  const expected = (d: number) => 0.55 * blurredBox(d, width, 0.16 * radius) + 0.45 * blurredBox(d, width, 0.46 * radius)
  const glow = { colour: '#ffffff', radius, strength: 0.8 }

  it('falls off all the way, fast near the line and slowly further out, without a plateau', () => {
    const { at } = paint([ground('#000000'), inkItem({ width, glow: { ...glow, strength: 1 } }, STRAIGHT)])
    const light = Array.from({ length: 56 }, (_, i) => at(900, 540 + width / 2 + 2 + i)[0] / 255)
    // Rounding, and the pixels of the coarse canvas, may hold it up for one.
    light.slice(2).forEach((value, i) => expect(value, `${i}`).toBeLessThan(light[i]! + 0.003))
    for (let i = 0; i + 4 < 40; i++) expect(light[i]! - light[i + 4]!, `${i}`).toBeGreaterThan(0.002)
    // Two fifths of the light are gone within a quarter of the reach, a twentieth is left at four fifths of it.
    const of = (d: number) => light[Math.round(d - width / 2 - 2)]!
    expect(of(radius / 4)).toBeLessThan(0.66)
    expect(of(radius * 0.8)).toBeGreaterThan(0.06)
  })

  it('is painted as the formula says, to a fourteenth of its light, added to black', () => {
    const { at } = paint([ground('#000000'), inkItem({ width, glow }, STRAIGHT)])
    for (let d = 6; d <= 50; d += 2) expect(Math.abs(at(900, 540 + d)[0] - 255 * 0.8 * expected(d)), `at ${d}`).toBeLessThan(18)
  })

  it('colours a pale map instead of vanishing on it, and ends where it ends', () => {
    const { at } = paint([ground('#ffffff'), inkItem({ width, glow: { colour: '#ff8800', radius: 30, strength: 1 } }, STRAIGHT)])
    const [red, , blue] = at(900, 540 + 8)
    expect(red - blue).toBeGreaterThan(40)
    expect(at(900, 540 + 75)).toEqual([255, 255, 255])
  })

  it('makes the middle of a bright line white, and leaves a dark one as it is', () => {
    const middleOf = (colour: string) =>
      paint([ground('#203040'), inkItem({ width: 20, colour, glow: { ...glow, strength: 1 } }, STRAIGHT)]).at(900, 540)
    expect(Math.min(...middleOf('#ffb84d'))).toBeGreaterThan(220)
    expect(middleOf('#27406b')).toEqual([0x27, 0x40, 0x6b])
  })

  it('leaves the spaces between dashes darker than the dashes', () => {
    const dashes = inkItem({ width, glow: { ...glow, radius: 16 }, line: { kind: 'dashed', dash: 40, space: 60 }, cap: 'butt' }, STRAIGHT)
    const { at } = paint([ground('#000000'), dashes])
    // Beside the middle of a dash, and beside the middle of a space.
    expect(at(200 + 1020, 540 + 9)[0]).toBeGreaterThan(1.8 * at(200 + 1070, 540 + 9)[0])
  })

  it('looks the same at 720p, 1080p and 4K', () => {
    const item = inkItem({ width, glow, hand: 'chalk' }, STRAIGHT)
    const [small, usual, large] = [720, 1080, 2160].map((height) => ({ ...paint([ground('#000000'), item], height), k: height / 1080 }))
    for (const y of [490, 510, 525, 560, 590])
      for (const other of [small!, large!])
        expect(Math.abs(other.at(Math.round(900 * other.k), Math.round(y * other.k))[0] - usual!.at(900, y)[0]), `at ${y}`).toBeLessThan(8)
  })
})

describe('a gradient along the line', () => {
  it('has its colours at its lengths, and nothing between its steps', () => {
    const { at } = paint([ground('#000000'), inkItem({ colour: '#ff0000', gradient: ['#00ff00', '#0000ff'], width: 30 }, STRAIGHT)])
    // The line is 1500 long: at 375 half-way from red to green, at 750 green, at 1125 half-way to blue. Steps are 1/192 of it.
    for (const [s, colour] of [
      [375, [128, 128, 0]],
      [750, [0, 255, 0]],
      [1125, [0, 128, 128]],
    ] as const)
      // prettier-ignore
      colour.forEach((value, c) => expect(Math.abs(at(200 + s, 540)[c]! - value)).toBeLessThan(4))
    // No seam: light never drops along the middle or near an edge.
    for (const y of [540, 551])
      for (let x = 210; x < 1690; x++)
        expect(
          at(x, y).reduce((sum, value) => sum + value),
          `${x}`,
        ).toBeGreaterThan(245)
  })
})

describe('a line drawn by hand', () => {
  it.each(['pencil', 'brush', 'chalk'] as const)('with %s stands still while it grows', (hand) => {
    const at = (head: number) => paint([ground('#000000'), inkItem({ hand, width: 24, colour: '#ffffff' }, BENT, { head })]).pixels
    const [now, later] = [at(500), at(700)]
    // What was there away from the head is still there but for the rounding of its edges: the head is right of x = 800.
    let differing = 0
    for (let y = 300; y < 800; y++)
      for (let x = 480; x < 760; x++) if (Math.abs(now[4 * (1920 * y + x)]! - later[4 * (1920 * y + x)]!) > 12) differing++
    expect(differing).toBe(0)
  })

  it('is another line on another leg', () => {
    const of = (leg: string) => paint([ground('#000000'), inkItem({ hand: 'pencil', width: 24 }, BENT, { leg })]).pixels
    expect(Buffer.compare(of('a'), of('b'))).not.toBe(0)
  })
})

describe('painting only what has changed of a line', () => {
  const steps: readonly Partial<InkItem>[] = [
    { head: 300, front: 300 },
    { head: 420, front: 420, spark: 200, light: 0.7 },
    { head: 430, front: 430, phase: 12, spark: 260 },
    { head: 200, front: 200, tail: 60 },
    { head: BENT.length, front: BENT.length + 40, opacity: 0.4, leads: false },
    { head: BENT.length, front: Infinity },
  ]

  it.each(EVERY_INK)('gives the very pixels of painting all of it: %s', (_what, ink) => {
    const below = inkItem({ width: 6, colour: '#27406b' }, STRAIGHT, { leg: 'below' })
    const carriedOn = createPainter(createServerStudio('/nowhere'))
    const surface = createServerSurface(960, 540)
    const copy = new Uint8Array(960 * 540 * 4)
    for (const [i, fields] of steps.entries()) {
      const items = [ground('#dcd5c3'), below, inkItem(ink, BENT, { ...fields, spark: ink.glow?.spark ? (fields.spark ?? null) : null })]
      const frame = frameOf(items, 540)
      surface.update(copy, carriedOn.paint(frame, surface.context, frame.scale), true)
      expect(Buffer.compare(copy, paint(items, 540).pixels), `step ${i}`).toBe(0)
    }
  })

  it.each(EVERY_INK)('paints something under tilt, and nothing wild: %s', (name, ink) => {
    if (name === 'hidden') return
    const flat = paint([ground('#000000'), inkItem({ colour: '#ffffff', ...ink }, BENT)], 270)
    const tilted = paint([ground('#000000'), inkItem({ colour: '#ffffff', ...ink }, BENT)], 270, 40)
    const lit = ({ pixels }: { pixels: Uint8Array }) => pixels.reduce((sum, value, i) => (i % 4 === 3 ? sum : sum + value), 0)
    expect(lit(tilted)).toBeGreaterThan(0.4 * lit(flat))
    expect(lit(tilted)).toBeLessThan(1.5 * lit(flat))
  })
})

describe('a brush', () => {
  it('shows no slivers of the map but at its edges', () => {
    const width = 20
    const { pixels } = paint([ground('#ffffff'), inkItem({ width, hand: 'brush', colour: '#000000' }, STRAIGHT)], 2160)
    // It strays by a tenth of its width to either side, so that so much of it is always within it.
    const inner = 0.44 * (width / 2)
    let bare = 0
    for (let x = 500; x < 3300; x++)
      for (let y = Math.ceil(2 * (540 - inner)); y <= 2 * (540 + inner); y++) if (pixels[4 * (y * 3840 + x)]! > 128) bare++
    expect(bare).toBe(0)
  })
})

describe('dots', () => {
  it('are as large as asked where they are travelled, and never touch from further away', () => {
    const width = 12
    /** The runs of ink along the line, and of ground between them, in pixels, where the line is seen at so many times the zoom of its pattern. */
    const runs = (zoom: number) => {
      const item = { ...inkItem({ width, line: { kind: 'dotted', space: 13 } }, STRAIGHT), patternZoom: 1 / zoom }
      const { at } = paint([ground('#ffffff'), item])
      const dark = Array.from({ length: 1300 }, (_, i) => at(300 + i, 540)[1] < 128)
      const found: { isDark: boolean; length: number }[] = []
      for (const isDark of dark) {
        if (found.at(-1)?.isDark === isDark) found.at(-1)!.length++
        else found.push({ isDark, length: 1 })
      }
      const of = (isDark: boolean) => found.slice(1, -1).flatMap((run) => (run.isDark === isDark ? [run.length] : []))
      return { dots: of(true), gaps: of(false) }
    }
    const own = runs(1)
    expect(Math.max(...own.dots)).toBeGreaterThanOrEqual(width - 1)
    // Of 25 px from dot to dot at its own zoom there are 10 left: 12 px dots would lie on each other.
    const far = runs(0.4)
    expect(far.dots.length).toBeGreaterThan(2 * own.dots.length)
    expect(Math.min(...far.gaps)).toBeGreaterThanOrEqual(2)
    expect(Math.max(...far.dots)).toBeLessThan(9)
  })
})
