/** Lines with soft edges and feathered heads: by the convolution of a box with a Gaussian, and by what they do not touch. */
import { describe, expect, it } from 'vitest'
import { courseOf, polylineCourse } from '#core/geometry/course'
import type { FrameItem } from '#core/frame/frame'
import { lineCubic } from '#core/geometry/cubic'
import { groundSchema } from '#core/journey/schema'
import { createPainter } from '#draw/painter'
import { createServerStudio, createServerSurface } from '#render/studio'
import type { InkInput } from '../support/inks'
import { inkItem } from '../support/inks'

const reference = { width: 1920, height: 1080 }
const size = { width: 1920, height: 1080 }
const BLACK: FrameItem = { kind: 'ground', ground: groundSchema.parse({ colour: '#000000' }) }
const straight = courseOf([lineCubic({ x: 300, y: 540 }, { x: 1600, y: 540 })])

function painted(ink: InkInput, fields: object = {}, course = straight, pitch = 0) {
  const surface = createServerSurface(size.width, size.height)
  const view = { centre: { x: 960, y: 540 }, zoom: 1, bearing: 0, pitch }
  const items = [BLACK, inkItem({ colour: '#ffffff', ...ink }, course, fields)]
  createPainter(createServerStudio('/nowhere')).paint({ time: 0, size, scale: 1, reference, view, isMoving: false, sun: null, items, motions: [] }, surface.context, 1) // prettier-ignore
  const pixels = surface.pixels()
  return (x: number, y: number) => pixels[4 * (Math.round(y) * size.width + Math.round(x)) + 1]! / 255
}

/** The normal distribution's integral. Source: Abramowitz and Stegun, Handbook of Mathematical Functions, table 26.1: 0.5, 0.8413, 0.9772, 0.9987. */
const PHI = [0.5, 0.8413, 0.9772, 0.9987]

describe('soft edges', () => {
  it('fall off as a box that is blurred by a Gaussian', () => {
    const sigma = 16
    const light = painted({ width: 6 * sigma, soft: sigma })
    // At the edge of a broad line half of it, and 1 and 2 standard deviations inside and outside what the table says.
    const edge = 540 + 3 * sigma
    for (const k of [0, 1, 2]) {
      expect(light(960, edge - k * sigma)).toBeCloseTo(PHI[k]!, 1)
      expect(light(960, edge + k * sigma)).toBeCloseTo(1 - PHI[k]!, 1)
    }
    expect(light(960, 540)).toBeGreaterThan(0.98)
    expect(light(960, edge + 3.4 * sigma)).toBe(0)
  })

  it('are those of dots, casings and gradients, too, in their colours', () => {
    const dots = painted({ width: 40, soft: 8, line: { kind: 'dotted', space: 60 } })
    expect(dots(300, 540)).toBeGreaterThan(0.8)
    expect(dots(350, 540)).toBeLessThan(0.05)
    const cased = painted({ width: 30, soft: 6, colour: '#000000', casing: { colour: '#ffffff', width: 20 } })
    expect(cased(960, 540)).toBeLessThan(0.1)
    expect(cased(960, 565)).toBeGreaterThan(0.7)
    const coloured = painted({ width: 40, soft: 6, gradient: ['#000000'] })
    expect(coloured(400, 540)).toBeGreaterThan(coloured(1200, 540) + 0.3)
  })
})

describe('a feathered head', () => {
  it('fades evenly over its length, and is whole before it', () => {
    const light = painted({ width: 30, feather: 400 }, { head: 800 })
    // The head is at 1100; the stretch begins 400 before it.
    expect(light(690, 540)).toBeGreaterThan(0.95)
    for (const share of [0.25, 0.5, 0.75]) expect(light(700 + 400 * share, 540)).toBeCloseTo(1 - share, 1)
    expect(light(1098, 540)).toBeLessThan(0.05)
    expect(light(1110, 540)).toBe(0)
  })

  it('takes casing, shadow and glow with it', () => {
    const light = painted(
      { width: 20, feather: 400, casing: { colour: '#ffffff', width: 10 }, glow: { colour: '#ffffff', radius: 60 } },
      { head: 800 },
    )
    expect(light(900, 558)).toBeCloseTo(0.5, 0)
    expect(light(700, 590)).toBeGreaterThan(2 * light(1050, 590))
  })

  it('becomes sharp as it comes to its stop, so that nothing changes when it is there', () => {
    const whole = painted({ width: 30, feather: 400 }, { head: straight.length })
    expect(whole(1598, 540)).toBe(1)
    const near = painted({ width: 30, feather: 400 }, { head: straight.length - 20 })
    expect(near(1558, 540)).toBeGreaterThan(0.95)
    expect(near(1578, 540)).toBeLessThan(0.2)
  })

  it('leaves alone what it crosses of its own line', () => {
    // A loop: along, round, and back across its own start.
    const loop = polylineCourse(Float64Array.from([400, 540, 1200, 540, 1200, 800, 800, 800, 800, 300, 800, 100]))
    const light = painted({ width: 30, feather: 200 }, { head: 800 + 260 + 400 + 300 }, loop)
    // The head stands 40 beyond the crossing at 800, 540: there its own ink is nearly gone, and the line below it is whole.
    expect(light(800, 540)).toBeGreaterThan(0.95)
    expect(light(760, 540)).toBe(1)
    expect(light(840, 540)).toBe(1)
  })
})

describe('light and shadow of a line that goes away from a tilted camera', () => {
  it('have no knots where it passes from one band of distance to the next', () => {
    const away = courseOf([lineCubic({ x: 960, y: 1000 }, { x: 960, y: -1400 })])
    const light = painted({ width: 20, soft: 12 }, {}, away, 55)
    const along = Array.from({ length: 620 }, (_, i) => light(960, 860 - i))
    // Blurred by less in each band further away, it is a little brighter there; where caps were counted twice it was by 0.11.
    for (let i = 6; i < along.length; i++) expect(along[i]! - along[i - 6]!, `row ${860 - i}`).toBeLessThan(0.075)
  })
})
