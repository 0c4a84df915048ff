/** Arc length and position against svg-path-properties, an independent implementation of W3C SVG 2 path length. */
import { svgPathProperties } from 'svg-path-properties'
import { describe, expect, it } from 'vitest'
import { bowedCubics, bowThrough } from '#core/geometry/bow'
import { courseOf, joinCourses, pointAt } from '#core/geometry/course'
import type { Cubic } from '#core/geometry/cubic'
import { distance, mix } from '#core/geometry/point'
import { seeded } from '#demo/noise'

/** Cuts a cubic in two by de Casteljau's construction: the same curve, on which its quadrature and its search are exact enough. */
function halves([a, b, c, d]: Cubic): Cubic[] {
  const [ab, bc, cd] = [mix(a, b, 0.5), mix(b, c, 0.5), mix(c, d, 0.5)]
  const [abc, bcd] = [mix(ab, bc, 0.5), mix(bc, cd, 0.5)]
  const middle = mix(abc, bcd, 0.5)
  return [
    [a, ab, abc, middle],
    [middle, bcd, cd, d],
  ]
}

const pathData = (cubics: readonly Cubic[]): string =>
  cubics.map(([a, b, c, d], i) => `${i === 0 ? `M${a.x} ${a.y}` : ''}C${b.x} ${b.y} ${c.x} ${c.y} ${d.x} ${d.y}`).join('')

function randomChain(seed: number): Cubic[] {
  const random = seeded(seed)
  const p = () => ({ x: random() * 3000, y: random() * 2000 })
  const chain: Cubic[] = []
  let from = p()
  for (let i = 0; i < 4; i++) {
    const to = p()
    chain.push([from, p(), p(), to])
    from = to
  }
  return chain
}

describe('course of cubic segments', () => {
  it.each([1, 2, 3, 4, 5])('has the length and points that svg-path-properties finds (chain %i)', (seed) => {
    const cubics = randomChain(seed)
    const course = courseOf(cubics)
    const reference = new svgPathProperties(
      pathData(cubics.flatMap(halves).flatMap(halves).flatMap(halves).flatMap(halves).flatMap(halves)),
    )
    expect(Math.abs(course.length / reference.getTotalLength() - 1)).toBeLessThan(2e-5)
    for (let k = 0; k <= 40; k++) {
      const s = (course.length * k) / 40
      expect(distance(pointAt(course, s), reference.getPointAtLength(s))).toBeLessThan(0.25)
    }
  })

  it('joins courses without losing length or place', () => {
    const parts = [randomChain(6), randomChain(7)].map((chain) => courseOf(chain))
    const shifted = courseOf([[pointAt(parts[0]!, parts[0]!.length), { x: 1, y: 1 }, { x: 2, y: 900 }, { x: 500, y: 500 }]])
    const joined = joinCourses([parts[0]!, shifted])
    expect(joined.length).toBeCloseTo(parts[0]!.length + shifted.length, 6)
    expect(distance(pointAt(joined, parts[0]!.length + 100), pointAt(shifted, 100))).toBeLessThan(1e-6)
  })
})

describe('bowed course', () => {
  const a = { x: 100, y: 500 }
  const b = { x: 900, y: 300 }

  it.each([-1, -0.5, -0.18, 0.05, 0.18, 0.5, 1])('is a circular arc of sagitta %f times the chord', (bow) => {
    const chord = distance(a, b)
    const course = courseOf(bowedCubics(a, b, bow))
    // Arc length from chord and sagitta: r = (c^2/4 + h^2) / 2h, length = r x angle (elementary geometry).
    const h = Math.abs(bow) * chord
    const r = (chord ** 2 / 4 + h ** 2) / (2 * h)
    const angle = 4 * Math.atan((2 * h) / chord)
    expect(Math.abs(course.length / (r * angle) - 1)).toBeLessThan(5e-4)
    expect(bowThrough(a, b, pointAt(course, course.length / 2))).toBeCloseTo(bow, 3)
    expect(pointAt(course, 0)).toEqual(a)
    expect(pointAt(course, course.length)).toEqual(b)
  })

  it('bows to the left of the direction of travel for positive values: upwards when travelling right', () => {
    const middle = pointAt(courseOf(bowedCubics({ x: 0, y: 0 }, { x: 100, y: 0 }, 0.2)), 1e9 / 2e7)
    expect(middle.y).toBeLessThan(-15)
  })

  it('is a straight line without a bow', () => {
    expect(courseOf(bowedCubics(a, b, 0)).length).toBeCloseTo(distance(a, b), 9)
  })
})
