/** Points are left out of a line where that cannot be seen, and which ones does not depend on how far the line has come. */
import fc from 'fast-check'
import { describe, expect, it } from 'vitest'
import { projectionOf } from '#core/camera/projection'
import { referenceSize } from '#core/camera/view'
import { polylineCourse } from '#core/geometry/course'
import type { Strand } from '#draw/ink/strand'
import { strandsOf } from '#draw/ink/strand'

const reference = referenceSize({ width: 1920, height: 1080 })
const viewOf = (pitch: number) => ({ centre: { x: 1000, y: 600 }, zoom: 0.8, bearing: 30, pitch })

/** A winding way of many points, with corners. */
const windings = fc.record({ radius: fc.integer({ min: 3, max: 400 }), turns: fc.double({ min: 0.1, max: 3, noNaN: true }), pitch: fc.constantFrom(0, 40) }) // prettier-ignore
const courseOf = (radius: number, turns: number) =>
  polylineCourse(
    Float64Array.from({ length: 1600 }, (_, k) => {
      const i = k >> 1
      const angle = (i / 800) * turns * 2 * Math.PI
      const corner = Math.floor(i / 200) * 40
      return k % 2 === 0 ? 800 + radius * Math.cos(angle) + corner : 500 + radius * Math.sin(angle) + (i / 800) * 200
    }),
  )

function distance([x, y]: readonly [number, number], [ax, ay]: readonly [number, number], [bx, by]: readonly [number, number]): number {
  const [dx, dy] = [bx - ax, by - ay]
  const u = Math.min(1, Math.max(0, ((x - ax) * dx + (y - ay) * dy) / Math.max(1e-12, dx * dx + dy * dy)))
  return Math.hypot(x - ax - u * dx, y - ay - u * dy)
}

const pointsOf = ({ points }: Strand) =>
  Array.from({ length: points.length / 4 }, (_, i) => ({ at: [points[4 * i]!, points[4 * i + 1]!] as const, s: points[4 * i + 3]! }))

describe('strands', () => {
  it('pass within a twentieth of a pixel of each point of their course', () => {
    fc.assert(
      fc.property(windings, ({ radius, turns, pitch }) => {
        const projection = projectionOf(viewOf(pitch), reference)
        const course = courseOf(radius, turns)
        const [strand] = strandsOf(projection, course, [{ from: 0, to: course.length }])
        const points = pointsOf(strand!)
        for (let i = 0, piece = 0; i < 800; i++) {
          while (piece + 2 < points.length && points[piece + 1]!.s < course.lengths[i]!) piece++
          const { x, y } = projection.toScreen({ x: course.points[2 * i]!, y: course.points[2 * i + 1]! })
          expect(distance([x, y], points[piece]!.at, points[piece + 1]!.at)).toBeLessThan(0.05)
        }
      }),
      { numRuns: 40 },
    )
  })

  it('have far fewer points than a course whose curves are wide', () => {
    const course = courseOf(200, 1)
    for (const pitch of [0, 40]) {
      const [strand] = strandsOf(projectionOf(viewOf(pitch), reference), course, [{ from: 0, to: course.length }])
      expect(pointsOf(strand!).length, `pitch ${pitch}`).toBeLessThan(800 / 4)
    }
  })

  it.each([0, 40])('of straight legs grow at their heads, too, at pitch %i', (pitch) => {
    const projection = projectionOf(viewOf(pitch), reference)
    const course = polylineCourse(Float64Array.of(700, 400, 1400, 800))
    const upTo = (to: number) => pointsOf(strandsOf(projection, course, [{ from: 0, to }])[0]!)
    const whole = upTo(course.length)
    for (let head = 5; head < course.length; head += 7.3) {
      const settled = upTo(head).filter(({ s }) => s < head - 48 / 0.8)
      settled.forEach(({ at, s }, i) => {
        for (const [value, same] of [[s, whole[i]!.s], [at[0], whole[i]!.at[0]], [at[1], whole[i]!.at[1]]] as const) expect(value).toBeCloseTo(same, 6) // prettier-ignore
      })
      // The line that is settled reaches as far as that.
      expect(whole[settled.length - 1]?.s ?? 0).toBeGreaterThanOrEqual(head - 2 * (48 / 0.8) - 1)
    }
  })

  it('grow at their heads: all but the last pieces stay as they are', () => {
    fc.assert(
      fc.property(windings, fc.double({ min: 0.1, max: 0.9, noNaN: true }), ({ radius, turns, pitch }, share) => {
        const projection = projectionOf(viewOf(pitch), reference)
        const course = courseOf(radius, turns)
        const upTo = (to: number) => pointsOf(strandsOf(projection, course, [{ from: 0, to }])[0]!)
        const [short, long] = [upTo(share * course.length), upTo(course.length)]
        const same = short.filter(({ s }, i) => long[i]?.s === s).length
        expect(same).toBeGreaterThanOrEqual(short.length - 2)
        // As far as a frame is not painted again behind the head: 48 reference pixels at the middle of the view.
        expect(short.at(-1)!.s - (short[same - 1]?.s ?? 0)).toBeLessThanOrEqual(48 / 0.8 + 1e-6)
      }),
      { numRuns: 40 },
    )
  })
})
