import type { Feature } from 'geojson'
import { describe, expect, it } from 'vitest'
import { ringsOnSheet } from '#core/maps/country-rings'
import { geoSheet } from '#core/geo/georeference'
import type { DrawnMap, Georeference } from '#core/journey/schema'
import { drawnMapSchema } from '#core/journey/schema'
import { layoutMap } from '#core/maps/layout'

const ALPS = { west: 4, south: 43, east: 18, north: 50 }
const map = (patch: Partial<DrawnMap> = {}): DrawnMap =>
  drawnMapSchema.parse({ region: ALPS, projection: 'conic', style: 'atlas', borders: true, graticule: true, aspect: 16 / 9, ...patch })

/** A square country, wound clockwise as d3-geo has it. */
const square = (west: number, south: number, east: number, north: number): Feature => ({
  type: 'Feature',
  properties: {},
  geometry: {
    type: 'Polygon',
    coordinates: [
      [
        [west, south],
        [west, north],
        [east, north],
        [east, south],
        [west, south],
      ],
    ],
  },
})
describe('a drawn map', () => {
  it.each(['mercator', 'equirectangular', 'conic', 'orthographic'] as const)(
    'shows all of its region, as large as fits, in its middle: %s',
    (projection) => {
      for (const aspect of [16 / 9, 9 / 16, 1]) {
        const { size, georeference } = layoutMap(map({ projection, aspect }))
        expect(size.width / size.height).toBeCloseTo(aspect, 2)
        expect(Math.max(size.width, size.height)).toBe(4096)
        const { toSheet } = geoSheet(georeference)
        const box = { left: Infinity, right: -Infinity, top: Infinity, bottom: -Infinity }
        for (let lon = ALPS.west; lon <= ALPS.east; lon += 0.5) {
          for (let lat = ALPS.south; lat <= ALPS.north; lat += 0.5) {
            const { x, y } = toSheet({ lon, lat })!
            box.left = Math.min(box.left, x)
            box.right = Math.max(box.right, x)
            box.top = Math.min(box.top, y)
            box.bottom = Math.max(box.bottom, y)
          }
        }
        expect(box.left).toBeGreaterThan(-6)
        expect(box.top).toBeGreaterThan(-6)
        expect(box.right).toBeLessThan(size.width + 6)
        expect(box.bottom).toBeLessThan(size.height + 6)
        const fills = Math.max((box.right - box.left) / size.width, (box.bottom - box.top) / size.height)
        expect(fills).toBeGreaterThan(0.99)
        expect(Math.abs(box.left + box.right - size.width)).toBeLessThan(12)
      }
    },
  )

  it('crosses the antimeridian where its region does', () => {
    const { size, georeference } = layoutMap(map({ region: { west: 160, south: -50, east: -160, north: -20 }, projection: 'mercator' }))
    const { toSheet } = geoSheet(georeference)
    expect(toSheet({ lon: 180, lat: -35 })!.x).toBeCloseTo(size.width / 2, 3)
    expect(toSheet({ lon: -170, lat: -35 })!.x).toBeGreaterThan(size.width / 2)
  })

  it.each([
    ['a conic map round the Earth', { region: { west: -170, south: 0, east: 170, north: 60 } }, /up to half the way round/],
    [
      'Mercator’s projection at the pole',
      { projection: 'mercator' as const, region: { west: 0, south: 85, east: 40, north: 90 } },
      /does not reach that near to a pole/,
    ],
  ])('is refused for %s', (_what, patch, message) => expect(() => layoutMap(map(patch))).toThrow(message))
})

describe('a lit country', () => {
  const country = square(10, 45, 12, 47)
  const size = { width: 1000, height: 600 }
  const near = (ring: readonly number[], x: number, y: number) => {
    for (let i = 0; i < ring.length; i += 2) if (Math.hypot(ring[i]! - x, ring[i + 1]! - y) < 1) return true
    return false
  }

  it.each<[string, Georeference]>([
    [
      'by a world file in degrees',
      { kind: 'affine', source: 'world-file', plane: { kind: 'degrees' }, matrix: [0.01, 0, 5, 0, -0.01, 49] },
    ],
    [
      'by tiles in Web Mercator',
      { kind: 'affine', source: 'mbtiles', plane: { kind: 'mercator' }, matrix: [1000, 0, 560000, 0, -1000, 6300000] },
    ],
    ['by having been drawn', layoutMap(map({ projection: 'orthographic' })).georeference],
  ])('has its corners where they lie on a sheet that is known %s', (_what, georeference) => {
    const rings = ringsOnSheet(country, georeference, { width: 4096, height: 2304 })
    expect(rings).toHaveLength(1)
    const { toSheet } = geoSheet(georeference)
    for (const [lon, lat] of [
      [10, 45],
      [10, 47],
      [12, 47],
      [12, 45],
    ] as const) {
      const { x, y } = toSheet({ lon, lat })!
      expect(near(rings[0]!, x, y)).toBe(true)
    }
  })

  it('is cut where the map is cut, and left out where it lies far off', () => {
    const world: Georeference = { kind: 'affine', source: 'world-file', plane: { kind: 'degrees' }, matrix: [0.36, 0, -180, 0, -0.3, 90] }
    const across = ringsOnSheet(square(170, 10, -170, 20), world, size)
    expect(across).toHaveLength(2)
    for (const ring of across) for (let i = 0; i < ring.length; i += 2) expect(ring[i]! < 30 || ring[i]! > 970).toBe(true)
    const alps: Georeference = { kind: 'affine', source: 'world-file', plane: { kind: 'degrees' }, matrix: [0.01, 0, 5, 0, -0.01, 49] }
    expect(ringsOnSheet(square(100, -40, 110, -30), alps, size)).toEqual([])
  })
})
