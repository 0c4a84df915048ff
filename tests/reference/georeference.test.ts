/** Fits, projections and world files against published worked examples and other libraries. */
import fc from 'fast-check'
import { geoConicConformal, geoEquirectangular, geoMercator, geoOrthographic } from 'd3-geo'
import proj4 from 'proj4'
import { describe, expect, it } from 'vitest'
import { georeferenceIn, planeOfPrj, readingOfWorldFile } from '#core/formats/world-file-georeference'
import type { Match } from '#core/geo/fit'
import { fit } from '#core/geo/fit'
import { geodesicDistance } from '#core/geo/geodesic'
import { geoCorners, geoSheet } from '#core/geo/georeference'
import { worldFileOf } from '#core/formats/world-file-georeference'
import { transformed } from '#core/geo/homography'
import type { LonLat } from '#core/geo/lon-lat'
import { planeMap, webMercator } from '#core/geo/plane'
import { regionsShownBy } from '#core/geo/shown-region'
import { matrixOfWorldFile, readWorldFile, worldFileOfMatrix, writeWorldFile } from '#core/formats/world-file'
import { JourneyError } from '#core/error'
import type { Georeference, Plane } from '#core/journey/schema'
import { planeSchema } from '#core/journey/schema'

const matches = (rows: readonly (readonly [number, number, number, number])[]): Match[] =>
  rows.map(([x, y, toX, toY]) => ({ from: { x, y }, to: { x: toX, y: toY } }))

describe('fits by least squares, against C. D. Ghilani, Adjustment Computations, chapter on coordinate transformations (numbers from memory)', () => {
  it('agrees with the two-dimensional conformal example: parameters and residuals', () => {
    const points = matches([
      [121.622, -128.066, 1049422.4, 51089.2],
      [141.228, 187.718, 1049413.95, 49659.3],
      [175.802, 135.728, 1049244.95, 49884.95],
    ])
    const map = fit('similarity', points)
    expect(map[0]).toBeCloseTo(-4.51249, 5)
    expect(map[3]).toBeCloseTo(-0.25371, 5)
    expect(map[2]).toBeCloseTo(1050003.715, 3)
    expect(map[5]).toBeCloseTo(50542.131, 3)
    const residuals = points.map(({ from, to }) => transformed(map, from)!.x - to.x)
    expect(residuals[0]).toBeCloseTo(0.004, 3)
    expect(residuals[1]).toBeCloseTo(0.101, 3)
    expect(residuals[2]).toBeCloseTo(-0.105, 3)
  })

  it('agrees with the two-dimensional projective example', () => {
    const map = fit(
      'projective',
      matches([
        [90, 90, 1420.407, 895.362],
        [50, 40, 895.887, 351.398],
        [-30, 20, -944.926, 641.434],
        [50, -40, 968.084, -1384.138],
        [110, -80, 1993.262, -2367.511],
        [-100, 80, -3382.284, 3487.762],
      ]),
    )
    const [a1, b1, c1, a2, b2, c2, a3, b3, one] = map
    expect(one).toBe(1)
    expect([a1, b1, c1].map((v) => v.toFixed(3))).toEqual(['25.003', '0.801', '-134.715'])
    expect([a2, b2, c2].map((v) => v.toFixed(3))).toEqual(['-8.008', '24.998', '-149.815'])
    expect([a3, b3].map((v) => v.toFixed(4))).toEqual(['0.0040', '0.0020'])
  })

  it('is the best there is: for affine fits the residuals are at right angles to the design (normal equations)', () => {
    const coordinate = fc.double({ min: -1000, max: 1000, noNaN: true })
    fc.assert(
      fc.property(fc.array(fc.tuple(coordinate, coordinate, coordinate, coordinate), { minLength: 4, maxLength: 9 }), (rows) => {
        const points = matches([...rows, [0, 0, 1, 1], [900, 0, 5, 2], [0, 900, 3, 8]])
        const map = fit('affine', points)
        for (const axis of ['x', 'y'] as const) {
          const residuals = points.map(({ from, to }) => to[axis] - transformed(map, from)![axis])
          const against = (f: (match: Match) => number) => residuals.reduce((sum, r, i) => sum + r * f(points[i]!), 0)
          expect(Math.abs(against(() => 1))).toBeLessThan(1e-6)
          expect(Math.abs(against(({ from }) => from.x / 1000))).toBeLessThan(1e-6)
          expect(Math.abs(against(({ from }) => from.y / 1000))).toBeLessThan(1e-6)
        }
      }),
    )
  })

  it('finds a map that the points follow exactly, of each kind', () => {
    const true3 = [1.2, 0.3, 40, -0.25, 0.9, -7, 2e-4, -1e-4, 1] as const
    const spots = [
      [0, 0],
      [800, 20],
      [760, 600],
      [30, 580],
      [400, 300],
    ] as const
    for (const kind of ['similarity', 'affine', 'projective'] as const) {
      const given =
        kind === 'projective'
          ? true3
          : kind === 'affine'
            ? ([...true3.slice(0, 6), 0, 0, 1] as unknown as typeof true3)
            : ([2, -1, 30, 1, 2, 8, 0, 0, 1] as const)
      const exact = spots.map(([x, y]): Match => ({ from: { x, y }, to: transformed(given, { x, y })! }))
      fit(kind, exact).forEach((v, i) => expect(v).toBeCloseTo(given[i]!, 7))
    }
  })

  it.each<[string, readonly (readonly [number, number, number, number])[], RegExp]>([
    ['one point', [[0, 0, 1, 1]], /1 control points are too few/],
    [
      'two points on one spot',
      [
        [5, 5, 1, 1],
        [5, 5, 9, 9],
      ],
      /lie on one spot/,
    ],
    [
      'three collinear points',
      [
        [0, 0, 0, 0],
        [10, 10, 1, 1],
        [20, 20, 2, 2.5],
      ],
      /lie on one line/,
    ],
    [
      'four points, three of them collinear',
      [
        [0, 0, 0, 0],
        [10, 0, 1, 0],
        [20, 0, 2, 0],
        [5, 9, 0.5, 1],
      ],
      /three on a line/,
    ],
    [
      'four corners in a twisted order',
      [
        [0, 0, 0, 0],
        [10, 0, 10, 0],
        [10, 10, 0, 10],
        [0, 10, 10, 10],
      ],
      /contradict each other/,
    ],
  ])('refuses %s with a sentence', (_what, rows, message) => {
    const kind = (['similarity', 'similarity', 'affine', 'projective'] as const)[rows.length - 1]!
    expect(() => fit(kind, matches(rows))).toThrow(message)
  })
})

