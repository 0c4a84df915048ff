import fc from 'fast-check'
import { describe, expect, it } from 'vitest'
import { editLeg } from '#core/edits/lines/legs'
import { editStop } from '#core/edits/marks/stops'
import { rename } from '#core/edits/journey'
import { changed, changesBetween, keptPast, PAST_LIMITS, pastOf, pastSchema } from '#core/journey/history'
import { setLayover } from '#core/edits/pace/pace'
import type { Journey } from '#core/journey/schema'
import { turnSheet } from '#core/edits/ground/sheets'
import { insertStop, removeVisit, reverseTrip } from '#core/edits/trips/trips'
import { moveVisit } from '#core/edits/trips/visits'
import { journeyWithEveryKind } from '../support/every-kind'

type Step = (journey: Journey, k: number) => Journey
const at = fc.nat(5)
const step: fc.Arbitrary<Step> = fc.oneof(
  at.map(
    (i): Step =>
      (j) =>
        j.stops[i] ? editStop(j, j.stops[i]!.id, { at: { x: 100 + i, y: 50 } }) : j,
  ),
  at.map(
    (i): Step =>
      (j) =>
        removeVisit(j, i, 'traveller'),
  ),
  at.map((i): Step => (j, k) => {
    const leg = j.travellers[0]!.legs[i]
    return leg ? insertStop(j, leg.id, { x: 900, y: 900 }, { stop: `i${k}`, leg: `k${k}` }) : j
  }),
  fc.tuple(at, at).map(
    ([a, b]): Step =>
      (j) =>
        moveVisit(j, a, Math.min(b, j.travellers[0]!.visits.length - 1), 'traveller'),
  ),
  fc.constant<Step>((j) => reverseTrip(j, 'traveller')),
  fc.constant<Step>((j) => turnSheet(j, 'isles', 7)),
  at.map(
    (i): Step =>
      (j) =>
        setLayover(j, i, i / 4, 'traveller'),
  ),
  fc.string({ minLength: 1, maxLength: 9 }).map(
    (name): Step =>
      (j) =>
        name.trim() ? rename(j, name.trim()) : j,
  ),
)

describe('a kept past', () => {
  it('leads back to every version, whatever was done, through a file', () => {
    fc.assert(
      fc.property(fc.array(step, { maxLength: 12 }), (all) => {
        const versions = [journeyWithEveryKind()]
        all.forEach((each, k) => versions.push(each(versions.at(-1)!, k)))
        const [present, past] = [versions.at(-1)!, versions.slice(0, -1)]
        const kept = pastSchema.parse(JSON.parse(JSON.stringify(keptPast(past, present))))
        expect(pastOf(kept, present)).toEqual(past)
      }),
      { numRuns: 80 },
    )
  })

  it('is as small as what was changed, and shares the rest', () => {
    const before = journeyWithEveryKind()
    const after = editStop(before, 's1', { name: 'Elsewhere' })
    const changes = changesBetween(after, before)
    expect(changes).toEqual([{ path: ['stops', 1, 'name'], value: 'Stop 2' }])
    const again = changed(after, changes) as Journey
    expect(again.networks).toBe(after.networks)
  })

  it('is kept within limits', () => {
    const versions = Array.from({ length: 200 }, (_, i) => rename(journeyWithEveryKind(), `Version ${i}`))
    expect(keptPast(versions.slice(0, -1), versions.at(-1)!)).toHaveLength(PAST_LIMITS.steps)
    // A track of a megabyte is no step that is kept.
    const points = Array.from({ length: 95_000 }, (_, i) => `${i},${i % 7}`).join(' ')
    const heavy = editLeg(journeyWithEveryKind(), 'l1', { course: { kind: 'track', points, times: null, began: null, heights: null } })
    expect(keptPast([heavy], journeyWithEveryKind())).toEqual([])
  })

  it('holds a long outline that was redrawn, point by point', () => {
    const ring = Array.from({ length: 12_000 }, (_, i) => i)
    const journey = journeyWithEveryKind()
    const outlined = (numbers: number[]): Journey => ({ ...journey, areas: [{ ...journey.areas[0]!, rings: [numbers] }] })
    const [before, after] = [outlined(ring), outlined(ring.map((n) => n + 0.5))]
    const kept = pastSchema.parse(keptPast([before], after))
    expect(kept[0]).toHaveLength(1)
    expect(pastOf(kept, after)).toEqual([before])
  })

  it('leaves off at a step of too many changes rather than be refused', () => {
    const journey = journeyWithEveryKind()
    // Each ring in its own place: 6000 changes that do not follow one another in one list.
    const rings = Array.from({ length: 6000 }, (_, i) => [...Array.from({ length: 40 }, () => 123_456.789), i, i])
    const outlined = (each: (ring: number[]) => number[]): Journey => ({
      ...journey,
      areas: [{ ...journey.areas[0]!, rings: rings.map(each) }],
    })
    const [before, after] = [outlined((ring) => ring), outlined((ring) => ring.with(-1, ring.at(-1)! + 1))]
    expect(changesBetween(after, before).length).toBeGreaterThan(PAST_LIMITS.changesInStep)
    expect(keptPast([before], after)).toEqual([])
  })

  it('that does not belong to a journey is let go of', () => {
    const journey = journeyWithEveryKind()
    expect(pastOf([[{ path: ['stops'], at: 90, removed: 5, entries: [] }]], journey)).toEqual([])
    expect(pastOf([[{ path: ['seconds'], value: 'long' }]], journey)).toEqual([])
    expect(pastOf([[{ path: ['__proto__', 'polluted'], value: 1 }]], journey)).toEqual([])
    expect(({} as Record<string, unknown>).polluted).toBeUndefined()
  })
})
