/** How long things take to come, to change and to go: as long as is usual, or as long as is said. */
import { describe, expect, it } from 'vitest'
import { editStop } from '#core/edits/marks/stops'
import { editTraveller } from '#core/edits/trips/travellers'
import { editLeg } from '#core/edits/lines/legs'
import { compile } from '#core/frame/compile'
import type { FrameItem } from '#core/frame/frame'
import { frameAt } from '#core/frame/frame-at'
import type { Journey, Pin } from '#core/journey/schema'
import { appearsSchema, pinSchema, postcardSchema } from '#core/journey/schema'
import { NO_PLACES } from '#core/labels/label-scene'
import { cardPoseAt } from '#core/marks/card-times'
import { pinAppearanceAt, pinStart, SETTLED } from '#core/marks/pins'
import { partAt, revealSeconds, SEEN } from '#core/marks/reveal'
import { journeyOver } from '../support/journeys'

const trip = () =>
  journeyOver(
    [
      [200, 300],
      [900, 500],
      [1500, 300],
    ],
    {
      // prettier-ignore
      vehicle: { kind: 'catalogue', artwork: 'car', colour: '#d8412f', size: 100 },
    },
  )
const frames = (journey: Journey) => {
  const compiled = compile(journey, NO_PLACES)
  return (t: number) => frameAt(compiled, t).items
}
const [l1, l2] = trip().travellers[0]!.legs.map(({ id }) => id) as [string, string]
const [, s1] = trip().stops.map(({ id }) => id) as [string, string]
const opacityOf = (items: FrameItem[], kind: 'vehicle' | 'ink') => items.find((item) => item.kind === kind)

describe('pins', () => {
  const timing = (patch: Partial<Pin>) => pinSchema.parse(patch)
  it('take as long as is said, begin 0.2 s before arrival, and have come by the last frame', () => {
    const slow = timing({ comesIn: 2, comes: 'fade' })
    expect(pinStart(5, slow, 20)).toBeCloseTo(4.8, 9)
    expect(pinStart(19.5, slow, 20)).toBe(18)
    expect(pinAppearanceAt(5.8, 5, 20, slow)!.opacity).toBeCloseTo(0.5, 9)
    expect(pinAppearanceAt(6.81, 5, 20, slow)).toBe(SETTLED)
    expect(pinAppearanceAt(6.79, 5, 20, slow)).not.toEqual(SETTLED)
  })

  it('that drop fall as things do, land, spring back once, and rest', () => {
    const drop = timing({ comes: 'drop', comesIn: 1 })
    const raised = (u: number) => pinAppearanceAt(4.8 + u, 5, 20, drop)!.raised
    // Free fall: in half of the time to the ground a quarter of the way.
    expect(raised(0.35)).toBeCloseTo(0.75 * raised(1e-9), 6)
    expect(raised(0.7)).toBeCloseTo(0, 6)
    expect(raised(0.85)).toBeGreaterThan(0.1)
    expect(raised(0.999)).toBeLessThan(0.002)
    const heights = Array.from({ length: 70 }, (_, i) => raised(i / 100 + 0.001))
    expect(heights).toEqual([...heights].sort((a, b) => b - a))
  })

  it.each(['pop', 'grow', 'fade', 'drop', 'none'] as const)('that come by “%s” are nothing before, and whole afterwards', (comes) => {
    const pin = timing({ comes, comesIn: 0.5 })
    expect(pinAppearanceAt(4.79, 5, 20, pin)).toBeUndefined()
    expect(pinAppearanceAt(5.31, 5, 20, pin)).toEqual({ scale: 1, opacity: 1, raised: 0 })
    const seen = pinAppearanceAt(4.8001, 5, 20, pin)!
    expect(comes === 'none' ? seen.opacity * seen.scale : seen.opacity * seen.scale).toBeCloseTo(comes === 'none' ? 1 : 0, 1)
  })

  it.each(['grow', 'fade', 'drop'] as const)('that are faint before they come by “%s” go on from there without a jump', (comes) => {
    const pin = timing({ comes, comesIn: 0.5, before: 'faint' })
    const states = Array.from({ length: 120 }, (_, i) => pinAppearanceAt(4.7 + i / 120, 5, 20, pin)!)
    for (const [i, { scale, opacity, raised }] of states.entries()) {
      expect(raised).toBe(0)
      const next = states[i + 1] ?? states[i]!
      expect(Math.abs(next.scale - scale)).toBeLessThan(0.02)
      expect(Math.abs(next.opacity - opacity)).toBeLessThan(0.05)
    }
    expect(states[0]).toEqual({ scale: 0.85, opacity: 0.4, raised: 0 })
    expect(states.at(-1)).toBe(SETTLED)
  })

  it('are in the frame so', () => {
    const journey = editStop(trip(), s1, { pin: { comes: 'drop', comesIn: 2 } })
    const { arrive } = compile(journey, NO_PLACES).travellers[0]!.visits[1]!
    const pin = (t: number) => frames(journey)(t).find((item) => item.kind === 'pin' && item.stop === s1)
    expect(pin(arrive + 0.2)).toMatchObject({ raised: expect.any(Number) })
    expect((pin(arrive + 0.2) as { raised: number }).raised).toBeGreaterThan(1)
    expect(pin(arrive + 1.9)).toMatchObject({ raised: 0, scale: 1 })
  })
})

