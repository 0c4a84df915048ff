import fc from 'fast-check'
import { describe, expect, it } from 'vitest'
import type { FrameRate } from '#core/pace/rate'
import { FRAME_RATES, frameCount } from '#core/pace/rate'
import type { Itinerary } from '#core/pace/schedule'
import { naturalTotal, schedule, TimesError } from '#core/pace/schedule'
import { largestRemainder } from '#core/pace/share-out'

const trip = (travel: (number | null)[], layover: number | null = 1, weights = travel.map(() => 1)): Itinerary => ({
  startDelay: 0,
  layovers: [...travel, null].map(() => layover),
  held: [...travel, null].map(() => ({ arrive: null, leave: null })),
  legs: travel.map((t, i) => ({ travel: t, rests: 0, weight: weights[i]! })),
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

  it('shares out what is left by weight, on top of what a leg rests', () => {
    const travelled = (itinerary: Itinerary) => {
      const visits = schedule(itinerary, 13, '30/1')
      return visits.slice(1).map((visit, i) => (visit.arrive - visits[i]!.leave) / 30)
    }
    const even = trip([null, null], 1, [1, 1])
    expect(travelled(even)).toEqual([5, 5])
    expect(travelled(trip([null, null], 1, [100, 400]))).toEqual([2, 8])
    expect(travelled({ ...even, legs: [even.legs[0]!, { ...even.legs[1]!, rests: 2 }] })).toEqual([4, 6])
  })

  it('keeps set times and lets the others stretch', () => {
    const visits = schedule(trip([2, null, 3], 0.5), 20, '30/1')
    expect(visits[1]!.arrive - visits[0]!.leave).toBe(60)
    expect(visits[3]!.arrive - visits[2]!.leave).toBe(90)
    expect(visits[2]!.arrive - visits[1]!.leave).toBe(600 - 60 - 90 - 60)
  })

  it('rests at the end when all times are set and some is left', () => {
    const visits = schedule(trip([2, 2], 1), 20, '30/1')
    expect(visits.at(-1)).toEqual({ arrive: 180, leave: 600 })
  })

  it('refuses what cannot be met and names the shortest length that would do', () => {
    expect(() => schedule(trip([6, null], 1), 8, '30/1')).toThrow(
      new TimesError(
        'The set travel times and layovers need at least 9.3 s, but the journey is 8 s long: make it longer, or shorten some of them.',
      ),
    )
    expect(() => schedule(trip([6, null], 1), 9.25, '30/1')).not.toThrow()
  })

  it('shares out rests that nobody has set: as long as usual where there is time, else a third of what there is', () => {
    const frames = (legs: number, seconds: number) =>
      schedule(trip(Array(legs).fill(null) as null[], null), seconds, '30/1').map(({ arrive, leave }) => leave - arrive)
    expect(frames(3, 20)).toEqual([18, 30, 30, 60])
    const many = frames(40, 20)
    expect(many.reduce((a, b) => a + b, 0)).toBeGreaterThan(190)
    expect(many.reduce((a, b) => a + b, 0)).toBeLessThanOrEqual(210)
    expect(Math.min(...many)).toBeGreaterThan(0)
  })

  it('gives every leg a frame at least, however many there are', () => {
    const visits = schedule(trip(Array(199).fill(null) as null[], null), 7, '30/1')
    visits.slice(1).forEach(({ arrive }, i) => expect(arrive - visits[i]!.leave).toBeGreaterThan(0))
    expect(visits.at(-1)!.leave).toBe(210)
  })

  it('arrives a frame before the end even without a last layover', () => {
    const visits = schedule(trip([null], 0), 5, '25/1')
    expect(visits.at(-1)).toEqual({ arrive: 124, leave: 125 })
  })
})

