import fc from 'fast-check'
import { describe, expect, it } from 'vitest'
import { projectionOf } from '#core/camera/projection'
import { distance } from '#core/geometry/point'
import { editLeg } from '#core/edits/lines/legs'
import { compile } from '#core/frame/compile'
import { NO_PLACES } from '#core/labels/label-scene'
import { frameAt } from '#core/frame/frame-at'
import { routeOf } from '#core/formats/route'
import { setSeconds } from '#core/edits/pace/film-length'
import { holdArrival, setLayover } from '#core/edits/pace/pace'
import { goOnTo, moveVisit } from '#core/edits/trips/visits'
import { JourneyError } from '#core/error'
import { vehicleSchema } from '#core/journey/schema'
import { parseJourney } from '#core/journey/parse'
import type { Journey } from '#core/journey/schema'
import * as travellers from '#core/edits/trips/travellers'
import { insertStop, removeStop, reverseTrip } from '#core/edits/trips/trips'
import { demo, journeyOver } from '../support/journeys'

const ids = (n: number) => ({ stop: `s${n}`, leg: `w${n}` })
const visitsOf = (journey: Journey, i: number) => journey.travellers[i]!.visits.map((visit) => visit.stop)

/** The demo with a second traveller, who comes from Saltern to Lampwick and goes on to Emberlight with the first. */
function two(): Journey {
  const who = { traveller: 'b' }
  let journey = travellers.addTraveller(demo(), 'b')
  journey = goOnTo(journey, { x: 4860, y: 2620 }, ids(1), { ...who, name: 'Saltern' })
  for (const [n, stop] of ['lampwick', 'emberlight'].entries())
    journey = goOnTo(journey, journey.stops.find(({ id }) => id === stop)!.at, ids(n + 2), who)
  return journey
}
const check = (journey: Journey) => parseJourney(JSON.parse(JSON.stringify(journey)))

