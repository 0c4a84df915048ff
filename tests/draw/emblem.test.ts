/** Emblems on vehicles: on the body and nowhere else, turned and moved with it, and never mirrored. */
import { describe, expect, it } from 'vitest'
import { resolveVehicle } from '#core/dress/vehicle'
import type { FrameItem } from '#core/frame/frame'
import { groundSchema, vehicleSchema } from '#core/journey/schema'
import { createPainter } from '#draw/painter'
import type { Studio } from '#draw/studio'
import { createServerStudio, createServerSurface } from '#render/studio'
import { colourAt } from '../support/pixels'

const reference = { width: 1920, height: 1080 }
const [WIDTH, HEIGHT] = [1920, 1080]
const view = { centre: { x: 960, y: 540 }, zoom: 1, bearing: 0, pitch: 0 }
const at = { x: 960, y: 540 }
const PICTURE = { image: '0'.repeat(64), width: 40, height: 20, vector: false }

/** A studio whose pictures are all red on the left and blue on the right. */
function studioWithPicture(): Studio {
  const { image, context } = createServerSurface(40, 20)
  context.fillStyle = '#ff0000'
  context.fillRect(0, 0, 20, 20)
  context.fillStyle = '#0000ff'
  context.fillRect(20, 0, 20, 20)
  const picture = { image, pixels: PICTURE, step: 1, x: 0, y: 0, width: 40, height: 20 }
  return { ...createServerStudio('/nowhere'), wholePicture: () => picture }
}

/** The colours of the frame at places from the vehicle's own, in reference pixels. */
function painted(artwork: string, emblem: object, { mirrored = false, rotation = 0 } = {}) {
  const vehicle = resolveVehicle(vehicleSchema.parse({ kind: 'catalogue', artwork, colour: '#00aa00', size: 400, emblem: { picture: PICTURE, ...emblem } })) // prettier-ignore
  const item: FrameItem = { kind: 'vehicle', leg: 'l', isGoing: false, at, vehicle, lies: false, rotation, mirrored, opacity: 1, altitude: 0, scale: 1, rise: 0, wheels: null } // prettier-ignore
  const surface = createServerSurface(WIDTH, HEIGHT)
  const items: FrameItem[] = [{ kind: 'ground', ground: groundSchema.parse({ colour: '#ffffff' }) }, item]
  const frame = {
    time: 0,
    size: { width: WIDTH, height: HEIGHT },
    scale: 1,
    reference,
    view,
    isMoving: false,
    sun: null,
    items,
    motions: [],
  }
  createPainter(studioWithPicture()).paint(frame, surface.context, 1)
  const pixels = surface.pixels()
  return (x: number, y: number) => colourAt({ width: WIDTH, pixels }, at.x + x, at.y + y)
}

const [RED, BLUE] = ['#ff0000', '#0000ff']

describe('an emblem', () => {
  // A coach is 400 long here; its side, below the windows, is about 60 to 90 above its foot. The emblem is 40 long and 20 high.
  const ON_SIDE = { x: 20, y: -18, size: 10 }

  it('is where it was put, as large as it was made', () => {
    const colour = painted('bus', ON_SIDE)
    expect([colour(80 - 15, -72), colour(80 + 15, -72)]).toEqual([RED, BLUE])
    expect([colour(80 - 24, -72), colour(80 + 24, -72)]).not.toContain(RED)
    expect(colour(80 - 15, -72 - 13)).not.toBe(RED)
  })

  it('goes to the other side with a vehicle that is mirrored, and stays the right way round', () => {
    const colour = painted('bus', ON_SIDE, { mirrored: true })
    expect([colour(-80 - 15, -72), colour(-80 + 15, -72)]).toEqual([RED, BLUE])
  })

  it('turns with it, and by itself', () => {
    const half = painted('car', { x: 0, y: 0, size: 10 }, { rotation: Math.PI })
    expect([half(-15, 0), half(15, 0)]).toEqual([BLUE, RED])
    const upright = painted('car', { x: 0, y: 0, size: 10, rotation: 90 })
    expect([upright(0, -15), upright(0, 15)]).toEqual([RED, BLUE])
  })

  it('is cut off where the body ends', () => {
    const colour = painted('car', { x: 0, y: 0, size: 100 })
    // The car is 400 long and 200 broad; a picture of 400 by 200 would cover its corners, too.
    expect([colour(-150, 0), colour(150, 30)]).toEqual([RED, BLUE])
    expect(colour(-199, -99)).toBe('#ffffff')
    expect(colour(199, 99)).toBe('#ffffff')
  })
})