describe('planes', () => {
  it('agree with the worked example of IOGP Guidance Note 373-7-2, Popular Visualisation Pseudo Mercator', () => {
    const at = { lon: -(100 + 20 / 60), lat: 24 + 22 / 60 + 54.433 / 3600 }
    const p = webMercator.forward(at)!
    expect(p.x).toBeCloseTo(-11169055.58, 2)
    expect(p.y).toBeCloseTo(2800000, 2)
    const back = webMercator.inverse({ x: -11169055.58, y: 2800000 })!
    expect(back.lon).toBeCloseTo(at.lon, 7)
    expect(back.lat).toBeCloseTo(at.lat, 7)
  })

  it('agree with proj4 on Web Mercator and UTM', () => {
    const places: LonLat[] = [
      { lon: 9.2, lat: 47.6 },
      { lon: 12.9, lat: -33.4 },
      { lon: 7.1, lat: 0.2 },
    ]
    for (const at of places) {
      const [x, y] = proj4('EPSG:3857', [at.lon, at.lat])
      expect(webMercator.forward(at)!.x).toBeCloseTo(x!, 4)
      expect(webMercator.forward(at)!.y).toBeCloseTo(y!, 4)
      const utm = planeMap({ kind: 'utm', zone: 32, south: at.lat < 0 }).forward(at)!
      const [e, n] = proj4(`+proj=utm +zone=32 ${at.lat < 0 ? '+south' : ''} +datum=WGS84`, [at.lon, at.lat])
      expect([utm.x, utm.y]).toEqual([e, n])
    }
  })

  it.each(['mercator', 'equirectangular', 'conic', 'orthographic'] as const)(
    'agree with d3-geo’s own projection and with proj4 on the sphere: %s',
    (projection) => {
      const plane = planeSchema.parse({ kind: 'drawn', projection, lon: 10, lat: 50, parallels: [43, 62] })
      const { forward } = planeMap(plane)
      const reference = {
        mercator: geoMercator().rotate([-10, 0]),
        equirectangular: geoEquirectangular().rotate([-10, 0]),
        conic: geoConicConformal().rotate([-10, 0]).parallels([43, 62]),
        orthographic: geoOrthographic().rotate([-10, -50]),
      }[projection]
        .scale(1)
        .translate([0, 0])
      const definition = {
        mercator: '+proj=merc +lon_0=10',
        equirectangular: '+proj=eqc +lon_0=10',
        conic: '+proj=lcc +lat_1=43 +lat_2=62 +lat_0=0 +lon_0=10',
        orthographic: '+proj=ortho +lat_0=50 +lon_0=10',
      }[projection]
      const other = proj4(`${definition} +R=1 +units=m`)
      const offsets = [-20, -3.5, 0, 17.25].flatMap((lon) =>
        [31, 48.5, 66].map((lat) => {
          const p = forward({ lon, lat })!
          const [x, y] = reference([lon, lat])!
          expect(p.x).toBeCloseTo(x, 12)
          expect(p.y).toBeCloseTo(y, 12)
          const [px, py] = other.forward([lon, lat])
          expect(p.x).toBeCloseTo(px!, 9)
          return p.y + py!
        }),
      )
      // The y axes point opposite ways, and conic maps may differ in where they begin.
      for (const offset of offsets) expect(offset).toBeCloseTo(offsets[0]!, 9)
    },
  )

  const PLANES: Plane[] = [
    { kind: 'degrees' },
    { kind: 'mercator' },
    { kind: 'utm', zone: 33, south: false },
    ...(['mercator', 'equirectangular', 'conic', 'orthographic'] as const).map((projection): Plane => ({
      kind: 'drawn',
      projection,
      lon: 15,
      lat: 45,
      parallels: [40, 55],
    })),
  ]
  it.each(PLANES)('lead to a sheet and back to within 1e-9 degrees: $kind $projection', (plane) => {
    const scale = plane.kind === 'degrees' ? 0.01 : plane.kind === 'drawn' ? 1e-4 : 500
    const origin = planeMap(plane).forward({ lon: 15, lat: 45 })!
    const matrix: [number, number, number, number, number, number] = [scale, 0, origin.x - 2000 * scale, 0, -scale, origin.y + 1000 * scale]
    const { toSheet, toLonLat } = geoSheet({ kind: 'affine', source: 'drawn', plane, matrix })
    fc.assert(
      fc.property(fc.double({ min: 11, max: 19, noNaN: true }), fc.double({ min: 40, max: 50, noNaN: true }), (lon, lat) => {
        const back = toLonLat(toSheet({ lon, lat })!)!
        expect(Math.abs(back.lon - lon)).toBeLessThan(1e-9)
        expect(Math.abs(back.lat - lat)).toBeLessThan(1e-9)
      }),
    )
  })

  it('say where they show nothing', () => {
    const globe = planeMap({ kind: 'drawn', projection: 'orthographic', lon: 0, lat: 0, parallels: [30, 60] })
    expect(globe.forward({ lon: 120, lat: 0 })).toBeUndefined()
    expect(globe.inverse({ x: 1.2, y: 0 })).toBeUndefined()
    expect(webMercator.forward({ lon: 0, lat: 90 })).toBeUndefined()
  })
})

