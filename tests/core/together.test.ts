/** Several stops moved, turned and scaled as one, with what lies between them. */
import fc from 'fast-check'
import { describe, expect, it } from 'vitest'
import { moveTogether, similarity, stackPins } from '#core/edits/trips/together'
import { compile } from '#core/frame/compile'
import { nearestOnCourse } from '#core/geometry/course'
import type { Point } from '#core/geometry/point'
import { distance } from '#core/geometry/point'
import { parseJourney } from '#core/journey/parse'
import type { Journey } from '#core/journey/schema'
import { pinSchema } from '#core/journey/schema'
import { pinBox } from '#core/marks/pins'
import { NO_PLACES } from '#core/labels/label-scene'
import { EVERY_COURSE, journeyWithEveryKind } from '../support/every-kind'
import { journeyOver } from '../support/journeys'

const coursesOf = (journey: Journey) => compile(journey, NO_PLACES).travellers[0]!.legs.map(({ course }) => course)
const pointsOf = (points: Float64Array): Point[] =>
  Array.from({ length: points.length / 2 }, (_, i) => ({ x: points[2 * i]!, y: points[2 * i + 1]! }))

describe('a similarity', () => {
  it('is the matrix that is worked out by hand', () => {
    // Clockwise by 90 degrees about (10, 20), y down: what was to the right is below. Twice as large, and 5 to the left.
    const move = similarity({ pivot: { x: 10, y: 20 }, turn: 90, scale: 2, by: { x: -5, y: 0 } })
    const at = (x: number, y: number) => {
      const p = move({ x, y })
      return [Math.round(1e9 * p.x) / 1e9, Math.round(1e9 * p.y) / 1e9]
    }
    expect(at(10, 20)).toEqual([5, 20])
    expect(at(13, 20)).toEqual([5, 26])
    expect(at(10, 24)).toEqual([-3, 20])
    // By 30 degrees: cos 30 = 0.8660254, sin 30 = 0.5.
    const turned = similarity({ pivot: { x: 0, y: 0 }, turn: 30 })({ x: 100, y: 40 })
    expect(turned.x).toBeCloseTo(86.60254 - 20, 4)
    expect(turned.y).toBeCloseTo(50 + 34.641016, 4)
  })
})

describe('stops that are moved together', () => {
  const journey = journeyWithEveryKind()
  const ids = journey.stops.map(({ id }) => id)

  it('take the courses of every kind between them along, and leave the journey one that can be read', () => {
    const any = fc.record({
      pivot: fc.record({ x: fc.integer({ min: 0, max: 3000 }), y: fc.integer({ min: 0, max: 3000 }) }),
      turn: fc.double({ min: -180, max: 180, noNaN: true }),
      scale: fc.double({ min: 0.3, max: 2, noNaN: true }),
      by: fc.record({ x: fc.integer({ min: -500, max: 500 }), y: fc.integer({ min: -500, max: 500 }) }),
    })
    const kinds = Object.keys(EVERY_COURSE)
    fc.assert(
      fc.property(any, (change) => {
        const move = similarity(change)
        const moved = moveTogether(journey, ids, move)
        expect(() => parseJourney(JSON.parse(JSON.stringify(moved)))).not.toThrow()
        const [was, is] = [coursesOf(journey), coursesOf(moved)]
        kinds.forEach((kind, i) => {
          // Ways over networks follow the network, and great circles the Earth: neither has moved.
          if (kind === 'network' || kind === 'great-circle') return
          for (const p of pointsOf(was[i]!.points)) expect(nearestOnCourse(is[i]!, move(p)).distance, kind).toBeLessThan(1)
        })
      }),
      { numRuns: 20 },
    )
  })

  it('leave alone what leads elsewhere, and everything that is not theirs', () => {
    const { stops, travellers, ...rest } = moveTogether(journey, ['s2', 's3'], similarity({ pivot: { x: 0, y: 0 }, scale: 2 }))
    const { stops: before, travellers: trips, ...others } = journey
    expect(rest).toEqual(others)
    expect(stops.map(({ at }, i) => distance(at, before[i]!.at) > 0)).toEqual(before.map(({ id }) => id === 's2' || id === 's3'))
    expect(travellers[0]!.legs.map(({ course }, i) => course === trips[0]!.legs[i]!.course)).toEqual(trips[0]!.legs.map((_, i) => i !== 2))
  })

  it('forget their places on the Earth, and are back where they were by the opposite', () => {
    const placed = { ...journey, stops: journey.stops.map((stop) => ({ ...stop, place: { lon: 1, lat: 2 } })) }
    const there = moveTogether(placed, ids, similarity({ pivot: { x: 500, y: 400 }, turn: 70, scale: 1.5 }))
    expect(there.stops.map(({ place }) => place)).toEqual(ids.map(() => null))
    const back = moveTogether(there, ids, similarity({ pivot: { x: 500, y: 400 }, turn: -70, scale: 1 / 1.5 }))
    back.stops.forEach(({ at }, i) => expect(distance(at, journey.stops[i]!.at)).toBeLessThan(1e-6))
  })

  it('a way round from a stop to itself stays where that stop alone is moved', () => {
    const round = journeyOver([[0, 0], [500, 0]], { course: EVERY_COURSE.drawn }) // prettier-ignore
    const loop = {
      ...round,
      travellers: [{ ...round.travellers[0]!, visits: round.travellers[0]!.visits.map((visit) => ({ ...visit, stop: 's0' })) }],
    }
    const moved = moveTogether(loop, ['s0'], (p) => ({ x: p.x + 10, y: p.y }))
    expect(moved.travellers[0]!.legs).toEqual(loop.travellers[0]!.legs)
    expect(moved.stops[0]!.at.x).toBe(10)
  })
})

describe('pins of several stops', () => {
  const journey = (): Journey => {
    const plain = journeyOver([[200, 300], [200, 300], [210, 300], [900, 500]]) // prettier-ignore
    const pins = [{ shape: 'stake', size: 60 }, { shape: 'disc', size: 100 }, { shape: 'lantern', size: 80 }, { shape: 'none' }] as const
    return { ...plain, stops: plain.stops.map((stop, i) => ({ ...stop, pin: pinSchema.parse(pins[i]) })) }
  }

  it('stand on one another, whatever their sizes', () => {
    const ids = journey().stops.map(({ id }) => id)
    const boxes = stackPins(journey(), ids).stops.slice(0, 3).map(({ pin }) => pinBox(pin)) // prettier-ignore
    // The stake is 60 high from its foot; the disc is 72 from its lower edge to its upper one, 0.36 of its size to either side.
    expect(boxes[0]!.top).toBeCloseTo(-60, 6)
    expect(boxes[1]!.bottom).toBeCloseTo(-60, 6)
    expect(boxes[1]!.top).toBeCloseTo(-132, 6)
    expect(boxes[2]!.bottom).toBeCloseTo(-132, 6)
    expect(boxes[2]!.top).toBeCloseTo(-212, 6)
    const stacked = stackPins(journey(), ids)
    expect(stacked.stops[3]).toBe(stackPins(stacked, []).stops[3])
    expect(parseJourney(JSON.parse(JSON.stringify(stacked)))).toEqual(stacked)
    // In another order the first one stands where it does.
    expect(stackPins(journey(), [...ids].reverse()).stops[2]!.pin.lift).toBe(0)
  })
})
