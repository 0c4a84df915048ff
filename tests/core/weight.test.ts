import { describe, expect, it } from 'vitest'
import { checkEdited, parseJourney } from '#core/journey/parse'
import type { Journey } from '#core/journey/schema'
import { weightOf } from '#core/journey/weight'
import { demo } from '../support/journeys'

/** The demo with its first leg along a recorded track whose text has so many letters. */
function withTrack(journey: Journey, letters: number): Journey {
  const pair = '12345.25,12345.25 '
  const points = pair.repeat(Math.floor(letters / pair.length)).trim()
  const [traveller, ...others] = journey.travellers
  const [leg, ...legs] = traveller!.legs
  const course = { kind: 'track' as const, points, times: null, began: null, heights: null }
  return { ...journey, travellers: [{ ...traveller!, legs: [{ ...leg!, course }, ...legs] }, ...others] }
}

describe('how large a journey may be', () => {
  it('is about what its lines take as JSON', () => {
    const journey = withTrack(demo(), 1_000_000)
    const bytes = JSON.stringify(journey).length
    expect(weightOf(journey)).toBeGreaterThan(0.9 * bytes)
    expect(weightOf(journey)).toBeLessThan(1.1 * bytes)
  })

  it('is told at the edit that would pass it, and by the server alike', () => {
    // 32 MiB, as docs/journey-format.md says: twenty tracks of 1.7 MB.
    const track = withTrack(demo(), 1_700_000).travellers[0]!
    const many = (count: number): Journey => ({
      ...demo(),
      travellers: Array.from({ length: count }, (_, i) => ({
        ...track,
        id: `t${i}`,
        legs: track.legs.map((leg, k) => ({ ...leg, id: `t${i}-${k}`, course: k < 2 ? track.legs[0]!.course : leg.course })),
      })),
    })
    expect(() => checkEdited(many(9))).not.toThrow()
    expect(() => checkEdited(many(10))).toThrow(/^The lines of this journey would take 33 MiB, and 32 MiB can be stored: simplify/)
    expect(() => parseJourney(many(10))).toThrow(/^The lines of this journey would take 33 MiB/)
  })
})