describe('world files', () => {
  const text = '0.5\n0\n0\n-0.25\n10.25\n49.875\n'

  it('count from the middle of the upper left pixel (the six-line convention)', () => {
    expect(matrixOfWorldFile(readWorldFile(text))).toEqual([0.5, 0, 10, 0, -0.25, 50])
    const { plane, matrix } = readingOfWorldFile(text, 'map.pgw', { width: 20, height: 10 })
    const sheet = geoSheet(georeferenceIn(plane!, matrix, 'map.pgw', { width: 20, height: 10 }))
    expect(sheet.toLonLat({ x: 0.5, y: 0.5 })).toEqual({ lon: 10.25, lat: 49.875 })
    expect(geoCorners(sheet, { width: 20, height: 10 })).toEqual([
      { lon: 10, lat: 50 },
      { lon: 20, lat: 50 },
      { lon: 20, lat: 47.5 },
      { lon: 10, lat: 47.5 },
    ])
  })

  it('are written as they were read, turned ones too', () => {
    for (const lines of [text, '1.5\n0.25\n-0.3\n-2\n-11169055.58\n2800000\n', '1e-7\n0\n0\n-1e-7\n0.1\n0.2\n']) {
      const file = readWorldFile(lines)
      const again = readWorldFile(writeWorldFile(worldFileOfMatrix(matrixOfWorldFile(file))))
      for (const key of ['a', 'b', 'c', 'd', 'e', 'f'] as const) expect(again[key]).toBeCloseTo(file[key], 8)
    }
  })

  it('are taken for degrees where their numbers can be nothing else; of metres it has to be said which', () => {
    const size = { width: 1000, height: 1000 }
    expect(readingOfWorldFile(text, 'x', { width: 20, height: 10 }).plane).toEqual({ kind: 'degrees' })
    const metres = readingOfWorldFile('100\n0\n0\n-100\n-11169055.58\n2800000\n', 'x', size)
    expect(metres).toMatchObject({ plane: undefined, mayBe: { mercator: true, utm: false } })
    const at = geoSheet(georeferenceIn({ kind: 'mercator' }, metres.matrix, 'x', size)).toLonLat({ x: 0.5, y: 0.5 })!
    expect(at.lon).toBeCloseTo(-(100 + 1 / 3), 6)
    expect(readingOfWorldFile('10\n0\n0\n-10\n500000\n5300000\n', 'x', size).mayBe).toEqual({ mercator: true, utm: true })
    const far = readingOfWorldFile('1e6\n0\n0\n-1e6\n9e9\n0\n', 'far.pgw', size)
    expect(() => georeferenceIn({ kind: 'mercator' }, far.matrix, 'far.pgw', size)).toThrow(/“far.pgw” puts the picture outside the Earth/)
  })

  it.each([
    ['five lines', '1\n0\n0\n-1\n10\n', /has 5 lines; a world file has six/],
    ['a word', '1\n0\n0\n-1\nten\n20\n', /has “ten” in line 5/],
    ['no size', '0\n0\n0\n0\n1\n2\n', /gives pixels no size/],
    ['an infinite number', '1\n0\n0\n-1\nInfinity\n2\n', /in line 5/],
  ])('with %s are refused', (_what, lines, message) => expect(() => readWorldFile(lines, 'map.pgw')).toThrow(message))
})

