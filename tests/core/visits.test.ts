/** Trips that come back: a stop may be visited any number of times. */
import fc from 'fast-check'
import { describe, expect, it } from 'vitest'
import { compile } from '#core/frame/compile'
import type { LabelItem, PinItem } from '#core/frame/frame'
import { frameAt } from '#core/frame/frame-at'
import { upwardBow } from '#core/geometry/bow'
import { editLeg } from '#core/edits/lines/legs'
import { setSeconds } from '#core/edits/pace/film-length'
import { setLayover } from '#core/edits/pace/pace'
import { parseJourney } from '#core/journey/parse'
import { NO_PLACES } from '#core/labels/label-scene'
import type { Journey } from '#core/journey/schema'
import { insertStop, removeStop, removeVisit, reverseTrip } from '#core/edits/trips/trips'
import { arrange, goOnTo, moveVisit, visitsOf } from '#core/edits/trips/visits'
import { journeyWithEveryKind } from '../support/every-kind'
import { journeyOver } from '../support/journeys'

const order = (journey: Journey) => journey.travellers[0]!.visits.map(({ stop }) => stop).join(' ')
const legs = (journey: Journey) => journey.travellers[0]!.legs.map(({ id }) => id).join(' ')
const layovers = (journey: Journey) => journey.travellers[0]!.visits.map(({ layover }) => layover)
const check = (journey: Journey) => parseJourney(JSON.parse(JSON.stringify(journey)))

/** Out from s0 to s1 and s2, and back over s1 to s0. */
const there = journeyOver([
  [100, 100],
  [600, 300],
  [1200, 900],
])
const back = ['s1', 's0'].reduce(
  (j, id, i) => goOnTo(j, j.stops.find((stop) => stop.id === id)!.at, { stop: `x${i}`, leg: `b${i}` }, { traveller: 'traveller' }),
  there,
)

describe('a trip out and back', () => {
  it('visits its own stops again, without making new ones', () => {
    expect(order(back)).toBe('s0 s1 s2 s1 s0')
    expect(back.stops).toHaveLength(3)
    expect(check(back)).toEqual(back)
    expect(visitsOf(back.travellers[0]!, 's1')).toEqual([1, 3])
  })

  it('has one pin and one name for each stop, which appear with the first visit', () => {
    const compiled = compile(back)
    const [, first, , second] = compiled.travellers[0]!.visits
    const seen = (t: number, kind: 'pin' | 'label') =>
      frameAt(compiled, t).items.filter((item): item is PinItem | LabelItem => item.kind === kind && item.stop === 's1')
    expect(first!.stop).toBe(second!.stop)
    for (const kind of ['pin', 'label'] as const) {
      expect(seen(first!.arrive - 0.5, kind)).toHaveLength(0)
      expect(seen(first!.arrive + 0.5, kind)).toHaveLength(1)
      expect(seen(second!.arrive + 0.5, kind)[0]).toMatchObject(kind === 'pin' ? { scale: 1, opacity: 1 } : { elapsed: null })
    }
  })

  it('loses one visit, and only with the last the stop', () => {
    const once = removeVisit(back, 3, 'traveller')
    expect([order(once), legs(once)]).toEqual(['s0 s1 s2 s0', 'l1 l2 b0'])
    expect(once.stops).toHaveLength(3)
    expect(order(removeStop(once, 's1', 'traveller'))).toBe('s0 s2 s0')
    // Without its turning point the trip would lead from s1 to s1: there it is one visit.
    expect([order(removeVisit(back, 2, 'traveller')), legs(removeVisit(back, 2, 'traveller'))]).toEqual(['s0 s1 s0', 'l1 b1'])
    expect(order(removeStop(back, 's1', 'traveller'))).toBe('s0 s2 s0')
    expect(removeStop(back, 's0', 'traveller').stops.map(({ id }) => id)).toEqual(['s1', 's2'])
  })

  it('keeps a loop that was drawn when only its turning point is removed', () => {
    const drawn = ['l2', 'b0'].reduce(
      (j, id) =>
        editLeg(j, id, { course: { kind: 'drawn', leave: { x: 90, y: 0 }, nodes: [], arrive: { x: 0, y: id === 'l2' ? -90 : 90 } } }),
      back,
    )
    const loop = removeVisit(drawn, 2, 'traveller')
    expect(order(loop)).toBe('s0 s1 s1 s0')
    const lengths = (j: Journey) => compile(j).travellers[0]!.legs.map(({ course }) => course.length)
    expect(lengths(loop)[1]).toBeCloseTo(lengths(drawn)[1]! + lengths(drawn)[2]!, 1)
  })

  it('is put into another order by visits; those that stay neighbours keep their leg', () => {
    const moved = moveVisit(back, 3, 1, 'traveller')
    expect(order(moved)).toBe('s0 s1 s1 s2 s0')
    expect(legs(arrange(back, [0, 1, 2], 'traveller'))).toBe('l1 l2')
    expect(legs(moved)).toContain('l2')
    expect(() => compile(check(moved))).not.toThrow()
  })

  it('keeps its rest at the end there when it is reversed, and the others with their visits', () => {
    const set = [0.3, 0.7, 1.1, null, 2.5].reduce<Journey>((j, layover, i) => setLayover(j, i, layover, 'traveller'), setSeconds(back, 20))
    const reversed = reverseTrip(set, 'traveller')
    expect(layovers(reversed)).toEqual([0.3, null, 1.1, 0.7, 2.5])
    expect(reverseTrip(reversed, 'traveller')).toEqual(set)
  })

  it('takes a set rest along when a visit is moved, and away when it is removed', () => {
    const set = setLayover(back, 1, 0.7, 'traveller')
    expect(layovers(moveVisit(set, 1, 3, 'traveller'))).toEqual([null, null, null, 0.7, null])
    expect(layovers(removeVisit(set, 1, 'traveller'))).toEqual([null, null, null, null])
  })
})

