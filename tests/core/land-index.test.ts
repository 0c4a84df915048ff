import fc from 'fast-check'
import type { Position } from 'geojson'
import simplify from 'simplify-js'
import { describe, expect, it } from 'vitest'
import type { LonLatBox } from '#core/maps/land-index'
import { indexLand, landWithin } from '#core/maps/land-index'

/** A star of many points round a place, closed; its rays make it turn in and out of boxes. */
function star(lon: number, lat: number, radius: number, points: number, seed: number): Position[] {
  const ring = Array.from({ length: points }, (_, i): Position => {
    const angle = (2 * Math.PI * i) / points
    const r = radius * (0.6 + 0.4 * Math.sin(7 * angle + seed) * Math.cos(31 * angle))
    return [lon + r * Math.cos(angle), lat + (r / 2) * Math.sin(angle)]
  })
  return [...ring, ring[0]!]
}

/** Whether a place lies in an odd number of rings x, y, x, y, … */
function isIn(rings: readonly (readonly number[])[], x: number, y: number): boolean {
  let inside = false
  for (const ring of rings) {
    for (let i = 0, j = ring.length - 2; i < ring.length; j = i, i += 2) {
      const [ax, ay, bx, by] = [ring[i]!, ring[i + 1]!, ring[j]!, ring[j + 1]!]
      if (ay > y !== by > y && x < ax + ((bx - ax) * (y - ay)) / (by - ay)) inside = !inside
    }
  }
  return inside
}

const flat = (ring: readonly Position[]) => ring.slice(0, -1).flatMap(([lon, lat]) => [Math.round(lon! * 1e5) / 1e5, Math.round(lat! * 1e5) / 1e5]) // prettier-ignore
const ALL = { island: 0, lake: 0 }

describe('the index of land', () => {
  it('has the same land within any part as the polygons it was made of, with their lakes', () => {
    fc.assert(
      fc.property(
        fc.array(
          fc.record({
            lon: fc.double({ min: -150, max: 150, noNaN: true }),
            lat: fc.double({ min: -60, max: 60, noNaN: true }),
            radius: fc.double({ min: 0.5, max: 25, noNaN: true }),
            points: fc.integer({ min: 5, max: 900 }),
            seed: fc.integer({ min: 0, max: 9 }),
          }),
          { minLength: 1, maxLength: 4 },
        ),
        fc.double({ min: -170, max: 150, noNaN: true }),
        fc.double({ min: -70, max: 60, noNaN: true }),
        fc.double({ min: 0.5, max: 30, noNaN: true }),
        fc.constantFrom(-360, 0, 360),
        (shapes, west, south, side, turn) => {
          // Lakes of half the size in the middle of each.
          const polygons = shapes.map(({ lon, lat, radius, points, seed }) => [
            star(lon, lat, radius, points, seed),
            star(lon, lat, radius / 10, points, seed),
          ])
          const part: LonLatBox = { west: west + turn, south, east: west + turn + side, north: south + side / 2 }
          const whole = polygons.flat().map(flat)
          const found = landWithin(indexLand(polygons), part, 0, ALL)
          for (let i = 1; i < 12; i++) {
            for (let k = 1; k < 12; k++) {
              const [x, y] = [west + (side * i) / 12.07, south + (side * k) / 24.13]
              expect(isIn(found, x + turn, y)).toBe(isIn(whole, x, y))
            }
          }
        },
      ),
      { numRuns: 60 },
    )
  })

  it('shows an island across the antimeridian whole, cut there as the data has it', () => {
    const west: Position[] = [[179, -17], [180, -17], [180, -16], [179, -16], [179, -17]] // prettier-ignore
    const east: Position[] = [[-180, -17], [-179, -17], [-179, -16], [-180, -16], [-180, -17]] // prettier-ignore
    const found = landWithin(indexLand([[west], [east]]), { west: 178, south: -18, east: 182, north: -15 }, 0, ALL)
    expect(isIn(found, 179.5, -16.5)).toBe(true)
    expect(isIn(found, 180.5, -16.5)).toBe(true)
    expect(isIn(found, 181.5, -16.5)).toBe(false)
    expect(found.flat().filter((_, i) => i % 2 === 0)).toEqual(expect.arrayContaining([179, 181]))
  })

  it('surrounds a part that lies deep inside a large land', () => {
    const land = star(10, 40, 30, 5000, 1)
    const part = { west: 9, south: 39.8, east: 9.2, north: 39.9 }
    const found = landWithin(indexLand([[land]]), part, 0, ALL)
    expect(isIn(found, 9.1, 39.85)).toBe(true)
    // Chunks far away are stood in for by one vertex each.
    expect(found[0]!.length / 2).toBeLessThan(5000 / 40)
  })

  it('leaves out the vertices that Douglas and Peucker do, as the package simplify-js has it', () => {
    const coast = star(0, 0, 3, 700, 4)
    // The furthest vertex from the first one is where the ring is halved.
    const away = ([lon, lat]: Position) => Math.hypot(lon! - coast[0]![0]!, lat! - coast[0]![1]!)
    const opposite = coast.reduce((best, at, i) => (away(at) > away(coast[best]!) ? i : best), 0)
    const index = indexLand([[coast]])
    for (const metres of [800, 3000, 12_000]) {
      const by = (tolerance: number) =>
        [coast.slice(0, opposite + 1), coast.slice(opposite)].flatMap(
          (half) =>
          simplify(half.map(([x, y]) => ({ x: x!, y: y! })), tolerance / 111_195, true).slice(0, -1), // prettier-ignore
        ).length
      const kept = landWithin(index, { west: -9, south: -9, east: 9, north: 9 }, metres, ALL)[0]!.length / 2
      // Weights have ten steps to a doubling.
      expect(kept).toBeGreaterThanOrEqual(by(metres * 1.08))
      expect(kept).toBeLessThanOrEqual(by(metres / 1.08))
      expect(kept).toBeLessThan(700)
    }
  })

  it('leaves out small islands and lakes, each by a size of their own', () => {
    // Two tenths of a degree across: some 22 km.
    const index = indexLand([[star(0, 0, 5, 60, 0), star(0, 0, 0.1, 30, 0)], [star(9, 9, 0.1, 30, 0)]])
    const world = { west: -20, south: -20, east: 20, north: 20 }
    const count = (island: number, lake: number) => landWithin(index, world, 0, { island, lake }).length
    expect(count(0, 0)).toBe(3)
    expect(count(0, 40_000)).toBe(2)
    expect(count(40_000, 0)).toBe(2)
    expect(count(40_000, 40_000)).toBe(1)
  })
})