describe('several travellers', () => {
  it('have colours of their own, and share the stops at which they meet', () => {
    const journey = two()
    expect(check(journey)).toEqual(journey)
    expect(journey.travellers.map(({ colour }) => colour)).toEqual(['#d8412f', '#17646b'])
    expect(visitsOf(journey, 1)).toEqual(['s1', 'lampwick', 'emberlight'])
    expect(journey.stops).toHaveLength(6)
    expect(journey.travellers[1]!.legs.every(({ ink }) => ink.colour === '#17646b')).toBe(true)
    expect(travellers.nameOfTraveller(journey, journey.travellers[1]!)).toBe('Traveller 2')
  })

  it('come back to a stop of their own, and stay where they are', () => {
    const journey = goOnTo(two(), demo().stops[3]!.at, ids(9), { traveller: 'b' })
    expect(visitsOf(journey, 1)).toEqual(['s1', 'lampwick', 'emberlight', 'lampwick'])
    expect(journey.stops).toHaveLength(6)
    expect(() => check(journey)).not.toThrow()
    expect(goOnTo(journey, demo().stops[3]!.at, ids(10), { traveller: 'b' })).toBe(journey)
  })

  it('are all in the frame, with one pin for a shared stop, at the first arrival', () => {
    const compiled = compile(two())
    const last = frameAt(compiled, compiled.lastTime)
    const count = (kind: string) => last.items.filter((item) => item.kind === kind).length
    expect([count('ink'), count('pin'), count('label')]).toEqual([6, 6, 6])
    expect(
      new Set(last.items.map((item) => ('stop' in item ? `${item.kind} ${item.stop}` : 'leg' in item ? `${item.kind} ${item.leg}` : '')))
        .size,
    ).toBe(last.items.filter((item) => 'stop' in item || 'leg' in item).length + 1)
    const arrivals = compiled.travellers.map(({ visits }) => visits.find(({ stop }) => stop.id === 'lampwick')!.arrive)
    expect(compiled.marks.find(({ stop }) => stop.id === 'lampwick')!.arrive).toBe(Math.min(...arrivals))
    expect(last.motions).toHaveLength(2)
  })

  it('that are hidden are not in the film, nor their stops, nor in the saved route; but they keep their trip', () => {
    const journey = travellers.editTraveller(two(), 'b', { shown: false })
    const compiled = compile(journey)
    const last = frameAt(compiled, compiled.lastTime)
    expect(last.items.some((item) => 'stop' in item && item.stop === 's1')).toBe(false)
    expect(last.items.filter((item) => item.kind === 'ink')).toHaveLength(4)
    expect(routeOf(compiled, undefined).legs).toHaveLength(4)
    expect(routeOf(compile(two()), undefined).legs).toHaveLength(6)
    expect(compiled.travellers[1]!.legs).toHaveLength(2)
  })

  it('each have their own schedule', () => {
    const journey = travellers.editTraveller(two(), 'b', { startDelay: 3 })
    const [a, b] = compile(journey).travellers
    expect([a!.visits[0]!.arrive, b!.visits[0]!.arrive]).toEqual([0, 3])
    const longer = setLayover(journey, 1, 2.5, 'b')
    const [c, d] = compile(longer).travellers
    expect(c!.visits).toEqual(a!.visits)
    expect(d!.visits[1]!.leave - d!.visits[1]!.arrive).toBeCloseTo(2.5, 9)
  })

  it('are turned round one by one', () => {
    const journey = reverseTrip(two(), 'b')
    expect(visitsOf(journey, 0)).toEqual(visitsOf(two(), 0))
    expect(visitsOf(journey, 1)).toEqual(visitsOf(two(), 1).reverse())
  })

  it('leave a shared stop one by one; with the last of them it is gone', () => {
    const without = removeStop(two(), 'lampwick', 'b')
    expect(visitsOf(without, 0)).toEqual(visitsOf(two(), 0))
    expect(visitsOf(without, 1)).toEqual(['s1', 'emberlight'])
    expect(without.stops.some(({ id }) => id === 'lampwick')).toBe(true)
    expect(removeStop(without, 'lampwick', 'traveller').stops.some(({ id }) => id === 'lampwick')).toBe(false)
  })

  it('are duplicated over the same stops, in a colour of their own', () => {
    const journey = travellers.duplicateTraveller(two(), 'b', 'c', ['c1', 'c2'])
    expect(() => check(journey)).not.toThrow()
    expect(journey.travellers.map(({ id }) => id)).toEqual(['traveller', 'b', 'c'])
    expect(visitsOf(journey, 2)).toEqual(visitsOf(journey, 1))
    expect(journey.stops).toEqual(two().stops)
    const { colour, legs } = journey.travellers[2]!
    expect(colour).toBe('#27406b')
    expect(legs.every((leg) => leg.ink.colour === colour)).toBe(true)
  })

  it('are taken out with the stops that only they visited; the last one stays', () => {
    const journey = travellers.removeTraveller(two(), 'b')
    expect(journey.stops.map(({ id }) => id)).toEqual(demo().stops.map(({ id }) => id))
    expect(travellers.removeTraveller(journey, 'traveller')).toBe(journey)
  })

  it('are put into another order', () => {
    const journey = two()
    expect(travellers.moveTraveller(journey, 1, 0).travellers.map(({ id }) => id)).toEqual(['b', 'traveller'])
    expect(travellers.moveTraveller(journey, 0, 5)).toBe(journey)
  })

  it('may not be of one id, or without any', () => {
    const [traveller] = demo().travellers
    expect(() => check({ ...demo(), travellers: [traveller!, { ...traveller!, legs: [], visits: [] }] })).toThrow(
      /another traveller has already/,
    )
    expect(() => check({ ...demo(), travellers: [] })).toThrow(JourneyError)
  })

  /** The changed journey; as it was where the traveller concerned has been removed before, which must be told. */
  function unlessGone(journey: Journey, change: (journey: Journey) => Journey): Journey {
    try {
      return change(journey)
    } catch (error) {
      expect(error).toBeInstanceOf(JourneyError)
      expect((error as JourneyError).message).toMatch(/not in the journey any more/)
      return journey
    }
  }

  it('keep a valid journey, whatever is done to them and in whatever order', () => {
    const spot = fc.record({ x: fc.integer({ min: 0, max: 6400 }), y: fc.integer({ min: 0, max: 3600 }) })
    const who = fc.constantFrom('traveller', 'b', 'c3', 'c5')
    type Step = (journey: Journey, k: number) => Journey
    const step: fc.Arbitrary<Step> = fc.oneof(
      who.chain((traveller) =>
        spot.map(
          (at): Step =>
            (j, k) =>
              goOnTo(j, at, ids(100 + k), { traveller }),
        ),
      ),
      who.chain((traveller) =>
        fc.nat(6).map(
          (i): Step =>
            (j, k) =>
              goOnTo(j, j.stops[i % Math.max(1, j.stops.length)]?.at ?? { x: 1, y: 1 }, ids(100 + k), { traveller }),
        ),
      ),
      who.map(
        (traveller): Step =>
          (j, k) =>
            j.travellers.length < 6
              ? travellers.duplicateTraveller(
                  j,
                  traveller,
                  `c${k}`,
                  j.travellers.find(({ id }) => id === traveller)?.legs.map((_, i) => `d${k}-${i}`) ??
                    j.travellers[0]!.legs.map((_, i) => `d${k}-${i}`),
                )
              : j,
      ),
      who.map(
        (traveller): Step =>
          (j) =>
            travellers.removeTraveller(j, traveller),
      ),
      who.chain((traveller) =>
        fc.nat(6).map(
          (i): Step =>
            (j) =>
              j.stops[i] ? removeStop(j, j.stops[i]!.id, traveller) : j,
        ),
      ),
      who.map(
        (traveller): Step =>
          (j) =>
            reverseTrip(j, traveller),
      ),
      fc.nat(6).map((i): Step => (j, k) => {
        const leg = j.travellers.flatMap(({ legs }) => legs)[i]
        return leg ? insertStop(j, leg.id, { x: 3000, y: 1500 }, ids(200 + k)) : j
      }),
      who.chain((traveller) =>
        fc.tuple(fc.nat(4), fc.nat(4)).map(
          ([a, b]): Step =>
            (j) =>
              moveVisit(
                j,
                a,
                Math.min(b, Math.max(0, (j.travellers.find(({ id }) => id === traveller) ?? j.travellers[0]!).visits.length - 1)),
                traveller,
              ),
        ),
      ),
    )
    fc.assert(
      fc.property(fc.array(step, { maxLength: 10 }), (steps) => {
        const journey = steps.reduce((j, change, k) => unlessGone(j, (now) => change(now, k)), setSeconds(two(), 120))
        expect(() => compile(check(journey), NO_PLACES)).not.toThrow()
        const visited = new Set(journey.travellers.flatMap(({ visits }) => visits.map(({ stop }) => stop)))
        expect(journey.stops.every(({ id }) => visited.has(id))).toBe(true)
      }),
    )
  })
})

