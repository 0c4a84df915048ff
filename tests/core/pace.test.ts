import fc from 'fast-check'
import { describe, expect, it } from 'vitest'
import { compile } from '#core/frame/compile'
import { editLeg } from '#core/edits/lines/legs'
import { scaleTimes, withAutomaticTimes, withFilmForAll } from '#core/edits/pace/film-length'
import { setArrival, setDeparture, setLayover } from '#core/edits/pace/pace'
import { parseJourney } from '#core/journey/parse'
import type { Journey } from '#core/journey/schema'
import { addStop } from '#core/edits/trips/visits'
import { journeyOver } from '../support/journeys'

const trip = (stops: number, seconds: number) =>
  journeyOver(
    Array.from({ length: stops }, (_, i) => [100 + 37 * i, 500 + 300 * Math.sin(i)] as const),
    {},
    seconds,
  )
const visits = (journey: Journey) => compile(journey).travellers[0]!.visits
const set = (journey: Journey) => [
  journey.travellers[0]!.legs.map(({ travel }) => travel),
  journey.travellers[0]!.visits.map(({ layover }) => layover),
]

describe('a new stop', () => {
  it('always finds time: a hundred of them in a film of 20 s', () => {
    const times = visits(trip(100, 20))
    expect(times).toHaveLength(100)
    times.slice(1).forEach(({ arrive }, i) => expect(arrive).toBeGreaterThan(times[i]!.leave))
    expect(times.at(-1)!.leave).toBe(20)
    expect(trip(100, 20).seconds).toBe(20)
  })

  it('makes the film longer where all of it has been given to others', () => {
    const full = [3, 3].reduce((j, travel, i) => editLeg(j, `l${i + 1}`, { travel }), setLayover(trip(3, 8), 2, 2, 'traveller'))
    const longer = addStop(full, { x: 900, y: 900 }, { stop: 'new', leg: 'leg' }, { traveller: 'traveller' })
    expect(longer.seconds).toBeGreaterThanOrEqual(9)
    const times = visits(longer)
    expect(times[3]!.arrive - times[2]!.leave).toBeGreaterThan(0.8)
    expect(set(longer)[0]).toEqual([3, 3, null])
    expect(() => parseJourney(longer)).not.toThrow()
  })

  it('is told from set times: a trip that is too long for any film names only its stops', () => {
    expect(() => compile({ ...trip(60, 20), seconds: 1 })).toThrow(
      'A trip of 60 stops needs at least 2.0 s at 30 frames a second, but the journey is 1 s long: make it longer.',
    )
  })
})

describe('a time that is dragged', () => {
  it('ends where it is dragged to, to the frame, and sets no other', () => {
    fc.assert(
      fc.property(fc.integer({ min: 3, max: 8 }), fc.nat(6), fc.double({ min: 0.1, max: 0.9, noNaN: true }), (stops, k, share) => {
        const journey = trip(stops, 20)
        const leg = k % (stops - 2)
        // Between where it ends when it takes next to nothing and when it takes half of the film.
        const endOf = (travel: number) => visits(editLeg(journey, `l${leg + 1}`, { travel }))[leg + 1]!.arrive
        const [low, high] = [endOf(0.1), endOf(10)]
        const end = Math.round((low + share * (high - low)) * 30) / 30
        const dragged = setArrival(journey, leg, end, 'traveller')
        expect(Math.abs(visits(dragged)[leg + 1]!.arrive - end)).toBeLessThan(1.5 / 30)
        expect(set(dragged)[0]!.map((travel) => travel !== null)).toEqual(journey.travellers[0]!.legs.map((_, i) => i === leg))
        expect(set(dragged)[1]!.every((layover) => layover === null)).toBe(true)
      }),
    )
  })

  it('of the last leg is when the rest at the end begins', () => {
    const journey = trip(4, 20)
    const dragged = setArrival(journey, 2, 15, 'traveller')
    expect(visits(dragged)[3]!.arrive).toBeCloseTo(15, 2)
    expect(set(dragged)).toEqual([
      [null, null, null],
      [null, null, null, 5],
    ])
  })

  it('may be a layover, which sets no travel time', () => {
    const journey = trip(4, 20)
    const dragged = setDeparture(journey, 1, 9, 'traveller')
    expect(visits(dragged)[1]!.leave).toBeCloseTo(9, 1)
    expect(set(dragged)[0]).toEqual([null, null, null])
    expect(set(dragged)[1]!.filter((layover) => layover !== null)).toHaveLength(1)
  })

  it('further than the film goes is refused with the reason', () => {
    const journey = trip(3, 10)
    expect(() => compile(setArrival(journey, 0, 25, 'traveller'))).toThrow(/need at least/)
  })
})

describe('scaling', () => {
  it('shortens set times along with the film', () => {
    const journey = setLayover(editLeg(trip(3, 20), 'l1', { travel: 12 }), 1, 4, 'traveller')
    expect(() => compile({ ...journey, seconds: 10 })).toThrow(/set travel times/)
    const half = scaleTimes(journey, 10)
    expect([half.seconds, ...set(half)]).toEqual([10, [6, null], [null, 2, null]])
    expect(() => compile(parseJourney(half))).not.toThrow()
  })
})

describe('a journey whose set times do not fit', () => {
  const unfit = { ...editLeg(setLayover(trip(3, 20), 1, 4, 'traveller'), 'l1', { travel: 12 }), seconds: 10 }

  it('fits into a longer film with the times as they are', () => {
    const longer = withFilmForAll(unfit)!
    expect(longer.seconds).toBeGreaterThanOrEqual(16)
    expect(longer.seconds).toBeLessThan(17)
    expect(set(longer)).toEqual([[12, null], [null, 4, null]]) // prettier-ignore
    expect(() => compile(parseJourney(longer))).not.toThrow()
  })

  it('fits without them into the film that there is', () => {
    const automatic = withAutomaticTimes(unfit)!
    expect([automatic.seconds, ...set(automatic)]).toEqual([10, [null, null], [null, null, null]])
    expect(() => compile(parseJourney(automatic))).not.toThrow()
  })

  it('fits into no film if that had to be longer than ten minutes', () => {
    expect(withFilmForAll(editLeg(unfit, 'l2', { travel: 600 }))).toBeUndefined()
  })
})
