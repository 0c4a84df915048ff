/** Great circles on the ground against geographiclib (Karney, Algorithms for geodesics, 2013), on maps that are cut, or show half the Earth. */
import geodesic from 'geographiclib-geodesic'
import { describe, expect, it } from 'vitest'
import { geoOfSheet } from '#core/geo/ground'
import { geodesicDistance, trackDistance } from '#core/geo/geodesic'
import { greatCircle } from '#core/geo/great-circle'
import type { LonLat } from '#core/geo/lon-lat'
import { compile } from '#core/frame/compile'
import { chordHeading, polylineCourse } from '#core/geometry/course'
import { createJourney } from '#core/journey/create'
import { editLeg } from '#core/edits/lines/legs'
import { addStop } from '#core/edits/trips/visits'
import type { Georeference, Journey } from '#core/journey/schema'
import { planeSchema, sheetSchema } from '#core/journey/schema'

const { WGS84 } = geodesic.Geodesic

const sheetOf = (georeference: Georeference, width: number, height: number) =>
  sheetSchema.parse({ id: 'world', name: 'World', image: '0'.repeat(64), width, height, georeference })
/** The whole world, ten pixels to the degree, cut at the antimeridian. */
const WORLD = sheetOf({ kind: 'affine', source: 'world-file', plane: { kind: 'degrees' }, matrix: [0.1, 0, -180, 0, -0.1, 90] }, 3600, 1800)
/** A globe seen from over 0 N 20 E, its radius 500 pixels. */
const GLOBE = sheetOf(
  {
    kind: 'affine',
    source: 'drawn',
    plane: planeSchema.parse({ kind: 'drawn', projection: 'orthographic', lon: 20, lat: 0, parallels: [30, 60] }),
    matrix: [0.002, 0, -1, 0, 0.002, -1],
  },
  1000,
  1000,
)
const lineOn = (sheet: typeof WORLD, from: LonLat, to: LonLat, tolerance = 0.02) => {
  const geo = geoOfSheet(sheet)!
  const line = greatCircle(geo.toGround(from)!, geo.toGround(to)!, geo, tolerance)!
  const points = Array.from({ length: line.points.length / 2 }, (_, i) => ({ x: line.points[2 * i]!, y: line.points[2 * i + 1]! }))
  return { geo, points, breaks: line.breaks, onEarth: points.map((p) => geo.toLonLat(p)!) }
}

const NEAR = { lon: 8.5, lat: 47.4 }
const FAR = { lon: -74, lat: 40.7 }

