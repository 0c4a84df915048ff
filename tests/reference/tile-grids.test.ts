/**
 * Grids of tiles against the OGC's standard of tile matrix sets (17-083r4, annex D), numbers of tiles against the formula that services share, and WMTS
 * capabilities written after the examples of the standard (07-057r7).
 */
import { describe, expect, it } from 'vitest'
import { resolutionOf, webMercatorGrid } from '#core/tiles/grids'
import { planSheet, serviceTilesOf } from '#core/tiles/sheet-plan'
import { tileAddressOf } from '#core/tiles/template'
import { readCapabilities } from '#core/tiles/wmts'
import { KEY_VALUE_PAIRS, MIXED, RESOURCES } from '../support/capabilities'

/** WebMercatorQuad, table D.1: level, scale denominator, metres to the pixel. Written down from memory of the table. */
const WEB_MERCATOR_QUAD = [
  [0, 559082264.028717, 156543.033928041],
  [1, 279541132.014358, 78271.5169640204],
  [2, 139770566.007179, 39135.7584820102],
  [8, 2183915.09386217, 611.49622628141],
  [12, 136494.693366386, 38.2185141425881],
  [16, 8530.91833539913, 2.38865713391176],
  [19, 1066.36479192489, 0.29858214173897],
] as const

describe('the grid WebMercatorQuad', () => {
  const grid = webMercatorGrid(256)
  it.each(WEB_MERCATOR_QUAD)('has the scale of the standard at level %i', (level, scale, metres) => {
    expect(resolutionOf(grid, level) / metres).toBeCloseTo(1, 9)
    // A pixel of 0.28 mm.
    expect(resolutionOf(grid, level) / 0.00028 / scale).toBeCloseTo(1, 9)
    expect(grid.levels[level]).toEqual({ id: String(level), columns: 2 ** level, rows: 2 ** level })
  })
  it('begins at the upper left corner of the standard', () => {
    expect(grid.left).toBeCloseTo(-20037508.3427892, 6)
    expect(grid.top).toBeCloseTo(20037508.3427892, 6)
  })

  it.each([
    [13.3777, 52.5163, 15],
    [-43.2105, -22.9519, 12],
    [179.99, 66.3, 9],
    [84.259, -38.452, 16],
  ])('has the place %f, %f in the tile that the usual formula gives at level %i', (lon, lat, level) => {
    // n = 2 ** z; x = n (lon + 180) / 360; y = n (1 - ln(tan(lat) + sec(lat)) / pi) / 2. Common practice of tile services, no standard.
    const n = 2 ** level
    const phi = (lat * Math.PI) / 180
    const column = Math.floor((n * (lon + 180)) / 360)
    const row = Math.floor((n * (1 - Math.log(Math.tan(phi) + 1 / Math.cos(phi)) / Math.PI)) / 2)
    const dot = { west: lon - 1e-9, east: lon + 1e-9, south: lat - 1e-9, north: lat + 1e-9 }
    const plan = planSheet(grid, dot, level)
    expect(serviceTilesOf(grid, plan, [[[0, 0, 0]]])).toContainEqual({ level, column, row })
  })
})

describe('WMTS capabilities', () => {
  it('with resource addresses: styles, a dimension, and the levels of the grid', () => {
    const { maps, credit, terms, unusable } = readCapabilities(RESOURCES)
    expect(maps.map(({ title }) => title)).toEqual(['Relief · Plain', 'Relief · Tinted'])
    const { service } = maps[0]!
    expect(tileAddressOf(service.address, service.grid, { level: 1, column: 1, row: 3 })).toBe(
      'https://maps.example/wmts/relief/plain/2024-05/quad/L02/3/1.png',
    )
    expect(service.grid).toMatchObject({
      plane: 'mercator',
      side: 256,
      levels: [{ id: 'L01' }, { id: 'L02', columns: 4, rows: 4 }],
    })
    // The layer has no tiles at the first level.
    expect(service.grid.resolution).toBeCloseTo(78271.5169640204, 6)
    expect(service.covers).toEqual({ west: 5.9, south: 45.8, east: 10.5, north: 47.9 })
    expect(credit).toMatchObject({ title: 'A survey', author: 'Office of maps', source: 'https://maps.example' })
    expect(terms).toBe('Access: Only with a credit')
    expect(unusable).toEqual([])
  })

  it('with key-value pairs, in degrees with the latitude first', () => {
    const { maps } = readCapabilities(KEY_VALUE_PAIRS)
    const { service } = maps[0]!
    expect(service.grid).toMatchObject({ plane: 'degrees', left: -180, top: 90, side: 512 })
    // The scale of level 0 of WorldCRS84Quad with tiles of 512 pixels: 180 degrees to 512 pixels.
    expect(service.grid.resolution).toBeCloseTo(180 / 512, 9)
    const address = new URL(tileAddressOf(service.address, service.grid, { level: 1, column: 3, row: 0 }))
    expect(address.origin + address.pathname).toBe('https://maps.example/cgi')
    expect(Object.fromEntries(address.searchParams)).toEqual({
      map: 'sea', SERVICE: 'WMTS', REQUEST: 'GetTile', VERSION: '1.0.0', LAYER: 'depths & reefs', STYLE: 'default', FORMAT: 'image/jpeg',
      TILEMATRIXSET: 'degrees', TILEMATRIX: 'EPSG:4326:1', TILEROW: '0', TILECOL: '3',
    }) // prettier-ignore
  })

  it('of a service with much that cannot be used: what can is offered, the rest is told', () => {
    const { maps, unusable } = readCapabilities(MIXED)
    expect(maps.map(({ title }) => title)).toEqual(['Roads'])
    expect(unusable).toHaveLength(4)
    expect(unusable[0]).toContain('EPSG::2056')
    expect(unusable[1]).toContain('not each twice as fine')
    expect(unusable[2]).toContain('application/vnd.mapbox-vector-tile')
    expect(unusable[3]).toContain('names no levels')
    // Of levels of which only some are halves of those before, the longest run is used.
    expect(maps[0]!.service.grid.levels.map(({ id }) => id)).toEqual(['1', '2', '3'])
  })
})
