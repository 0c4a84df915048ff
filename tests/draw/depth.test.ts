/** Soft focus and haze, as they are painted. */
import { describe, expect, it } from 'vitest'
import { projectionOf } from '#core/camera/projection'
import { flatView, referenceSize } from '#core/camera/view'
import type { FrameItem } from '#core/frame/frame'
import { areaSchema, groundSchema } from '#core/journey/schema'
import { createPainter } from '#draw/painter'
import { createServerStudio, createServerSurface } from '#render/studio'

const SIZE = { width: 1280, height: 720 }
const reference = referenceSize(SIZE)
const view = { ...flatView({ x: 0, y: 0 }, 1), pitch: 50 }
const projection = projectionOf(view, reference)
const toGround = (row: number) => projection.toGround({ x: reference.width / 2, y: (row * 3) / 2 })!

/** A white stripe on black that runs straight away from the camera, 24 ground units wide. */
const WIDTH = 24
const ground: FrameItem[] = [
  { kind: 'ground', ground: groundSchema.parse({ colour: '#000000' }) },
  {
    kind: 'area',
    area: areaSchema.parse({
      id: 'a',
      name: '',
      rings: [[-WIDTH / 2, -3000, WIDTH / 2, -3000, WIDTH / 2, 900, -WIDTH / 2, 900]],
      fill: { colour: '#ffffff', opacity: 1 },
      outline: { colour: '#ffffff', width: 0 },
    }),
    opacity: 1,
  },
]

/** The brightness of the stripe's middle in a row of pixels. */
function paint(items: FrameItem[]): (row: number) => number {
  const surface = createServerSurface(SIZE.width, SIZE.height)
  const frame = { time: 0, size: SIZE, scale: SIZE.height / 1080, reference, view, isMoving: true, sun: null, items, motions: [] }
  createPainter(createServerStudio('/nowhere')).paint(frame, surface.context, frame.scale)
  const pixels = Uint8Array.from(surface.pixels())
  return (row) => pixels[4 * (row * SIZE.width + SIZE.width / 2)]!
}
const depth = (fields: Partial<Extract<FrameItem, { kind: 'depth' }>>): FrameItem => ({
  kind: 'depth',
  softFocus: null,
  haze: null,
  ...fields,
})
const FULL = { strength: 1, far: 1, near: 1, at: 1 }

describe('soft focus', () => {
  it('leaves what is in focus as it is, and softens what is further away and nearer, the more the further from it', () => {
    const soft = paint([...ground, depth({ softFocus: FULL })])
    expect(soft(360)).toBe(255)
    for (const [nearer, further] of [[330, 250], [250, 150], [150, 60], [420, 560], [560, 700]] as const) expect(soft(further)).toBeLessThan(soft(nearer)) // prettier-ignore
    // At full strength a box as wide as the stripe is in pixels, blurred by a Gaussian of 16 reference pixels: erf(w / (2 sqrt(2) sigma)),
    // with w = 24 · 2/3 · 0.605, sigma = 16 · 2/3: erf(0.321) = 0.350 (Abramowitz and Stegun, Handbook of Mathematical Functions, table 7.1).
    expect(projection.depthScale(toGround(4))).toBeCloseTo(0.605, 2)
    expect(soft(4) / 255).toBeGreaterThan(0.31)
    expect(soft(4) / 255).toBeLessThan(0.39)
  })

  it('is where it is asked for: at another distance, and on one side alone', () => {
    const at = toGround(150)
    const far = paint([...ground, depth({ softFocus: { ...FULL, at: 1 / projection.depthScale(at) } })])
    expect(far(150)).toBeGreaterThan(245)
    expect(far(360)).toBeLessThan(200)
    const behind = paint([...ground, depth({ softFocus: { ...FULL, near: 0 } })])
    expect(behind(700)).toBe(255)
    expect(behind(60)).toBeLessThan(130)
  })
})

describe('haze', () => {
  it('takes away what the law of Beer and Lambert says, and nothing before the middle', () => {
    const haze = paint([ground[0]!, depth({ haze: { colour: '#ffffff', strength: 1 } })])
    expect(haze(400)).toBe(0)
    // At the upper edge, by the formula in docs/architecture.md, f = 1.5 · 720 and 360 pixels above the middle: depth = f + Y sin 50°.
    const [sin, cos] = [Math.sin((50 * Math.PI) / 180), Math.cos((50 * Math.PI) / 180)]
    const beyond = (360 * sin) / (1080 * cos - 360 * sin)
    expect(haze(0)).toBeCloseTo(255 * (1 - Math.exp(-1.1 * beyond)), -1)
  })
})