describe('control points', () => {
  const point = (id: string, x: number, y: number, lon: number, lat: number) => ({ id, name: id, at: { x, y }, lon, lat })
  const known = geoSheet({ kind: 'affine', source: 'world-file', plane: { kind: 'mercator' }, matrix: [100, 0, 1e6, 0, -100, 6e6] })
  const spot = (id: string, x: number, y: number, off = 0) => {
    const { lon, lat } = known.toLonLat({ x, y })!
    return point(id, x + off, y, lon, lat)
  }
  const byPoints = (...points: ReturnType<typeof point>[]): Georeference => ({ kind: 'points', plane: 'mercator', fit: null, points })

  it('from two on put the sheet on the Earth, north up, without residuals', () => {
    const sheet = geoSheet(byPoints(spot('a', 100, 200), spot('b', 900, 500)))
    expect(sheet.kind).toBe('similarity')
    const expected = known.toLonLat({ x: 1500, y: 1200 })!
    expect(sheet.toLonLat({ x: 1500, y: 1200 })!.lon).toBeCloseTo(expected.lon, 9)
    expect(sheet.toLonLat({ x: 1500, y: 1200 })!.lat).toBeCloseTo(expected.lat, 9)
    // Two points always fit: that they do says nothing.
    expect(sheet.residuals).toBeUndefined()
  })

  it('tell how well they agree, in pixels and in metres, and name the worst', () => {
    const exact = [
      spot('a', 0, 0),
      spot('b', 2000, 0),
      spot('c', 2000, 1500),
      spot('d', 0, 1500),
      spot('e', 1000, 700),
      spot('f', 400, 900),
    ]
    const off = [...exact.slice(0, 5), spot('Wrong', 400, 900, 30)]
    expect(geoSheet(byPoints(...exact)).residuals!.rmsPx).toBeLessThan(1e-6)
    const { residuals } = geoSheet(byPoints(...off))
    expect(residuals!.worst.point.name).toBe('Wrong')
    expect(residuals!.rmsPx).toBeGreaterThan(3)
    // A pixel is a hundred metres of the Mercator plane, which at this latitude are less on the ground: cos(lat) of it.
    const metresPerPx = residuals!.worst.metres / residuals!.worst.px
    expect(metresPerPx).toBeCloseTo(100 * Math.cos((off[5]!.lat * Math.PI) / 180), 0)
  })

  it('can be told by a world file, unless in perspective', () => {
    const points = [spot('a', 0, 0), spot('b', 2000, 0), spot('c', 2000, 1500)]
    const file = worldFileOf(geoSheet(byPoints(...points)))!
    expect(file.a).toBeCloseTo(100, 6)
    expect(file.e).toBeCloseTo(-100, 6)
    expect(file.c).toBeCloseTo(1e6 + 50, 3)
    const four = [...points, spot('d', 0, 1500, 20)]
    expect(worldFileOf(geoSheet({ kind: 'points', plane: 'mercator', fit: 'projective', points: four }))).toBeUndefined()
  })

  it('may lie on both sides of the antimeridian', () => {
    const sheet = geoSheet(byPoints(point('west', 0, 0, 178, 10), point('east', 400, 0, -178, 10)))
    expect(sheet.toLonLat({ x: 200, y: 0 })!.lon).toBeCloseTo(180, 9)
    expect(sheet.toSheet({ lon: -179, lat: 10 })!.x).toBeCloseTo(300, 6)
  })
})

