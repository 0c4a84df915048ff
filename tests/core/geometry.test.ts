import { append, greatest, least } from '#core/geometry/extremes'
import { polygonHull } from 'd3-polygon'
import fc from 'fast-check'
import { describe, expect, it } from 'vitest'
import { degrees, radians, turnBetween } from '#core/geometry/angle'
import { bowedCubics } from '#core/geometry/bow'
import type { Course } from '#core/geometry/course'
import { chordHeading, courseOf, passesBy, pieceAt, pointAt, polylineCourse } from '#core/geometry/course'
import type { Cubic } from '#core/geometry/cubic'
import { cubicPoint, flatteningSteps, lineCubic } from '#core/geometry/cubic'
import type { Point } from '#core/geometry/point'
import { convexHull } from '#core/geometry/hull'
import { distance, mix, rotate } from '#core/geometry/point'

describe('the convex hull', () => {
  it('of many points is the one that the package finds of all of them', () => {
    // A few whole numbers, so that points lie on one line and on one another, and many others. All are fractions of 1024, whose products are
    // exact: whether a point is a corner does not depend on rounding.
    const whole = fc.integer({ min: -4, max: 4 })
    const wide = fc.integer({ min: -4_000_000, max: 4_000_000 }).map((v) => v / 1024)
    const cloud = fc.oneof(fc.array(fc.tuple(whole, whole), { minLength: 1, maxLength: 60 }), fc.array(fc.tuple(wide, wide), { minLength: 1, maxLength: 400 })) // prettier-ignore
    const sorted = (corners: readonly (readonly number[])[]) => corners.map((corner) => corner.join()).sort()
    fc.assert(
      fc.property(cloud, (points) => {
        const found = convexHull(points.flat()).map(({ x, y }) => [x, y] as const)
        const all = polygonHull(points)
        if (all) expect(sorted(found)).toEqual(sorted(all))
        else expect(new Set(sorted(found))).toEqual(new Set(sorted(points)))
      }),
    )
  })
})

const coordinate = fc.double({ min: -4000, max: 4000, noNaN: true })
const point = fc.record({ x: coordinate, y: coordinate })
const cubic = fc.tuple(point, point, point, point) as fc.Arbitrary<Cubic>

/** Distance of a point from a course's polyline. */
function offCourse({ points }: Course, p: Point): number {
  let nearest = Infinity
  for (let i = 0; i + 3 < points.length; i += 2) {
    const [a, b] = [
      { x: points[i]!, y: points[i + 1]! },
      { x: points[i + 2]!, y: points[i + 3]! },
    ]
    const length = distance(a, b)
    const u = length > 1e-9 ? ((p.x - a.x) * (b.x - a.x) + (p.y - a.y) * (b.y - a.y)) / length ** 2 : 0
    nearest = Math.min(nearest, distance(p, mix(a, b, Math.min(1, Math.max(0, u)))))
  }
  return nearest
}

describe('flattening', () => {
  it('keeps every point of a curve within the tolerance of the polyline', () => {
    fc.assert(
      fc.property(cubic, fc.constantFrom(0.02, 0.5, 5), (curve, tolerance) => {
        const course = courseOf([curve], tolerance)
        for (let k = 0; k <= 60; k++) expect(offCourse(course, cubicPoint(curve, k / 60))).toBeLessThanOrEqual(tolerance * 1.0001)
      }),
      { numRuns: 60 },
    )
  })

  it('takes one step for a straight line, and more the finer it is asked', () => {
    expect(flatteningSteps(lineCubic({ x: 0, y: 0 }, { x: 900, y: 300 }), 0.02)).toBe(1)
    const bend: Cubic = [
      { x: 0, y: 0 },
      { x: 0, y: 400 },
      { x: 400, y: 400 },
      { x: 400, y: 0 },
    ]
    expect(flatteningSteps(bend, 0.02)).toBeGreaterThan(flatteningSteps(bend, 0.5))
  })

  it('needs a segment', () => expect(() => courseOf([])).toThrow('A course needs at least one segment.'))
})

