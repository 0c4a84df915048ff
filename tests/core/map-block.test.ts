import fc from 'fast-check'
import { describe, expect, it } from 'vitest'
import { geodesicDistance } from '#core/geo/geodesic'
import { geoSheet } from '#core/geo/georeference'
import { drawnMapSchema } from '#core/journey/schema'
import { layoutMap } from '#core/maps/layout'
import { planBlock } from '#core/maps/map-block'
import { rasterOf } from '#core/maps/map-raster'

const MAPS = [
  ['mercator', { west: -30, south: -20, east: 40, north: 60 }],
  ['equirectangular', { west: -180, south: -60, east: 180, north: 80 }],
  ['conic', { west: 160, south: -50, east: -170, north: -30 }],
  ['orthographic', { west: -40, south: 20, east: 60, north: 70 }],
] as const

describe.each(MAPS)('a block of a map: %s', (projection, region) => {
  const layout = layoutMap(drawnMapSchema.parse({ region, projection, style: 'atlas', borders: true, graticule: false, aspect: 16 / 9 }))
  const sheet = geoSheet(layout.georeference)
  const blocks = fc.record({
    left: fc.integer({ min: 0, max: 3 }).map((i) => 1024 * i),
    top: fc.integer({ min: 0, max: 1 }).map((i) => 1024 * i),
    step: fc.constantFrom(0.25, 1, 2),
    width: fc.constant(512),
    height: fc.constant(512),
  })

  it('has places where the sheet’s georeference has them', () => {
    fc.assert(
      fc.property(blocks, fc.double({ min: 0, max: 1, noNaN: true }), fc.double({ min: 0, max: 1, noNaN: true }), (block, u, v) => {
        const plan = planBlock(layout, block)
        const p = { x: u * 512, y: v * 512 }
        const at = plan.toLonLat(p)
        const expected = sheet.toLonLat({ x: block.left + p.x * block.step, y: block.top + p.y * block.step })
        if (!at || !expected) return void expect(at).toBe(expected)
        expect(geodesicDistance(at, expected)).toBeLessThan(1)
        const back = plan.toPixels(at.lon, at.lat)
        // Longitudes that go on beyond 180 lie a whole turn away.
        const turned = [-360, 0, 360].map((turn) => plan.toPixels(at.lon + turn, at.lat))
        expect(Math.min(...[back, ...turned].map(({ x, y }) => Math.hypot(x - p.x, y - p.y)))).toBeLessThan(0.01)
        if (plan.bounds) {
          const { south, north } = plan.bounds
          expect(at.lat).toBeGreaterThan(south)
          expect(at.lat).toBeLessThan(north)
        }
      }),
    )
  })

  it('has the same metres to a pixel all over the map: those in its middle', () => {
    const [a, b] = [planBlock(layout, { left: 0, top: 0, step: 2, width: 512, height: 512 }), planBlock(layout, { left: 3072, top: 1024, step: 2, width: 512, height: 512 })] // prettier-ignore
    expect(a.metres).toBeCloseTo(b.metres, 3)
    const { width, height } = layout.size
    const beside = [sheet.toLonLat({ x: width / 2, y: height / 2 })!, sheet.toLonLat({ x: width / 2 + 2, y: height / 2 })!] as const
    expect(a.metres / geodesicDistance(...beside)).toBeCloseTo(1, 3)
  })

  it('has rasters whose pixels are where they stand, to a tenth of a pixel of the block', () => {
    const plan = planBlock(layout, { left: 1024, top: 512, step: 2, width: 301, height: 203 })
    let seen = 0
    const { width, height, pixels } = rasterOf(plan, 2, ({ lon, lat }, out, i) => {
      const [x, y] = [(i / 4) % 157, Math.floor(i / 4 / 157)]
      // Three more on each side.
      const expected = plan.toLonLat({ x: 2 * (x - 3 + 0.5), y: 2 * (y - 3 + 0.5) })!
      // Between two places that are worked out they are interpolated.
      expect(geodesicDistance({ lon, lat }, expected)).toBeLessThan(0.1 * plan.metres)
      out[i + 3] = 255
      seen++
    })
    expect([width, height]).toEqual([157, 108])
    expect(seen).toBe(pixels.filter((alpha, i) => i % 4 === 3 && alpha === 255).length)
    expect(seen).toBeGreaterThan(0.5 * 157 * 108)
  })
})