describe('what control points can tell', () => {
  const SIZE = { width: 6400, height: 3200 }
  // Cities to a thousandth of a degree, from general knowledge.
  const CITIES = {
    London: [-0.128, 51.507],
    'New York': [-74.006, 40.713],
    Tokyo: [139.692, 35.69],
    Sydney: [151.209, -33.868],
    Nairobi: [36.817, -1.286],
    Lima: [-77.043, -12.046],
  } as const
  type City = keyof typeof CITIES
  const inDegrees = ([lon, lat]: readonly [number, number]) => ({ x: ((lon + 180) / 360) * 6400, y: ((90 - lat) / 180) * 3200 })
  /** On the Web Mercator square of 6400 px. */
  const inMercator = ([lon, lat]: readonly [number, number]) => ({
    x: ((lon + 180) / 360) * 6400,
    y: (0.5 - Math.log(Math.tan(Math.PI / 4 + (lat * Math.PI) / 360)) / (2 * Math.PI)) * 6400,
  })
  const georeference = (cities: readonly City[], place: typeof inDegrees, off: (i: number) => number = () => 0): Georeference => ({
    kind: 'points',
    plane: null,
    fit: null,
    points: cities.map((name, i) => {
      const [lon, lat] = CITIES[name]
      const { x, y } = place([lon, lat])
      return { id: `p${i}`, name, at: { x: x + off(2 * i), y: y + off(2 * i + 1) }, lon, lat }
    }),
  })
  /** Clicks that are up to two pixels off, the same at each run. */
  const clicks = (i: number) => 2 * Math.sin(12.9898 * (i + 1) * (i + 3))

  it('on a world map in degrees with three cities: that it is one, and a fourth lands within a hundredth of its width', () => {
    const all = Object.keys(CITIES) as City[]
    const threes = all.flatMap((a, i) => all.slice(i + 1).flatMap((b, k) => all.slice(i + k + 2).map((c) => [a, b, c] as const)))
    expect(threes).toHaveLength(20)
    for (const three of threes) {
      const [a, b, c] = three.map((name) => inDegrees(CITIES[name])) as [
        { x: number; y: number },
        { x: number; y: number },
        { x: number; y: number },
      ]
      // What lies nearly on one line says little of what lies across it.
      const area = Math.abs((b.x - a.x) * (c.y - a.y) - (c.x - a.x) * (b.y - a.y)) / 2
      if (area < 0.03 * 6400 * 3200) continue
      const sheet = geoSheet(georeference(three, inDegrees, clicks), SIZE)
      expect(sheet.toPlane.plane, three.join()).toEqual({ kind: 'degrees' })
      expect(sheet.residuals).toBeUndefined()
      for (const name of all) {
        const [lon, lat] = CITIES[name]
        const [p, q] = [sheet.toSheet({ lon, lat })!, inDegrees([lon, lat])]
        expect(Math.hypot(p.x - q.x, p.y - q.y), `${name} by ${three.join()}`).toBeLessThan(64)
      }
    }
  })

  it('on a map in Mercator’s projection: that it is one', () => {
    const sheet = geoSheet(georeference(['London', 'Sydney', 'Lima'], inMercator, clicks), { width: 6400, height: 6400 })
    expect(sheet.toPlane.plane).toEqual({ kind: 'mercator' })
    expect(sheet.doubt).toBeUndefined()
  })

  it('with two cities on a map of the world: nothing, and how much it matters is said', () => {
    const sheet = geoSheet(georeference(['London', 'Sydney'], inDegrees), SIZE)
    expect(sheet.doubt!.px).toBeGreaterThan(64)
    expect(new Set([sheet.doubt!.plane, sheet.doubt!.other])).toEqual(new Set(['mercator', 'degrees']))
    expect(geoSheet({ ...georeference(['London', 'Sydney'], inDegrees), plane: 'degrees' } as Georeference, SIZE).doubt).toBeUndefined()
  })

  it('on a map of a town: not which it is, but that does not matter', () => {
    const points = [
      [8.54, 47.37],
      [8.56, 47.38],
      [8.55, 47.36],
    ].map(([lon, lat], i) => ({ id: `t${i}`, name: '', at: { x: (lon! - 8.5) * 60_000, y: (47.4 - lat!) * 88_600 }, lon: lon!, lat: lat! }))
    expect(geoSheet({ kind: 'points', plane: null, fit: null, points }, { width: 6000, height: 4000 }).doubt).toBeUndefined()
  })

  it('are no map in perspective for four of them, nor for six with a hand’s error, but for six that are in one', () => {
    const known = geoSheet({ kind: 'affine', source: 'world-file', plane: { kind: 'mercator' }, matrix: [100, 0, 1e6, 0, -100, 6e6] })
    const corners = [[0, 0], [2000, 0], [2000, 1500], [0, 1500], [1000, 700], [400, 1100]] as const // prettier-ignore
    const points = (count: number, place: (x: number, y: number, i: number) => { x: number; y: number }) =>
      corners.slice(0, count).map(([x, y], i) => ({ id: `c${i}`, name: '', at: place(x, y, i), ...known.toLonLat({ x, y })! }))
    const kind = (list: ReturnType<typeof points>) => geoSheet({ kind: 'points', plane: 'mercator', fit: null, points: list }).kind
    const byHand = (x: number, y: number, i: number) => ({ x: x + clicks(2 * i), y: y + clicks(2 * i + 1) })
    const tilted = (x: number, y: number) => ({ x: x / (1 + y / 4000), y: y / (1 + y / 4000) })
    expect([kind(points(4, byHand)), kind(points(6, byHand)), kind(points(4, tilted)), kind(points(6, tilted))]).toEqual([
      'affine',
      'affine',
      'affine',
      'projective',
    ])
  })
})