describe('length along a course', () => {
  const course = courseOf([
    lineCubic({ x: 0, y: 0 }, { x: 30, y: 0 }),
    lineCubic({ x: 30, y: 0 }, { x: 30, y: 40 }),
    lineCubic({ x: 30, y: 40 }, { x: 30, y: 40 }),
  ])

  it('finds the piece, also at corners and ends', () => {
    expect([0, 10, 29.999].map((s) => pieceAt(course, s))).toEqual([0, 0, 0])
    expect([30, 69].map((s) => pieceAt(course, s))).toEqual([1, 1])
    expect(pieceAt(course, 70)).toBe(2)
  })

  it('gives the point, and holds to the ends beyond them', () => {
    expect(pointAt(course, 45)).toEqual({ x: 30, y: 15 })
    expect(pointAt(course, -5)).toEqual({ x: 0, y: 0 })
    expect(pointAt(course, 500)).toEqual({ x: 30, y: 40 })
    expect(course.length).toBe(70)
  })

  it('rises along any course, and never leaves it', () => {
    fc.assert(
      fc.property(cubic, fc.double({ min: 0, max: 1, noNaN: true }), (curve, u) => {
        const any = courseOf([curve], 1)
        expect(any.lengths.every((s, i) => i === 0 || s >= any.lengths[i - 1]!)).toBe(true)
        expect(offCourse(any, pointAt(any, u * any.length))).toBeLessThan(1e-6)
      }),
      { numRuns: 60 },
    )
  })
})

describe('heading of a chord', () => {
  it('is the tangent’s direction in the middle of a circular arc, whatever the window', () => {
    // On a circle a chord is parallel to the tangent at its middle (Euclid, Elements III).
    const arc = courseOf(bowedCubics({ x: 0, y: 0 }, { x: 800, y: 0 }, 0.5))
    for (const window of [10, 100, 400]) {
      expect(Math.abs(chordHeading(arc, arc.length / 2, window)!)).toBeLessThan(radians(0.05))
      expect(degrees(chordHeading(arc, arc.length / 4, window)!)).toBeCloseTo(-45, 0)
    }
  })

  it('shrinks its window at the ends, and is unknown where the course has no length', () => {
    const corner = courseOf([lineCubic({ x: 0, y: 0 }, { x: 100, y: 0 }), lineCubic({ x: 100, y: 0 }, { x: 100, y: 100 })])
    expect(chordHeading(corner, 0, 50)).toBe(0)
    expect(degrees(chordHeading(corner, 200, 50)!)).toBeCloseTo(90, 9)
    expect(degrees(chordHeading(corner, 100, 50)!)).toBeCloseTo(45, 9)
    expect(chordHeading(courseOf([lineCubic({ x: 5, y: 5 }, { x: 5, y: 5 })]), 0, 50)).toBeUndefined()
  })
})

describe('angles', () => {
  it('turn the short way', () => {
    expect(degrees(turnBetween(radians(170), radians(-170)))).toBeCloseTo(20, 9)
    expect(degrees(turnBetween(radians(-170), radians(170)))).toBeCloseTo(-20, 9)
    expect(turnBetween(0, Math.PI)).toBeCloseTo(Math.PI, 12)
    const angle = fc.double({ min: -20, max: 20, noNaN: true })
    fc.assert(
      fc.property(angle, angle, (a, b) => {
        const turn = turnBetween(a, b)
        expect(Math.abs(turn)).toBeLessThanOrEqual(Math.PI + 1e-9)
        expect(Math.cos(a + turn - b)).toBeCloseTo(1, 9)
      }),
    )
  })

  it('are clockwise on the screen, where y goes down', () => {
    const down = rotate({ x: 1, y: 0 }, radians(90))
    expect(down.x).toBeCloseTo(0, 12)
    expect(down.y).toBeCloseTo(1, 12)
  })
})

describe('the extremes of many values', () => {
  it('are found where spreading them into arguments would overflow the stack', () => {
    const values = Array.from({ length: 400_000 }, (_, i) => (i * 7919) % 400_009)
    expect([least(values), greatest(values)]).toEqual([0, 400_008])
    expect([least([]), greatest([])]).toEqual([Infinity, -Infinity])
    const list = [1]
    append(list, values)
    expect(list).toHaveLength(400_001)
  })
})

describe('where a course comes by a point', () => {
  it('is found each time: out, back, and at a corner once', () => {
    const back = polylineCourse(Float64Array.of(0, 0, 50, 0, 100, 0, 100, 4, 50, 4, 0, 4))
    const passes = (x: number, y: number, reach = 10) => passesBy(back, { x, y }, reach).map(({ s }) => s)
    expect(passes(30, 2)).toEqual([30, 174])
    // At a point of the line, and beyond its turn.
    expect(passes(50, 2)).toEqual([50, 154])
    expect(passes(105, 2)).toEqual([102])
    expect(passes(30, 20)).toEqual([])
    const corner = polylineCourse(Float64Array.of(0, 0, 100, 0, 100, 100))
    expect(passesBy(corner, { x: 104, y: -3 }, 10).map(({ s }) => s)).toEqual([100])
  })
})
