/** What appears and leaves, as bars under the trip, and the graphs of a film's movement. */
import { describe, expect, it } from 'vitest'
import { editLeg } from '#core/edits/lines/legs'
import type { LaneBar, LaneKind } from '#core/edits/pace/lanes'
import { laneBars, LANES, moveBar } from '#core/edits/pace/lanes'
import { addNote } from '#core/edits/pace/notes'
import { setLayover } from '#core/edits/pace/pace'
import { addPostcard, newPostcard } from '#core/edits/marks/postcards'
import { removeStop } from '#core/edits/trips/trips'
import { compile } from '#core/frame/compile'
import { graphsOf } from '#core/checks/graphs'
import { parseJourney } from '#core/journey/parse'
import type { Journey } from '#core/journey/schema'
import { captionSchema } from '#core/journey/schema'
import { journeyWithEveryKind } from '../support/every-kind'
import { journeyOver } from '../support/journeys'

/** A journey with something in every lane. */
function full(): Journey {
  const journey = journeyWithEveryKind()
  const carded = addPostcard(journey, 's2', { ...newPostcard(journey.stops[2]!, 'card', {}), text: 'A card with a few words' })
  const shown = { from: { at: 'arrival' as const, stop: 's3', offset: 0 }, to: { at: 'end' as const, offset: -2 }, fade: 0.6 }
  const bus = { kind: 'catalogue' as const, artwork: 'bus' as const, colour: '#17646b', size: 60 }
  return editLeg(
    {
      ...carded,
      captions: [captionSchema.parse({ id: 'title', content: { kind: 'title', text: 'A title' }, corner: 'top', shown })],
      areas: carded.areas.map((area) => ({ ...area, shown })),
    },
    'l3',
    { vehicle: bus, changes: [{ at: 0.4, vehicle: null, how: 'fade' }, { at: 0.7, vehicle: bus, how: 'cut' }] }, // prettier-ignore
  )
}
const barsOf = (journey: Journey, lane: LaneKind): LaneBar[] => laneBars(compile(journey)).filter((bar) => bar.lane === lane)

describe('lanes', () => {
  it('have something of every kind, within the film, and each has a name', () => {
    const journey = full()
    for (const lane of LANES) {
      const bars = barsOf(journey, lane)
      expect(bars.length, lane).toBeGreaterThan(0)
      for (const { from, to, name } of bars) {
        expect(from).toBeGreaterThanOrEqual(0)
        expect(to).toBeGreaterThanOrEqual(from)
        expect(to).toBeLessThanOrEqual(30)
        expect(name).not.toBe('')
      }
    }
  })

  it.each(LANES)('of %s are moved by what is asked, stay tied, and give a journey that can be read', (lane) => {
    const journey = full()
    const compiled = compile(journey)
    for (const bar of barsOf(journey, lane)) {
      const moved = moveBar(journey, compiled, bar, 'whole', 0.5)
      expect(() => parseJourney(JSON.parse(JSON.stringify(moved)))).not.toThrow()
      const after = barsOf(moved, lane).find(({ id }) => id === bar.id)!
      // What lasts for the whole film, or ends with it, cannot be later.
      if (bar.from > 0 && bar.to < 29) expect(after.from - bar.from, bar.name).toBeCloseTo(0.5, lane === 'vehicles' ? 1 : 2)
    }
  })

  it('have ends that are moved on their own', () => {
    const journey = full()
    const compiled = compile(journey)
    for (const lane of ['titles', 'areas', 'landmarks'] as const)
      for (const bar of barsOf(journey, lane)) {
        const end = barsOf(moveBar(journey, compiled, bar, 'to', -1), lane).find(({ id }) => id === bar.id)!
        expect([end.from, end.to - bar.to]).toEqual([bar.from, expect.closeTo(-1, 2)])
        const start = barsOf(moveBar(journey, compiled, bar, 'from', 0.4), lane).find(({ id }) => id === bar.id)!
        expect([start.from - bar.from, start.to]).toEqual([expect.closeTo(0.4, 2), bar.to])
      }
    const [card] = barsOf(journey, 'cards')
    const longer = barsOf(moveBar(journey, compiled, card!, 'to', 1.5), 'cards')[0]!
    expect(longer.to - card!.to).toBeCloseTo(1.5, 2)
    const shorter = barsOf(moveBar(journey, compiled, card!, 'from', 0.5), 'cards')[0]!
    expect([shorter.from - card!.from, shorter.to - card!.to]).toEqual([expect.closeTo(0.5, 2), expect.closeTo(0, 2)])
  })

  it('go along when the pace changes', () => {
    const journey = full()
    const later = setLayover(journey, 1, 6, 'traveller')
    const shift = compile(later).travellers[0]!.visits[2]!.arrive - compile(journey).travellers[0]!.visits[2]!.arrive
    expect(shift).toBeGreaterThan(1)
    expect(barsOf(later, 'cards')[0]!.from - barsOf(journey, 'cards')[0]!.from).toBeCloseTo(shift, 6)
  })
})

describe('notes', () => {
  it('stay where they belong when the pace changes, and survive their stop', () => {
    const journey = addNote(full(), { id: 'n', at: { at: 'arrival', stop: 's2', offset: 1 }, text: 'Cut here' })
    const timeOf = (j: Journey) => compile(j).notes[0]!.time
    expect(timeOf(journey)).toBeCloseTo(compile(journey).travellers[0]!.visits[2]!.arrive + 1, 9)
    expect(timeOf(setLayover(journey, 1, 6, 'traveller'))).toBeGreaterThan(timeOf(journey) + 1)
    expect(removeStop(journey, 's2', 'traveller').notes[0]).toMatchObject({ at: { at: 'start' }, text: 'Cut here' })
  })
})

describe('graphs', () => {
  it('show the speed, whose area is the way', () => {
    const journey = journeyOver([[0, 0], [900, 0], [900, 500]], {}, 12) // prettier-ignore
    const compiled = compile(journey)
    const { times, speed, isMeasured, jumps, height } = graphsOf(compiled, compiled.travellers[0]!)
    expect(isMeasured).toBe(false)
    expect(times).toHaveLength(360)
    expect(speed.reduce((sum, value) => sum + value / 30, 0)).toBeCloseTo(1400, 3)
    expect(jumps).toEqual([])
    expect(height.every((metres) => metres === null)).toBe(true)
  })

  it('mark the moments at which the speed jumps, and tell heights where they were recorded', () => {
    const even = editLeg(journeyOver([[0, 0], [900, 0]], {}, 12), 'l1', { easing: 'linear' }) // prettier-ignore
    const compiled = compile(even)
    const { depart, arrive } = compiled.travellers[0]!.legs[0]!
    const { jumps } = graphsOf(compiled, compiled.travellers[0]!)
    expect(jumps).toHaveLength(2)
    expect(Math.abs(jumps[0]! - depart)).toBeLessThan(2 / 30)
    expect(Math.abs(jumps[1]! - arrive)).toBeLessThan(2 / 30)
    const tracked = compile(journeyWithEveryKind())
    const { height } = graphsOf(tracked, tracked.travellers[0]!)
    expect(Math.max(...height.map((metres) => metres ?? -Infinity))).toBeCloseTo(41.5, 0)
  })
})
