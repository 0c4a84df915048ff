import fc from 'fast-check'
import { describe, expect, it } from 'vitest'
import { JourneyError } from '#core/error'
import type { FrameRate } from '#core/pace/rate'
import { FRAME_RATES, frameCount } from '#core/pace/rate'
import { largestRemainder, schedule } from '#core/pace/schedule'

const trip = (travel: (number | null)[], layover: number | null = 1, lengths = travel.map(() => 100)) => ({
  startDelay: 0,
  layovers: [...travel, null].map(() => layover),
  legs: travel.map((t, i) => ({ travel: t, length: lengths[i]! })),
})

describe('schedule', () => {
  it.each(FRAME_RATES)('adds up to the total, to the frame, at %s', (rate) => {
    const seconds = fc.double({ min: 12, max: 60, noNaN: true })
    const layover = fc.double({ min: 0, max: 1.5, noNaN: true })
    fc.assert(
      fc.property(
        seconds,
        layover,
        fc.array(fc.double({ min: 0.1, max: 1e5, noNaN: true }), { minLength: 1, maxLength: 6 }),
        (total, rest, lengths) => {
          const visits = schedule(
            trip(
              lengths.map(() => null),
              rest,
              lengths,
            ),
            total,
            rate as FrameRate,
            0.5,
          )
          const n = frameCount(total, rate)
          expect(visits[0]!.arrive).toBe(0)
          expect(visits.at(-1)!.leave).toBe(n)
          expect(visits.at(-1)!.arrive).toBeLessThanOrEqual(n - 1)
          visits.forEach((visit, i) => {
            expect(Number.isInteger(visit.arrive) && Number.isInteger(visit.leave)).toBe(true)
            expect(visit.leave).toBeGreaterThanOrEqual(visit.arrive)
            if (i > 0) expect(visit.arrive).toBeGreaterThan(visits[i - 1]!.leave)
          })
        },
      ),
      { numRuns: 60 },
    )
  })

  it('shares out what is left by length to the exponent', () => {
    const visits = (exponent: number) => schedule(trip([null, null], 1, [100, 400]), 13, '30/1', exponent)
    const times = (exponent: number) =>
      visits(exponent)
        .slice(1)
        .map((visit, i) => (visit.arrive - visits(exponent)[i]!.leave) / 30)
    expect(times(0)).toEqual([5, 5])
    expect(times(1)).toEqual([2, 8])
    expect(times(0.5).map((t) => t.toFixed(2))).toEqual(['3.33', '6.67'])
  })

  it('keeps set times and lets the others stretch', () => {
    const visits = schedule(trip([2, null, 3], 0.5), 20, '30/1', 0.5)
    expect(visits[1]!.arrive - visits[0]!.leave).toBe(60)
    expect(visits[3]!.arrive - visits[2]!.leave).toBe(90)
    expect(visits[2]!.arrive - visits[1]!.leave).toBe(600 - 60 - 90 - 60)
  })

  it('rests at the end when all times are set and some is left', () => {
    const visits = schedule(trip([2, 2], 1), 20, '30/1', 0.5)
    expect(visits.at(-1)).toEqual({ arrive: 180, leave: 600 })
  })

  it('refuses what cannot be met and names the shortest length that would do', () => {
    expect(() => schedule(trip([6, null], 1), 8, '30/1', 0.5)).toThrow(
      new JourneyError(
        'The set travel times and layovers need at least 9.3 s, but the journey is 8 s long: make it longer, or shorten some of them.',
      ),
    )
    expect(() => schedule(trip([6, null], 1), 9.25, '30/1', 0.5)).not.toThrow()
  })

  it('shares out rests that nobody has set: as long as usual where there is time, else a third of what there is', () => {
    const frames = (legs: number, seconds: number) =>
      schedule(trip(Array(legs).fill(null) as null[], null), seconds, '30/1', 0.5).map(({ arrive, leave }) => leave - arrive)
    expect(frames(3, 20)).toEqual([18, 30, 30, 60])
    const many = frames(40, 20)
    expect(many.reduce((a, b) => a + b, 0)).toBeGreaterThan(190)
    expect(many.reduce((a, b) => a + b, 0)).toBeLessThanOrEqual(210)
    expect(Math.min(...many)).toBeGreaterThan(0)
  })

  it('gives every leg a frame at least, however many there are', () => {
    const visits = schedule(trip(Array(199).fill(null) as null[], null), 7, '30/1', 1)
    visits.slice(1).forEach(({ arrive }, i) => expect(arrive - visits[i]!.leave).toBeGreaterThan(0))
    expect(visits.at(-1)!.leave).toBe(210)
  })

  it('arrives a frame before the end even without a last layover', () => {
    const visits = schedule(trip([null], 0), 5, '25/1', 0.5)
    expect(visits.at(-1)).toEqual({ arrive: 124, leave: 125 })
  })
})

describe('largest remainder', () => {
  it('rounds to whole numbers that add up, and never gives to nobody', () => {
    expect(largestRemainder([1.5, 1.5, 1], 4)).toEqual([2, 1, 1])
    expect(largestRemainder([0, 1, 0, 1], 3)).toEqual([0, 2, 0, 1])
    fc.assert(
      fc.property(fc.array(fc.double({ min: 0, max: 100, noNaN: true }), { minLength: 1, maxLength: 12 }), fc.nat(5000), (parts, total) => {
        fc.pre(parts.some((part) => part > 1e-3))
        const whole = largestRemainder(parts, total)
        expect(whole.reduce((a, b) => a + b, 0)).toBe(total)
      }),
    )
  })
})