describe('other coordinate systems', () => {
  // Definitions as the EPSG registry has them; well-known text as OGC 01-009 writes it.
  const LV95: Plane = {
    kind: 'crs',
    name: 'EPSG:2056 (CH1903+ / LV95)',
    definition:
      '+proj=somerc +lat_0=46.9524055555556 +lon_0=7.43958333333333 +k_0=1 +x_0=2600000 +y_0=1200000 +ellps=bessel +towgs84=674.374,15.056,405.346,0,0,0,0 +units=m +no_defs',
  }
  const BNG: Plane = {
    kind: 'crs',
    name: 'EPSG:27700',
    definition:
      '+proj=tmerc +lat_0=49 +lon_0=-2 +k=0.9996012717 +x_0=400000 +y_0=-100000 +ellps=airy +towgs84=446.448,-125.157,542.06,0.15,0.247,0.842,-20.489 +units=m +no_defs',
  }

  it('lie where their survey says: the origin of the Swiss grid, and the water tower at Caister (Ordnance Survey), both from memory', () => {
    const bern = planeMap(LV95).inverse({ x: 2_600_000, y: 1_200_000 })!
    expect([bern.lon, bern.lat].map((v) => v.toFixed(4))).toEqual(['7.4386', '46.9511'])
    // A Helmert transformation is good to some metres.
    const caister = planeMap(BNG).inverse({ x: 651_409.903, y: 313_177.27 })!
    expect(Math.abs(caister.lat - (52 + 39 / 60 + 28.72 / 3600))).toBeLessThan(1e-4)
    expect(Math.abs(caister.lon - (1 + 42 / 60 + 57.79 / 3600))).toBeLessThan(2e-4)
  })

  it('lead there and back, and nowhere for places that they do not show', () => {
    const at = { lon: 8.2, lat: 46.8 }
    const back = planeMap(LV95).inverse(planeMap(LV95).forward(at)!)!
    expect([back.lon, back.lat].map((v) => v.toFixed(6))).toEqual(['8.200000', '46.800000'])
    // The far pole of a conic projection lies at infinity.
    const lambert93: Plane = {
      kind: 'crs',
      name: 'EPSG:2154',
      definition: '+proj=lcc +lat_0=46.5 +lon_0=3 +lat_1=49 +lat_2=44 +x_0=700000 +y_0=6600000 +ellps=GRS80 +units=m +no_defs',
    }
    expect(planeMap(lambert93).forward({ lon: 3, lat: -90 })).toBeUndefined()
  })

  it('are told by a .prj file', () => {
    const utm =
      'PROJCS["WGS_1984_UTM_Zone_32N",GEOGCS["GCS_WGS_1984",DATUM["D_WGS_1984",SPHEROID["WGS_1984",6378137.0,298.257223563]],PRIMEM["Greenwich",0.0],UNIT["Degree",0.0174532925199433]],PROJECTION["Transverse_Mercator"],PARAMETER["False_Easting",500000.0],PARAMETER["False_Northing",0.0],PARAMETER["Central_Meridian",9.0],PARAMETER["Scale_Factor",0.9996],PARAMETER["Latitude_Of_Origin",0.0],UNIT["Meter",1.0]]'
    const plane = planeOfPrj(utm, 'map.prj')
    expect(plane).toMatchObject({ kind: 'crs', name: 'WGS 1984 UTM Zone 32N' })
    const [p, q] = [plane, { kind: 'utm', zone: 32, south: false } as const].map((each) => planeMap(each).forward({ lon: 9.7, lat: 47.2 })!)
    expect(Math.hypot(p!.x - q!.x, p!.y - q!.y)).toBeLessThan(0.01)
    expect(planeOfPrj('GEOGCS["GCS_WGS_1984",DATUM["D_WGS_1984"]]', 'x')).toEqual({ kind: 'degrees' })
    expect(planeOfPrj('PROJCS["WGS_1984_Web_Mercator_Auxiliary_Sphere",GEOGCS["x"]]', 'x')).toEqual({ kind: 'mercator' })
    for (const text of ['', 'Dear Sir', 'PROJCS["Nowhere",PROJECTION["Flat_Turtle"]]', `PROJCS["x"${' '.repeat(5000)}]`])
      expect(() => planeOfPrj(text, 'bad.prj')).toThrow(JourneyError)
  })
})