describe('travellers who meet', () => {
  const SIZE = 100
  /** Two who come from either side to one stop, rest there, and go on together. */
  function meeting(): Journey {
    const vehicle = vehicleSchema.parse({ kind: 'catalogue', artwork: 'bus', size: SIZE })
    let journey = travellers.addTraveller(journeyOver([[200, 500], [900, 500], [900, 900]], { vehicle, easing: 'linear' }, 12), 'b') // prettier-ignore
    journey = goOnTo(journey, { x: 1700, y: 500 }, ids(11), { traveller: 'b', name: 'East' })
    for (const [n, at] of [
      { x: 900, y: 500 },
      { x: 900, y: 900 },
    ].entries())
      journey = goOnTo(journey, at, ids(n + 12), { traveller: 'b' })
    for (const { id } of journey.travellers[1]!.legs) journey = editLeg(journey, id, { vehicle, easing: 'linear' })
    for (const who of ['traveller', 'b'])
      journey = travellers.editTraveller(holdArrival(setLayover(journey, 1, 3, who), 1, who === 'b' ? 4.5 : 4, who), who, {
        atEnd: 'stays',
      })
    return journey
  }

  it('stand side by side while they rest, and step there without a jump', () => {
    const compiled = compile(meeting())
    const [a, b] = compiled.travellers.map(({ visits }) => visits[1]!)
    const both = (Math.max(a!.arrive, b!.arrive) + Math.min(a!.leave, b!.leave)) / 2
    const seen = (time: number) => {
      const frame = frameAt(compiled, time)
      const { toScreen } = projectionOf(frame.view, frame.reference)
      return frame.items.flatMap((item) => (item.kind === 'vehicle' ? [toScreen(item.at)] : []))
    }
    const [left, right] = seen(both)
    expect(right!.x - left!.x).toBeGreaterThan(0.8 * SIZE)
    expect(right!.y).toBeCloseTo(left!.y, 6)
    // No frame moves a vehicle further than it travels in one, and a tenth of its length for stepping aside.
    for (let k = 1; k < compiled.frames; k++) {
      const [before, now] = [seen((k - 1) / 30), seen(k / 30)]
      if (before.length === 2 && now.length === 2)
        for (const i of [0, 1]) expect(distance(before[i]!, now[i]!)).toBeLessThan(0.1 * SIZE + 900 / 30)
    }
    // Where they end together they stay beside each other.
    const [first, last] = seen(compiled.lastTime)
    expect(Math.abs(first!.x - last!.x)).toBeGreaterThan(0.8 * SIZE)
  })
})
