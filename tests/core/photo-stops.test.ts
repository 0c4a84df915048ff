import { describe, expect, it } from 'vitest'
import { compile } from '#core/frame/compile'
import { parseJourney } from '#core/journey/parse'
import type { TripPhoto } from '#core/edits/marks/photo-stops'
import { addPhotoStops, clockOffset, inOrder, isPlaceable } from '#core/edits/marks/photo-stops'
import { trackCourse } from '#core/courses/track-course'
import { editLeg } from '#core/edits/lines/legs'
import type { Journey } from '#core/journey/schema'
import { demo, journeyOver, paperPhoto } from '../support/journeys'

const photo = (name: string, x: number, y: number, time: number | null, isShown = true) => ({
  name,
  at: { x, y },
  time,
  isExact: true,
  photo: isShown ? { ...paperPhoto, width: name.length } : null,
})

describe('photos', () => {
  it('are put in the order of time, those without one last, by their numbers', () => {
    const photos = [photo('p10', 0, 0, null), photo('late', 0, 0, 9), photo('p9', 0, 0, null), photo('early', 0, 0, 1)]
    expect(inOrder(photos).map(({ name }) => name)).toEqual(['early', 'late', 'p9', 'p10'])
  })

  it('become stops by which the trip goes on; several of one place make one', () => {
    const photos = [photo('Cape', 4800, 2500, 30), photo('Beach', 5300, 1400, 10), photo('Beach again', 5310, 1405, 20)]
    const ids = photos.map((_, i) => ({ stop: `s${i}`, leg: `l${i}` }))
    const journey = addPhotoStops(demo(), photos, 'traveller', ids)
    expect(journey.stops.slice(5).map(({ name }) => name)).toEqual(['Beach', 'Cape'])
    expect(journey.travellers[0]!.legs).toHaveLength(6)
    expect(journey.stops.slice(5).map(({ postcards }) => postcards[0]?.photo?.width)).toEqual(['Beach'.length, 'Cape'.length])
    expect(() => compile(parseJourney(JSON.parse(JSON.stringify(journey))))).not.toThrow()
  })

  it('of one place are its postcards, in the order in which they were taken, those that can be shown', () => {
    const photos = [photo('Raw', 5300, 1400, 10, false), photo('Shown', 5310, 1405, 20), photo('Late', 5305, 1400, 30)]
    const journey = addPhotoStops(
      demo(),
      photos,
      'traveller',
      photos.map((_, i) => ({ stop: `s${i}`, leg: `l${i}` })),
    )
    const cards = journey.stops[5]!.postcards
    expect(journey.stops.slice(5).map(({ name }) => name)).toEqual(['Raw'])
    expect(cards.map(({ photo }) => photo?.width)).toEqual(['Shown'.length, 'Late'.length])
    expect(new Set(cards.map(({ id }) => id)).size).toBe(2)
  })
})

describe('photos of a recorded trip', () => {
  /** Out and back along a straight line, 4000 gu each way in 4000 s from 10 o'clock (UTC) on. */
  const TEN = Date.UTC(2026, 7, 10, 10) / 1000
  const recorded = (): Journey => {
    const journey = journeyOver([[0, 1000], [0, 1100]], {}, 12) // prettier-ignore
    return editLeg(journey, 'l1', {
      course: trackCourse([0, 1000, 4000, 1000, 4000, 1100, 0, 1100], [TEN, TEN + 4000, TEN + 4100, TEN + 8100]),
    })
  }
  const taken = (seconds: number | null, at: TripPhoto['at'], isExact = false): TripPhoto => ({
    name: `at ${seconds}`,
    at,
    time: seconds === null ? null : 1000 * (TEN + seconds),
    isExact,
    photo: null,
  })
  const add = (photos: readonly TripPhoto[], offset = 0) =>
    addPhotoStops(recorded(), photos, 'traveller', photos.map((_, i) => ({ stop: `s${i}`, leg: `n${i}` })), { offset }) // prettier-ignore
  const placed = (journey: Journey) => journey.stops.slice(2).map(({ at }) => [Math.round(at.x), Math.round(at.y)])

  it('that know where they were taken are put there, whatever the clock says', () => {
    // By the clock it would be at 1000; nothing here is further than the line's own 100 gu from where it says.
    expect(placed(add([taken(1000, { x: 3000, y: 1000 })]))).toEqual([[3000, 1000]])
    expect(placed(add([taken(99_999, { x: 2500, y: 1005 })]))).toEqual([[2500, 1000]])
  })

  it('that do not know are put where the track was then, by the clock set right', () => {
    expect(placed(add([taken(1500, null)]))).toEqual([[1500, 1000]])
    // A clock two hours ahead, as of another time zone.
    expect(placed(add([taken(1500 + 7200, null)], -7200))).toEqual([[1500, 1000]])
    // The satellites' clock needs no setting right.
    expect(placed(add([taken(1500, null, true)], -7200))).toEqual([[1500, 1000]])
    expect(isPlaceable(recorded(), taken(1500 + 7200, null), 'traveller', 0)).toBe(false)
    expect(isPlaceable(recorded(), taken(1500 + 7200, null), 'traveller', -7200)).toBe(true)
    expect(placed(add([taken(null, null)]))).toEqual([])
  })

  it('tell how far the clock is off, where they know both', () => {
    const ahead = 7200
    const both = [
      taken(500 + ahead, { x: 500, y: 1000 }),
      taken(2000 + ahead, { x: 2000, y: 1002 }),
      taken(6100 + ahead, { x: 2000, y: 1100 }),
    ]
    const found = clockOffset(recorded(), [...both, taken(3000 + ahead, null)], 'traveller')!
    expect(found.photos).toBe(3)
    expect(Math.abs(found.seconds + ahead)).toBeLessThan(20)
    // There and back over nearly the same road, each place is passed twice: what most agree on is right.
    const back = editLeg(recorded(), 'l1', { course: trackCourse([0, 1000, 4000, 1000, 0, 1000], [TEN, TEN + 4000, TEN + 8000]) })
    const onRoad = [3600, 3900, 4200, 4500, 5000].map((at) => taken(at + ahead, { x: at > 4000 ? 8000 - at : at, y: 1005 }))
    const agreed = clockOffset(back, onRoad, 'traveller')!
    expect(agreed.photos).toBe(5)
    expect(Math.abs(agreed.seconds + ahead)).toBeLessThan(20)
    // One that says a wrong place does not lead it astray; those of the satellites say nothing of the camera's clock.
    const astray = clockOffset(
      recorded(),
      [...both, taken(500 + ahead, { x: 3900, y: 1000 }), taken(0, { x: 100, y: 1000 }, true)],
      'traveller',
    )!
    expect(Math.abs(astray.seconds + ahead)).toBeLessThan(20)
    expect(clockOffset(recorded(), [taken(3000, null)], 'traveller')).toBeUndefined()
  })
})