describe('geodesics', () => {
  it('give Flinders Peak to Buninyong (GDA Technical Manual): 54 972.271 m', () => {
    const flindersPeak = { lat: -(37 + 57 / 60 + 3.7203 / 3600), lon: 144 + 25 / 60 + 29.5244 / 3600 }
    const buninyong = { lat: -(37 + 39 / 60 + 10.1561 / 3600), lon: 143 + 55 / 60 + 35.3839 / 3600 }
    expect(geodesicDistance(flindersPeak, buninyong)).toBeCloseTo(54972.271, 2)
  })
})

describe('a map of the whole world', () => {
  const WORLD = { width: 3600, height: 1800 }
  const places = [
    { lon: 140, lat: 36 },
    { lon: -122, lat: 37 },
    { lon: 0, lat: -60 },
    { lon: 179.9, lat: 5 },
  ]
  const spotOf = ({ lon, lat }: { lon: number; lat: number }) => ({ x: (lon + 180) * 10, y: (90 - lat) * 10 })

  it('has all places on it, none a turn of the Earth beside it', () => {
    const sheet = geoSheet({ kind: 'affine', source: 'world-file', plane: { kind: 'degrees' }, matrix: [0.1, 0, -180, 0, -0.1, 90] }, WORLD)
    for (const place of places) {
      const p = sheet.toSheet(place)!
      expect(Math.hypot(p.x - spotOf(place).x, p.y - spotOf(place).y)).toBeLessThan(1e-6)
    }
  })

  it('is fitted to control points on both sides of it, and one that crosses the antimeridian as well', () => {
    const points = places.map((place, i) => ({ id: `p${i}`, name: '', at: spotOf(place), ...place }))
    const world = geoSheet({ kind: 'points', plane: 'degrees', fit: 'affine', points }, WORLD)
    expect(world.residuals!.rmsPx).toBeLessThan(1e-6)
    const east = world.toSheet({ lon: -179, lat: 0 })!
    expect(east.x).toBeCloseTo(10, 6)
    // A map of the Pacific from 120 E to 100 W.
    const across = places
      .slice(0, 2)
      .map((place, i) => ({ id: `q${i}`, name: '', at: { x: (((place.lon + 360) % 360) - 120) * 10, y: (90 - place.lat) * 10 }, ...place }))
    const pacific = geoSheet({ kind: 'points', plane: 'degrees', fit: null, points: across }, { width: 1400, height: 900 })
    expect(pacific.toSheet({ lon: 175, lat: 40 })!.x).toBeCloseTo(550, 6)
    expect(pacific.toSheet({ lon: -175, lat: 40 })!.x).toBeCloseTo(650, 6)
  })
})