describe('texts', () => {
  it('take as long as is said in all', () => {
    const appears = appearsSchema.parse({ style: 'fade', by: 'letter', seconds: 1, apart: 0.25 })
    expect(revealSeconds(appears, 9)).toBe(3)
    expect(partAt(appears, 9, 4, 1)).toMatchObject({ opacity: 0 })
    expect(partAt(appears, 9, 4, 1.5).opacity).toBeCloseTo(0.5, 9)
    expect(partAt(appears, 9, 4, 2)).toBe(SEEN)
    // Apart by nothing, all come at once; and where nothing is said even 500 letters have begun after 1.2 s.
    expect(revealSeconds({ ...appears, apart: 0 }, 9)).toBe(1)
    expect(revealSeconds(appearsSchema.parse({ by: 'letter' }), 500)).toBeCloseTo(1.6, 9)
  })

  it('of a name come later than with its pin by what is said', () => {
    const from = (delay: number) =>
      compile(editStop(trip(), s1, { label: { delay } }), NO_PLACES).marks.find(({ stop }) => stop.id === s1)!.label!.from
    expect(from(1.5) - from(0)).toBeCloseTo(1.5, 9)
  })
})

describe('cards, lines and vehicles', () => {
  it('come and go as long as is said', () => {
    const card = postcardSchema.parse({ id: 'c', comes: 'fade', goes: 'fade', comesIn: 2, goesIn: 1 })
    expect(cardPoseAt(11, { from: 10, to: 20 }, card)!.opacity).toBeCloseTo(0.5, 9)
    expect(cardPoseAt(15, { from: 10, to: 20 }, card)!.opacity).toBe(1)
    expect(cardPoseAt(19.5, { from: 10, to: 20 }, card)!.opacity).toBeCloseTo(0.5, 9)

    const faded = editLeg(trip(), l1, { ink: { comes: 'faded', comesIn: 2 } })
    const { depart } = compile(faded, NO_PLACES).travellers[0]!.legs[0]!
    expect(opacityOf(frames(faded)(depart + 1), 'ink')).toMatchObject({ opacity: 0.5 })

    const entering = editTraveller(trip(), 'traveller', { enters: 'fade', entersIn: 0.2 })
    expect(opacityOf(frames(entering)(0.1), 'vehicle')).toMatchObject({ opacity: 0.5 })
    const { lastTime, travellers } = compile(trip(), NO_PLACES)
    const end = travellers[0]!.visits.at(-1)!.arrive
    const leaving = editTraveller({ ...trip(), seconds: 14 }, 'traveller', { leavesIn: 0.2 })
    expect(lastTime).toBeGreaterThan(end)
    const arrival = compile(leaving, NO_PLACES).travellers[0]!.visits.at(-1)!.arrive
    expect(opacityOf(frames(leaving)(arrival + 0.35), 'vehicle')).toMatchObject({ opacity: expect.closeTo(0.5, 6) as number })
    expect(opacityOf(frames(leaving)(arrival + 0.46), 'vehicle')).toBeUndefined()
  })

  it('change as long as is said, at stops and on the way', () => {
    const bus = { kind: 'catalogue' as const, artwork: 'bus' as const, colour: '#17646b', size: 60 }
    const swap = editLeg(editTraveller(trip(), 'traveller', { changes: 'fade', changesIn: 0.1 }), l2, { vehicle: bus })
    const { arrive, leave } = compile(swap, NO_PLACES).travellers[0]!.visits[1]!
    const middle = (arrive + leave) / 2
    expect(opacityOf(frames(swap)(middle - 0.05), 'vehicle')).toMatchObject({ opacity: expect.closeTo(0.5, 6) as number })
    expect(opacityOf(frames(swap)(middle - 0.11), 'vehicle')).toMatchObject({ opacity: 1 })

    const way = editLeg(trip(), l1, { changes: [{ at: 0.5, vehicle: bus, how: 'fade', seconds: 1 }] })
    const { at } = compile(way, NO_PLACES).travellers[0]!.legs[0]!.rides[1]!
    const riding = (t: number) => frames(way)(t).filter((item) => item.kind === 'vehicle').map(({ opacity }) => opacity) // prettier-ignore
    expect(riding(at - 0.51)).toEqual([1])
    expect(riding(at)).toEqual([expect.closeTo(0.5, 6), expect.closeTo(0.5, 6)])
    expect(riding(at + 0.51)).toEqual([1])
  })
})
