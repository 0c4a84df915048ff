/** The globe as it is painted: by squares, which must come out where the projection has each pixel. */
import { describe, expect, it } from 'vitest'
import { projectionOf } from '#core/camera/projection'
import type { View } from '#core/camera/view'
import { referenceSize } from '#core/camera/view'
import type { FrameItem } from '#core/frame/frame'
import { globeView } from '#core/shots/globe'
import { areaSchema, depthSchema, groundSchema } from '#core/journey/schema'
import { createPainter } from '#draw/painter'
import type { SheetPicture, Studio } from '#draw/studio'
import { createServerStudio, createServerSurface } from '#render/studio'
import { geoOfWorld, worldGlobe, worldSheet } from '../support/world'

const SIZE = { width: 960, height: 540 }
const reference = referenceSize(SIZE)
const scale = SIZE.height / 1080
const sheet = worldSheet()
const globe = worldGlobe()
const geo = geoOfWorld()

/** A map of the world on which red grows to the east and green to the south, and blue is everywhere. */
const SHOWN = { width: 1024, height: 724 }
function gradients(): SheetPicture {
  const { context, image } = createServerSurface(SHOWN.width, SHOWN.height)
  const pixels = context.createImageData(SHOWN.width, SHOWN.height)
  for (let y = 0; y < SHOWN.height; y++)
    for (let x = 0; x < SHOWN.width; x++)
      pixels.data.set([(255 * x) / SHOWN.width, (255 * y) / SHOWN.height, 255, 255], 4 * (y * SHOWN.width + x))
  context.putImageData(pixels, 0, 0)
  return { image, pixels: SHOWN, step: 4, x: 0, y: 0, width: 4096, height: 2896 }
}
const picture = gradients()
const studio: Studio = {
  ...createServerStudio('/nowhere'),
  bentPicture: () => picture,
}

const GROUND: FrameItem = { kind: 'ground', ground: groundSchema.parse({ colour: '#808000' }) }
const SHEET: FrameItem = { kind: 'sheet', sheet, opacity: 1, edge: 'plain', panel: null }
const air = (clouds: number): FrameItem => ({
  kind: 'air',
  sky: depthSchema.parse({ sky: { colour: '#000000', air: '#000000', clouds } }).sky,
  drift: 0,
})

function paint(view: View, items: FrameItem[]): (x: number, y: number) => Uint8Array {
  const surface = createServerSurface(SIZE.width, SIZE.height)
  createPainter(studio).paint(
    { time: 0, size: SIZE, scale, reference, view, isMoving: true, sun: null, items, motions: [] },
    surface.context,
    scale,
  )
  const pixels = Uint8Array.from(surface.pixels())
  return (x, y) => pixels.slice(4 * (y * SIZE.width + x), 4 * (y * SIZE.width + x) + 3)
}
const viewAbout = (lon: number, lat: number, aim: { bearing: number; pitch: number }, share: number, closer: number): View => {
  const whole = globeView(globe, { ...aim, fill: 1 }, geo.toGround({ lon, lat })!, reference)!
  return { ...whole, zoom: whole.zoom * closer, bend: { globe, share, spin: 0 } }
}