describe('the regions that a map shows', () => {
  // A world map of 3600 x 1800 px in plate carrée, and one of the western Mediterranean. Boxes of countries to a degree, from memory.
  const degrees = (west: number, north: number, perDegree: number, width: number, height: number) => {
    const matrix: [number, number, number, number, number, number] = [1 / perDegree, 0, west, 0, -1 / perDegree, north]
    const size = { width, height }
    return regionsShownBy(geoSheet({ kind: 'affine', source: 'world-file', plane: { kind: 'degrees' }, matrix }, size), size)
  }
  const MALTA = { west: 14, south: 35, east: 15, north: 36 }
  const SPAIN = { west: -9, south: 36, east: 4, north: 44 }
  const CHILE = { west: -76, south: -56, east: -67, north: -17 }
  const FIJI = { west: 177, south: -19, east: -179, north: -16 }

  it('are those with anything on it, small ones and those over the antimeridian as well', () => {
    const world = degrees(-180, 90, 10, 3600, 1800)
    expect([MALTA, SPAIN, CHILE, FIJI].map(world)).toEqual([true, true, true, true])
    const mediterranean = degrees(-6, 45, 100, 2400, 1200)
    expect([MALTA, SPAIN, CHILE, FIJI].map(mediterranean)).toEqual([true, true, false, false])
  })
})
