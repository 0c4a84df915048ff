import { describe, expect, it } from 'vitest'
import { referenceSize } from '#core/camera/view'
import { centreSharpness } from '#core/frame/centre-sharpness'
import { compile } from '#core/frame/compile'
import { frameAt } from '#core/frame/frame-at'
import { createJourney } from '#core/journey/create'
import type { MapStyle } from '#core/journey/schema'
import { drawnMapSchema, sheetSchema } from '#core/journey/schema'
import { layoutMap } from '#core/maps/layout'
import { hasOneScale, roundLength } from '#core/maps/scale-bar'
import { creditOfMap } from '#core/sheet/credits'
import { fillingView } from '#core/sheet/framing'
import { drawnAt, penScale } from '#core/sheet/pen'

const worldOf = (style: MapStyle, towns = false) =>
  drawnMapSchema.parse({ region: { west: -180, south: -90, east: 180, north: 90 }, projection: 'equirectangular', style, borders: true, graticule: false, towns, aspect: 2 }) // prettier-ignore

function sheetOf(style: MapStyle) {
  const drawn = worldOf(style)
  const { size, georeference } = layoutMap(drawn)
  return sheetSchema.parse({ id: 'm', name: 'World', image: 'a'.repeat(64), ...size, vector: true, georeference, drawn })
}

/** Pixels of the map for each of the film, at so many times the zoom at which its height fills the frame. */
function sharpnessAt(style: MapStyle, closer: number) {
  const sheet = sheetOf(style)
  const empty = { ...createJourney('World', { width: 1920, height: 960, rate: '30/1' }, 5), sheets: [sheet] }
  const view = fillingView(sheet, referenceSize(empty.frame))
  return centreSharpness(frameAt(compile({ ...empty, camera: { ...view, zoom: view.zoom * closer } }), 1))
}

describe('how sharp a generated map is', () => {
  it('is without end where it is drawn anew for each zoom', () => expect(sharpnessAt('atlas', 50)).toBe(Infinity))

  it.each(['day', 'night'] as const)('is that of its imagery, 4096 pixels round the Earth, where it shows that: %s', (style) => {
    // The whole Earth on 1920 pixels.
    expect(sharpnessAt(style, 1)).toBeCloseTo(4096 / 1920, 1)
    expect(sharpnessAt(style, 8)).toBeCloseTo(4096 / 1920 / 8, 2)
  })
})

describe('whom a generated map is by', () => {
  it('are those whose data it shows, with the licences that ask to be named', () => {
    expect(creditOfMap(worldOf('relief'))).toMatchObject({
      author: '© OpenStreetMap contributors, Natural Earth, NASA',
      licence: 'ODbL, public domain',
    })
    expect(creditOfMap(worldOf('day'))).toMatchObject({ author: 'Natural Earth, NASA', licence: 'public domain' })
    expect(creditOfMap(worldOf('night', true))).toMatchObject({
      author: 'Natural Earth, NASA, GeoNames',
      licence: 'CC BY 4.0, public domain',
    })
  })
})

describe('a scale', () => {
  it.each([
    [260_000, 200_000, '200 km'],
    [99_999, 50_000, '50 km'],
    [1000, 1000, '1 km'],
    [730, 500, '500 m'],
    [12, 10, '10 m'],
  ])('of at most %i m is %i m long, a round length', (most, metres, name) => expect(roundLength(most)).toEqual({ metres, name }))

  it('is none of more than a continent', () => {
    expect(hasOneScale(worldOf('atlas'))).toBe(false)
    expect(hasOneScale({ region: { west: 170, south: -40, east: -170, north: -20 } })).toBe(true)
  })
})

describe('the pen of a generated map', () => {
  it('follows the size of the frame to within a tenth, and is one object for one pen', () => {
    const sheet = sheetOf('ink')
    for (let scale = 0.05; scale < 4; scale *= 1.07) {
      const { pen } = drawnAt(sheet, scale)
      expect(Math.abs(penScale(pen!) / scale - 1)).toBeLessThan(0.1)
    }
    expect(drawnAt(sheet, 1)).toBe(drawnAt(sheet, 1.01))
    expect(drawnAt(sheet, 1)).not.toBe(drawnAt(sheet, 2))
    const other = { ...sheet, drawn: null }
    expect(drawnAt(other, 2)).toBe(other)
  })
})
