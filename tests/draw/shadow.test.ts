/** Shadows in the frame: where they lie, how dark they are, and that nothing has another one while there is no sun. */
import { describe, expect, it } from 'vitest'
import type { Sun } from '#core/camera/sun'
import { resolveVehicle } from '#core/dress/vehicle'
import type { FrameItem } from '#core/frame/frame'
import type { Pin } from '#core/journey/schema'
import { groundSchema, pinSchema, vehicleSchema } from '#core/journey/schema'
import { createPainter } from '#draw/painter'
import { createServerStudio, createServerSurface } from '#render/studio'

const reference = { width: 1920, height: 1080 }
const size = { width: 960, height: 540 }
const view = { centre: { x: 960, y: 540 }, zoom: 1, bearing: 0, pitch: 0 }
const sun: Sun = { bearing: -90, height: 45, softness: 0, strength: 0.5 }
const WHITE: FrameItem = { kind: 'ground', ground: groundSchema.parse({ colour: '#ffffff' }) }
const at = { x: 960, y: 540 }

function paintedIn(light: Sun | null, ...items: FrameItem[]) {
  const surface = createServerSurface(size.width, size.height)
  const frame = { time: 0, size, scale: 0.5, reference, view, isMoving: false, sun: light, items: [WHITE, ...items], motions: [] }
  createPainter(createServerStudio('/nowhere')).paint(frame, surface.context, 0.5)
  return surface.pixels()
}

const pinItem = (fields: Partial<Pin>): FrameItem => ({
  kind: 'pin',
  stop: 's',
  at,
  pin: pinSchema.parse({ size: 200, ...fields }),
  inside: '',
  circle: null,
  scale: 1,
  raised: 0,
  opacity: 1,
})

/** How dark a place of the frame is, in reference pixels from the pin's, 0 to 1. */
const darkAt = (pixels: Uint8Array, x: number, y: number) =>
  1 - pixels[4 * (Math.round((at.y + y) / 2) * size.width + Math.round((at.x + x) / 2)) + 1]! / 255

describe('a pin in the sun', () => {
  it('casts its shadow on the side away from it, as long as it is high where that stands at 45 degrees', () => {
    const pixels = paintedIn(sun, pinItem({ shape: 'tower' }))
    // From the left, so to the right: the tower is 200 high, its roof about 60 broad, and is not painted beyond 52 itself.
    expect(darkAt(pixels, 110, 0)).toBeGreaterThan(0.3)
    expect(darkAt(pixels, 180, 0)).toBeGreaterThan(0.3)
    expect(darkAt(pixels, 225, 0)).toBeLessThan(0.02)
    expect(darkAt(pixels, -110, 0)).toBe(0)
    // The colour of shadows, half over white: its green is 36, so that (255 - 36) / 255 / 2 is left of it.
    expect(darkAt(pixels, 130, 0)).toBeCloseTo((255 - 36) / 255 / 2, 1)
  })

  it('is as dark as it is told, or casts none', () => {
    const [usual, dark, none] = [undefined, 1, 0].map((shadow) =>
      paintedIn(sun, pinItem({ shape: 'tower', ...(shadow !== undefined && { shadow }) })),
    )
    expect(darkAt(dark!, 130, 0)).toBeCloseTo(2 * darkAt(usual!, 130, 0), 1)
    expect(darkAt(none!, 130, 0)).toBe(0)
  })

  it('that is raised casts it from where it is', () => {
    const pixels = paintedIn(sun, pinItem({ shape: 'disc', lift: 1, stem: false }))
    expect(darkAt(pixels, 60, 0)).toBeLessThan(0.05)
    expect(darkAt(pixels, 200, 0)).toBeGreaterThan(0.3)
  })

  it('without a sun has the small shadow at its foot, as dark as it is told', () => {
    const [usual, none] = [undefined, 0].map((shadow) =>
      paintedIn(null, pinItem({ shape: 'stake', ...(shadow !== undefined && { shadow }) })),
    )
    expect(darkAt(usual!, 32, 4)).toBeGreaterThan(0.15)
    expect(darkAt(none!, 32, 4)).toBe(0)
    expect(darkAt(usual!, 110, 0)).toBe(0)
  })
})

describe('vehicles in the sun', () => {
  const vehicleItem = (artwork: string, fields: object, altitude: number, lies: boolean): FrameItem => ({
    kind: 'vehicle',
    leg: 'l',
    isGoing: false,
    at,
    vehicle: resolveVehicle(vehicleSchema.parse({ kind: 'catalogue', artwork, size: 200, ...fields })),
    lies,
    rotation: 0,
    mirrored: false,
    opacity: 1,
    altitude,
    scale: 1,
    rise: 0,
    wheels: null,
  })

  it('cast one that goes away from them as they rise', () => {
    const low = paintedIn({ ...sun, bearing: 0 }, vehicleItem('car', {}, 0, true))
    // A car is 52 broad from side to side; its shadow lies below it.
    expect(darkAt(low, 0, 62)).toBeGreaterThan(0.1)
    expect(darkAt(low, 0, -62)).toBe(0)
    const high = paintedIn({ ...sun, bearing: 180 }, vehicleItem('car', {}, 1, true))
    expect(darkAt(high, 0, -110)).toBeGreaterThan(0.2)
  })

  it('that stand upright cast one from their foot, unless they are told not to', () => {
    const bus = (fields: object) => paintedIn({ ...sun, bearing: -45 }, vehicleItem('bus', fields, 0, false))
    expect(darkAt(bus({}), 70, 40)).toBeGreaterThan(0.2)
    expect(darkAt(bus({ shadow: 0 }), 70, 40)).toBe(0)
  })

  it('cast none on the ground without it', () => {
    const pixels = paintedIn(null, vehicleItem('bus', {}, 0, false))
    expect(darkAt(pixels, 70, 40)).toBe(0)
  })
})