describe('a great circle', () => {
  it('lies on the geodesic, in every point and between them', () => {
    const { points, onEarth, geo } = lineOn(WORLD, NEAR, FAR)
    const line = WGS84.InverseLine(NEAR.lat, NEAR.lon, FAR.lat, FAR.lon)
    const total = line.s13
    onEarth.forEach((at) => {
      // Its distances from both ends add up to the length of the whole.
      const sum = geodesicDistance(NEAR, at) + geodesicDistance(at, FAR)
      expect(sum - total).toBeLessThan(1e-3)
    })
    for (let i = 1; i < points.length; i++) {
      const [a, b] = [onEarth[i - 1]!, onEarth[i]!]
      const middle = WGS84.InverseLine(a.lat, a.lon, b.lat, b.lon)
      const { lat2, lon2 } = middle.Position(middle.s13 / 2)
      const p = geo.toGround({ lat: lat2!, lon: lon2! })!
      expect(Math.hypot(p.x - (points[i - 1]!.x + points[i]!.x) / 2, p.y - (points[i - 1]!.y + points[i]!.y) / 2)).toBeLessThan(0.02)
    }
    expect(Math.max(...onEarth.map(({ lat }) => lat))).toBeGreaterThan(50)
  })

  it('jumps once where the map is cut at the antimeridian, from edge to edge', () => {
    const { points, breaks } = lineOn(WORLD, { lon: 140, lat: 36 }, { lon: -122, lat: 37 })
    expect(breaks).toHaveLength(1)
    const [before, after] = [points[breaks[0]!]!, points[breaks[0]! + 1]!]
    expect(before.x).toBeGreaterThan(3598)
    expect(after.x).toBeLessThan(2)
    expect(Math.abs(before.y - after.y)).toBeLessThan(1)
  })

  it('goes over the pole, where a map of degrees is cut along its upper edge', () => {
    const { onEarth, breaks } = lineOn(WORLD, { lon: 20, lat: 70 }, { lon: -160.5, lat: 70 })
    expect(Math.max(...onEarth.map(({ lat }) => lat))).toBeGreaterThan(89)
    expect(breaks.length).toBeLessThanOrEqual(2)
  })

  it('leaves out what lies behind the globe', () => {
    const { points, breaks } = lineOn(GLOBE, { lon: 80, lat: 60 }, { lon: -50, lat: 60 })
    expect(breaks.length).toBeLessThanOrEqual(1)
    for (const { x, y } of points) expect(Math.hypot(x - 500, y - 500)).toBeLessThanOrEqual(500.01)
    const far = lineOn(GLOBE, { lon: 105, lat: 5 }, { lon: -65, lat: 5.5 })
    expect(far.points.every(({ x, y }) => Number.isFinite(x) && Number.isFinite(y))).toBe(true)
  })

  it('is nowhere on a map without a place on the Earth: the leg is straight then', () => {
    const journey = (sheets: Journey['sheets']): Journey => {
      let made: Journey = { ...createJourney('World'), sheets }
      made = addStop(made, { x: 1885, y: 426 }, { stop: 'a', leg: 'x' }, { traveller: 'traveller' })
      made = addStop(made, { x: 1060, y: 493 }, { stop: 'b', leg: 'l' }, { traveller: 'traveller' })
      return editLeg(made, 'l', { course: { kind: 'great-circle' } })
    }
    const course = (j: Journey) => compile(j).travellers[0]!.legs[0]!.course
    expect(course(journey([])).points).toHaveLength(4)
    const bent = course(journey([WORLD]))
    expect(bent.points.length).toBeGreaterThan(20)
    // Made anew only when what it depends on has changed.
    const again = journey([WORLD])
    expect(compile(again).travellers[0]!.legs[0]!.course).toBe(compile({ ...again, seconds: 30 }).travellers[0]!.legs[0]!.course)
  })
})

describe('a course that jumps', () => {
  const course = polylineCourse(Float64Array.of(0, 0, 100, 0, 500, 50, 600, 50), [1])

  it('has no length over the jump, and heads on to either side of it', () => {
    expect(course.length).toBe(200)
    expect(chordHeading(course, 95, 40)).toBeCloseTo(0, 9)
    expect(chordHeading(course, 105, 40)).toBeCloseTo(0, 9)
    expect(chordHeading(course, 100, 40)).toBeCloseTo(0, 6)
  })
})

describe('lengths of tracks', () => {
  it('are those of geographiclib to a ten-millionth for short ways, at any latitude', () => {
    for (const lat of [-84, -45.3, 0, 12.7, 61, 80])
      for (const [dLat, dLon] of [
        [0.0003, 0.0001],
        [0.01, -0.012],
        [0, 0.019],
        [0.019, 0],
      ] as const) {
        const [a, b] = [
          { lat, lon: 179.995 },
          { lat: lat + dLat, lon: ((179.995 + dLon + 540) % 360) - 180 },
        ]
        const exact = geodesicDistance(a, b)
        expect(Math.abs(trackDistance(a, b) - exact) / exact).toBeLessThan(1e-6)
      }
    // Flinders Peak to Buninyong. Source: GDA Technical Manual, 54 972.271 m.
    expect(trackDistance({ lat: -37.951033417, lon: 144.424867889 }, { lat: -37.652821139, lon: 143.926495528 })).toBeCloseTo(54972.271, 2)
  })
})
