/** How fast vehicles turn: no faster than a limit, without lag, whichever moment is asked for first. */
import fc from 'fast-check'
import { describe, expect, it } from 'vitest'
import { turning } from '#core/trips/turning'

const number = (min: number, max: number) => fc.double({ min, max, noNaN: true })
/** The angle between two directions, the shorter way round. */
const between = (a: number, b: number) => Math.abs(Math.atan2(Math.sin(b - a), Math.cos(b - a)))

/** A direction that swings, and jumps at some moments, over 40 seconds. */
const anyCourse = fc
  .record({
    swing: number(0, 1.5),
    pace: number(0.1, 3),
    // Some of them about frames 256, 512 and 1024, where what is worked out together ends.
    jumps: fc.array(fc.record({ at: fc.oneof(number(0, 40), number(8.3, 8.8), number(16.8, 17.4), number(33.8, 34.4)), by: number(-3, 3) }), { maxLength: 12 }), // prettier-ignore
  })
  .map(
    ({ swing, pace, jumps }) =>
      (t: number) =>
        swing * Math.sin(pace * t) + jumps.reduce((sum, { at, by }) => sum + (t >= at ? by : 0), 0),
  )

describe('the direction of a vehicle', () => {
  it('is the mean of what is below and above it and never turns by more than 15 degrees a frame at 30 frames a second', () => {
    const most = (15 * Math.PI) / 180
    fc.assert(
      fc.property(anyCourse, fc.integer({ min: 0, max: 1199 }), (course, asked) => {
        const turned = turning(course, 0, 40, 30)
        // By the definition, over all samples at once; whole turns are taken out where the course jumps by more than half of one.
        const samples: number[] = []
        for (let k = 0; k <= 1200; k++) {
          const angle = course(k / 30)
          const last = samples[k - 1] ?? angle
          samples.push(last + Math.atan2(Math.sin(angle - last), Math.cos(angle - last)))
        }
        const limited = (k: number) => {
          let [above, below] = [-Infinity, Infinity]
          samples.forEach((value, j) => {
            above = Math.max(above, value - most * Math.abs(j - k))
            below = Math.min(below, value + most * Math.abs(j - k))
          })
          return (above + below) / 2
        }
        for (const k of [asked, 250, 255, 256, 257, 262, 511, 512, 513, 1024, 1200])
          expect(between(turned(k / 30), limited(k))).toBeLessThan(1e-6)
        for (let k = 1; k <= 1200; k++) expect(between(turned((k - 1) / 30), turned(k / 30))).toBeLessThan(most + 1e-6)
      }),
      { numRuns: 60 },
    )
  })

  it('stays what it is where it turns slowly enough, and may jump where its course is cut', () => {
    const slow = (t: number) => 0.4 * t
    expect(turning(slow, 0, 30, 30)(12.345)).toBe(slow(12.345))
    const cut = (t: number) => (t < 9 ? 0 : 2)
    const turned = turning(cut, 0, 30, 30, [9])
    expect([turned(8.9999), turned(9), turned(9.5)].map((angle) => Number(angle.toFixed(6)))).toEqual([0, 2, 2])
  })
})