describe('a new leg of a flight', () => {
  it('bows upwards, whichever way it runs', () => {
    const plane = {
      vehicle: { kind: 'catalogue', artwork: 'airliner', colour: '#d8412f', size: 90 },
      course: { kind: 'bowed', bow: 0.2 },
    } as const
    const start = editLeg(journeyOver([[300, 600], [1500, 700]], {}, 20), 'l1', plane) // prettier-ignore
    const back = goOnTo(
      goOnTo(start, { x: 200, y: 400 }, { stop: 'c', leg: 'c' }, { traveller: 'traveller' }),
      { x: 1700, y: 300 },
      { stop: 'd', leg: 'd' },
      { traveller: 'traveller' },
    )
    compile(back).travellers[0]!.legs.forEach(({ course }, i) => {
      const [a, b] = [course.points[1]!, course.points.at(-1)!]
      const middle = course.points[2 * Math.floor(course.points.length / 4) + 1]!
      expect(middle, `leg ${i + 1}`).toBeLessThan((a + b) / 2)
    })
  })

  it('bows to the north on a map that is turned', () => {
    const south = { toLonLat: ({ y }: { y: number }) => ({ lat: y / 100 }) }
    expect(upwardBow({ x: 0, y: 0 }, { x: 100, y: 0 }, 0.2, south)).toBe(-0.2)
    expect(upwardBow({ x: 100, y: 0 }, { x: 0, y: 0 }, -0.2, south)).toBe(0.2)
    expect(upwardBow({ x: 0, y: 0 }, { x: 100, y: 0 }, 0.2)).toBe(0.2)
  })
})

describe('whatever is done to the visits of a trip with every kind of course', () => {
  it('leaves a valid journey whose legs lead from visit to visit', () => {
    const at = fc.nat(7)
    type Step = (journey: Journey, k: number) => Journey
    const step = fc.oneof(
      at.map(
        (i): Step =>
          (j, k) =>
            goOnTo(
              j,
              j.stops[i % Math.max(1, j.stops.length)]?.at ?? { x: 9, y: 9 },
              { stop: `n${k}`, leg: `m${k}` },
              { traveller: 'traveller' },
            ),
      ),
      at.map(
        (i): Step =>
          (j) =>
            removeVisit(j, i, 'traveller'),
      ),
      at.map(
        (i): Step =>
          (j) =>
            j.stops[i] ? removeStop(j, j.stops[i]!.id, 'traveller') : j,
      ),
      fc.tuple(at, at).map(
        ([a, b]): Step =>
          (j) =>
            moveVisit(j, a, Math.min(b, j.travellers[0]!.visits.length - 1), 'traveller'),
      ),
      fc.constant<Step>((j) => reverseTrip(j, 'traveller')),
      at.map((i): Step => (j, k) => {
        const leg = j.travellers[0]!.legs[i]
        return leg ? insertStop(j, leg.id, { x: 1500, y: 1500 }, { stop: `i${k}`, leg: `k${k}` }) : j
      }),
    )
    fc.assert(
      fc.property(fc.array(step, { maxLength: 12 }), (steps) => {
        const journey = steps.reduce((j, next, k) => next(j, k), journeyWithEveryKind())
        const compiled = compile(check(journey), NO_PLACES)
        const { visits, legs: made } = compiled.travellers[0]!
        made.forEach(({ course }, i) => {
          const [a, b] = [visits[i]!.stop.at, visits[i + 1]!.stop.at]
          expect([course.points[0], course.points[1]]).toEqual([a.x, a.y])
          expect(course.points.at(-2)).toBeCloseTo(b.x, 6)
          expect(course.points.at(-1)).toBeCloseTo(b.y, 6)
        })
      }),
      { numRuns: 150 },
    )
  })
})