describe('held arrivals and departures', () => {
  const held = (itinerary: Itinerary, times: Record<number, [arrive: number | null, leave: number | null]>): Itinerary => ({
    ...itinerary,
    held: itinerary.held.map((none, i) => (times[i] ? { arrive: times[i][0], leave: times[i][1] } : none)),
  })

  it.each(FRAME_RATES)('are kept to the frame at %s, and so is the total, whatever is set between', (rate) => {
    const duration = fc.option(fc.double({ min: 0.3, max: 2, noNaN: true }), { freq: 1 })
    const legs = fc.array(
      fc.tuple(duration, duration, fc.double({ min: 0.1, max: 100, noNaN: true }), fc.constantFrom('no', 'arrive', 'leave', 'both')),
      {
        minLength: 2,
        maxLength: 8,
      },
    )
    fc.assert(
      fc.property(legs, fc.double({ min: 0.6, max: 2, noNaN: true }), (parts, air) => {
        const free = trip(
          parts.map(([travel]) => travel),
          null,
          parts.map(([, , weight]) => weight),
        )
        const layovers = [null, ...parts.map(([, layover], i) => (i === parts.length - 1 ? null : layover))]
        // Moments far enough apart for what is set between them; a leg whose stretch is all set gets an automatic time.
        let now = 3
        const times: Record<number, [number | null, number | null]> = {}
        const travel = [...free.legs]
        parts.forEach(([set, layover, , hold], i) => {
          now += (set ?? 0.5) + air
          if (hold === 'arrive' || hold === 'both') {
            times[i + 1] = [now, null]
            travel[i] = { ...travel[i]!, travel: null }
          }
          now += (layover ?? 0.5) + air
          if ((hold === 'leave' || hold === 'both') && i < parts.length - 1) {
            times[i + 1] = [times[i + 1]?.[0] ?? null, now]
            layovers[i + 1] = null
          }
        })
        const itinerary = held({ ...free, layovers, legs: travel }, times)
        const total = now + 3
        const visits = schedule(itinerary, total, rate)
        const frames = frameCount(total, rate)
        expect(visits.at(-1)!.leave).toBe(frames)
        for (const [i, [arrive, leave]] of Object.entries(times)) {
          if (arrive !== null) expect(visits[Number(i)]!.arrive).toBe(frameCount(arrive, rate))
          if (leave !== null) expect(visits[Number(i)]!.leave).toBe(frameCount(leave, rate))
        }
        // What is set is kept: a moment to either side is rounded to a whole frame.
        const [n, d] = rate.split('/').map(Number) as [number, number]
        itinerary.legs.forEach(({ travel: set }, i) => {
          const took = visits[i + 1]!.arrive - visits[i]!.leave
          if (set !== null) expect(Math.abs(took - (set * n) / d)).toBeLessThan(2)
          else expect(took).toBeGreaterThan(0)
        })
      }),
      { numRuns: 80 },
    )
  })

  it('share what lies before them among the automatic times, and leave the rest to those after', () => {
    const visits = schedule(held(trip([null, null, null], 1), { 2: [9, null] }), 20, '30/1')
    // 9 s are two layovers of a second and two legs; the others have 20 - 9 s less two layovers.
    expect(visits.map(({ arrive }) => arrive)).toEqual([0, 30 + 105, 270, 270 + 30 + 270])
  })

  it('that cannot be kept are refused by name, with the moment that would do', () => {
    const fixed = trip([4, 4, null], 1)
    expect(() => schedule(held(fixed, { 2: [8, null] }), 30, '30/1')).toThrow(
      'Stop 3 is to be reached at 8 s, but the times set before it end at 10 s at the soonest: hold it later, or shorten some of them.',
    )
    expect(() => schedule(held(fixed, { 2: [12, null] }), 30, '30/1')).toThrow(
      'Stop 3 is to be reached at 12 s, but the times set since 0 s take only 10 s: make one of them automatic.',
    )
    expect(() => schedule(held(trip([null, null], null), { 1: [8, 5] }), 30, '30/1')).toThrow(/Stop 2 is to be left at 5 s, before 8 s/)
    expect(() => schedule(held(trip([null, null], null), { 1: [28, null] }), 20, '30/1')).toThrow(
      /need at least 28\.3 s, but the journey is 20 s long/,
    )
  })
})

describe('a film as long as its trip', () => {
  it('has the usual layovers, and legs that take so long on average, whichever of them are set', () => {
    // 0.6 s, two layovers of 1 s, 2 s at the end, and three legs.
    expect(naturalTotal(trip([null, null, null], null), 8, '30/1')).toBeCloseTo(0.6 + 2 + 2 + 24, 9)
    const weighed = trip([null, null], null, [1, 3])
    const total = naturalTotal(weighed, 10, '30/1')
    const visits = schedule(weighed, total, '30/1')
    expect(visits.slice(1).map(({ arrive }, i) => arrive - visits[i]!.leave)).toEqual([150, 450])
    const set = { ...weighed, legs: [{ ...weighed.legs[0]!, travel: 8 }, weighed.legs[1]!] }
    const later = schedule(set, naturalTotal(set, 10, '30/1'), '30/1')
    expect(later[2]!.arrive - later[1]!.leave).toBe(450)
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