describe('a map on the globe', () => {
  it.each([
    ['whole', viewAbout(20, 30, { bearing: 0, pitch: 0 }, 1, 1)],
    ['turned and tilted', viewAbout(-60, -20, { bearing: 70, pitch: 40 }, 1, 1.4)],
    ['across the antimeridian', viewAbout(175, 10, { bearing: 0, pitch: 0 }, 1, 1)],
    ['half flattened', viewAbout(20, 30, { bearing: 10, pitch: 0 }, 0.5, 4)],
    ['nearly flat, tilted', viewAbout(20, 30, { bearing: -20, pitch: 50 }, 0.05, 8)],
  ])('has each place where it is pointed at: %s', (_, view) => {
    const at = paint(view, [GROUND, SHEET])
    const projection = projectionOf(view, reference)
    let looked = 0
    for (let y = 5; y < SIZE.height; y += 17) {
      for (let x = 5; x < SIZE.width; x += 17) {
        const place = { x: (x + 0.5) / scale, y: (y + 0.5) / scale }
        const ground = projection.bent!.inside(place) > 24 ? projection.toGround(place) : undefined
        if (!ground || Math.abs(geo.toLonLat(ground)!.lat) > 76 || Math.abs(ground.x - 2048) > 2030) continue
        const [red, green, blue] = at(x, y)
        looked++
        // A shade of red is 16 pixels of the map, one of green 11.
        expect(Math.abs(red! - (255 * ground.x) / 4096)).toBeLessThan(2.5)
        expect(Math.abs(green! - (255 * ground.y) / 2896)).toBeLessThan(2.5)
        expect(blue).toBe(255)
      }
    }
    expect(looked).toBeGreaterThan(300)
  })

  it('covers the globe up to the poles, and nothing else: the sky begins at its edge', () => {
    for (const lat of [75, -75]) {
      const view = viewAbout(40, lat, { bearing: 0, pitch: 0 }, 1, 1)
      const { inside } = projectionOf(view, reference).bent!
      const at = paint(view, [GROUND, SHEET, air(0)])
      for (let y = 2; y < SIZE.height; y += 7) {
        for (let x = 2; x < SIZE.width; x += 7) {
          const depth = inside({ x: (x + 0.5) / scale, y: (y + 0.5) / scale })
          // The map has blue everywhere, the ground under it has none; the sky is black.
          if (depth > 40) expect(at(x, y)[2]).toBeGreaterThan(100)
          if (depth < -2) expect([...at(x, y)]).toEqual([0, 0, 0])
        }
      }
    }
  })

  it('lies under clouds where there are any, the more the more there are; none when it is flat', () => {
    const white = (clouds: number, share: number) => {
      const at = paint(viewAbout(0, 0, { bearing: 0, pitch: 0 }, share, 1), [GROUND, SHEET, air(clouds)])
      let sum = 0
      for (let y = 100; y < 440; y += 9) for (let x = 310; x < 650; x += 9) sum += Math.min(...at(x, y))
      return sum
    }
    expect(white(0.5, 1)).toBeGreaterThan(white(0, 1))
    expect(white(1, 1)).toBeGreaterThan(white(0.5, 1))
    expect(Math.abs(white(1, 0.02) - white(0, 0.02))).toBeLessThan(white(0, 0.02) / 100)
  })
})

describe('an area on the globe', () => {
  it('ends at the globe’s edge where it goes on at the back', () => {
    const corners = ([[-60, -40], [170, -40], [170, 40], [-60, 40]] as const).map(([lon, lat]) => geo.toGround({ lon, lat })!) // prettier-ignore
    const area = areaSchema.parse({ id: 'a', name: '', rings: [corners.flatMap(({ x, y }) => [x, y])], fill: { colour: '#ff0000', opacity: 1 }, outline: { colour: '#ff0000', width: 0 } }) // prettier-ignore
    const view = viewAbout(0, 0, { bearing: 0, pitch: 0 }, 1, 1)
    const at = paint(view, [GROUND, { kind: 'area', area, opacity: 1 }])
    const { inside, groundBy } = projectionOf(view, reference).bent!
    for (let y = 3; y < SIZE.height; y += 11) {
      for (let x = 3; x < SIZE.width; x += 11) {
        const place = { x: (x + 0.5) / scale, y: (y + 0.5) / scale }
        if (Math.abs(inside(place)) < 12) continue
        const { lon, lat } = inside(place) > 0 ? geo.toLonLat(groundBy(place)!)! : { lon: 999, lat: 999 }
        if (Math.abs(lat - 40) < 3 || Math.abs(lat + 40) < 3 || Math.abs(lon + 60) < 3) continue
        const isIn = lon > -60 && lon < 170 && lat > -40 && lat < 40
        expect([...at(x, y)], `${x}, ${y}: ${lon}, ${lat}`).toEqual(isIn ? [255, 0, 0] : [128, 128, 0])
      }
    }
  })
})
