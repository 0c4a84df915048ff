/** Films of recorded days: what is shown of them, and for how long, as measured on the frames. */
import fc from 'fast-check'
import { describe, expect, it } from 'vitest'
import { trackCourse } from '#core/courses/track-course'
import type { TripPhoto } from '#core/edits/marks/photo-stops'
import { compile } from '#core/frame/compile'
import { frameAt } from '#core/frame/frame-at'
import { groundGeo } from '#core/geo/ground'
import type { Journey } from '#core/journey/schema'
import { journeySchema } from '#core/journey/schema'
import type { DayTrack, RecordedDay } from '#core/writing/journey-of-day'
import { bestSpread, journeyOfDay, mapOfDay, MOST_CARDS } from '#core/writing/journey-of-day'
import { sheetOfMap } from '#core/writing/make-journey'

const FRAME = { width: 1920, height: 1080, rate: '30/1' } as const
const CORNERS = [
  { lon: 139, lat: 35.2 },
  { lon: 139.06, lat: 35.24 },
]
const SHEET = sheetOfMap(mapOfDay(CORNERS, FRAME), 'a'.repeat(64))
const geo = groundGeo({ sheets: [SHEET] })!
const onGround = (lon: number, lat: number) => geo.toGround({ lon, lat })!

const BEGAN = Date.UTC(2026, 4, 12, 0, 30) / 1000

/** Along a parallel, 200 points in 10 000 s; standing in the middle for as long again. */
function walk(): DayTrack {
  const points = Array.from({ length: 200 }, (_, i) => onGround(139 + (0.06 * i) / 199, 35.22))
  const times = points.map((_, i) => BEGAN + 50 * i + (i >= 100 ? 10_000 : 0))
  const heights = points.map((_, i) => 700 + i)
  return {
    stops: [
      { name: 'Start', at: points[0]! },
      { name: 'Hakone', found: true, at: points.at(-1)! },
    ],
    courses: [trackCourse(points.flatMap(({ x, y }) => [x, y]), times, heights)], // prettier-ignore
    speed: 4,
    hasTimes: true,
    hasHeights: true,
  }
}

const PHOTO = { image: 'b'.repeat(64), width: 400, height: 300, vector: false }
const photoAt = (seconds: number, place?: [lon: number, lat: number], name = ''): TripPhoto => ({
  name,
  at: place ? onGround(...place) : null,
  time: (BEGAN + seconds) * 1000,
  isExact: true,
  photo: { ...PHOTO, image: String(seconds % 9).repeat(64) },
})

const day = (fields: Partial<RecordedDay>): RecordedDay => ({
  name: 'Round the lake',
  date: '2026-05-12',
  tracks: [walk()],
  photos: [],
  offset: 0,
  ...fields,
})

/** For how many seconds each card is seen whole, and until when anything of it is seen. */
function cardsSeen(journey: Journey): { whole: Map<string, number>; last: number; end: number } {
  const compiled = compile(journey)
  const whole = new Map<string, number>()
  let last = 0
  for (let k = 0; k < compiled.frames; k++) {
    const time = k / 30
    for (const item of frameAt(compiled, time).items) {
      if (item.kind !== 'postcard') continue
      last = time
      if (item.opacity > 0.98 && item.scale > 0.95) whole.set(item.postcard.id, (whole.get(item.postcard.id) ?? 0) + 1 / 30)
    }
  }
  return { whole, last, end: compiled.lastTime }
}

describe('a film of a recorded day', () => {
  const photos = [photoAt(2500, [139.015, 35.22]), photoAt(17_500)]
  const journey = journeyOfDay(day({ photos }), SHEET, FRAME)

  it('is a journey as the format has it, and the same each time', () => {
    expect(() => journeySchema.parse(journey)).not.toThrow()
    expect(journeyOfDay(day({ photos }), SHEET, FRAME)).toEqual(journey)
  })

  it('has the track at its recorded pace, cut where photos were taken: by their place, or by their time', () => {
    const { visits, legs } = journey.travellers[0]!
    const at = visits.map(({ stop }) => geo.toLonLat(journey.stops.find(({ id }) => id === stop)!.at)!.lon)
    // 17 500 s after the beginning less 10 000 of standing is three quarters of the way.
    ;[139, 139.015, 139.045, 139.06].forEach((lon, i) => expect(at[i]).toBeCloseTo(lon, 3))
    expect(legs.map(({ easing, course }) => [easing, course.kind])).toEqual(Array(3).fill(['recorded', 'track']))
    expect(legs[0]!.vehicle).toMatchObject({ artwork: 'walker' })
  })

  it('says its day, its way and its height', () => {
    expect(journey.captions.map(({ content }) => content.kind)).toEqual(['title', 'distance', 'height'])
    expect(journey.captions[0]!.content).toMatchObject({ text: 'Round the lake', second: '12 May 2026' })
    const end = frameAt(compile(journey), journey.seconds).items.flatMap((item) =>
      item.kind === 'caption' && item.figure.kind === 'text' ? [item.figure.block.lines.map(({ text }) => text).join(' ')] : [],
    )
    // 0.06 degrees of longitude at 35.22 N are 0.06 x 111.32 km x cos(35.22) = 5.46 km on a sphere; on the ellipsoid a little more.
    expect(Number(/([\d.]+) km/.exec(end.join())![1])).toBeCloseTo(5.46, 1)
    expect(end.join()).toContain('899 m')
  })

  it('follows the camera’s clock where that is off', () => {
    const late = { ...photoAt(17_500), time: (BEGAN + 17_500 + 3600) * 1000, isExact: false }
    const moved = journeyOfDay(day({ photos: [late], offset: -3600 }), SHEET, FRAME)
    expect(geo.toLonLat(moved.stops.at(-1)!.at)!.lon).toBeCloseTo(139.045, 3)
  })

  it('leaves out what nothing places', () => {
    const lost = [photoAt(1e6), { ...photoAt(0), time: null }]
    expect(journeyOfDay(day({ photos: lost }), SHEET, FRAME).stops).toHaveLength(2)
  })

  it('shows each photo long enough to be taken in, and at the end the whole way, however many there are, with a track or without', () => {
    fc.assert(
      fc.property(
        fc.uniqueArray(fc.integer({ min: 1, max: 99 }), { minLength: 1, maxLength: MOST_CARDS }),
        fc.boolean(),
        (places, hasTrack) => {
          const taken = places.map((k) => photoAt(100 * k, [139 + 0.0006 * k, hasTrack ? 35.22 : 35.2 + (0.0004 * (k * 37)) % 0.04])) // prettier-ignore
          const made = journeyOfDay(day({ photos: taken, tracks: hasTrack ? [walk()] : [] }), SHEET, FRAME)
          const cards = made.stops.reduce((sum, { postcards }) => sum + postcards.length, 0)
          const { whole, last, end } = cardsSeen(made)
          expect(whole.size).toBe(cards)
          // Common practice, no source: a second and a half to take in a photo.
          for (const seconds of whole.values()) expect(seconds).toBeGreaterThan(1.4)
          expect(made.seconds).toBeLessThanOrEqual(60)
          expect(made.seconds).toBeGreaterThanOrEqual(12)
          expect(end - last).toBeGreaterThan(1)
        },
      ),
      { numRuns: 8 },
    )
  })

  it.each([
    [0.002, 'walker'],
    [0.4, 'hatchback'],
    [20, 'airliner'],
  ])('of photos that are %d degrees apart goes by a vehicle for that distance', (apart, artwork) => {
    const places = [0, 1, 2, 3].map((i) => ({ lon: 10 + i * apart, lat: 47 }))
    const sheet = sheetOfMap(mapOfDay(places, FRAME), 'a'.repeat(64))
    const on = groundGeo({ sheets: [sheet] })!
    const taken = places.map((at, i) => ({ ...photoAt(i), at: on.toGround(at)! }))
    expect(journeyOfDay(day({ photos: taken, tracks: [] }), sheet, FRAME).travellers[0]!.legs[0]!.vehicle).toMatchObject({ artwork })
  })
})

describe('the photos that have room', () => {
  const spread = (chosen: readonly TripPhoto[]) =>
    chosen.slice(1).reduce((least, { time }, i) => Math.min(least, time! - chosen[i]!.time!), Infinity)

  /** All ways to choose so many, the first always among them. */
  function* choices(photos: readonly TripPhoto[], most: number, from = 1, chosen = [photos[0]!]): Generator<TripPhoto[]> {
    if (chosen.length === most) return yield chosen
    for (let i = from; i < photos.length; i++) yield* choices(photos, most, i + 1, [...chosen, photos[i]!])
  }

  it('are spread at least half as well as can be, held against all choices there are', () => {
    fc.assert(
      fc.property(
        fc.uniqueArray(fc.integer({ min: 0, max: 10_000 }), { minLength: 4, maxLength: 9 }),
        fc.integer({ min: 2, max: 4 }),
        (times, most) => {
          const photos = [...times].sort((a, b) => a - b).map((time) => photoAt(time))
          const chosen = bestSpread(photos, most)
          expect(chosen).toHaveLength(Math.min(most, photos.length))
          expect(chosen[0]).toBe(photos[0])
          expect(chosen).toEqual(photos.filter((photo) => chosen.includes(photo)))
          // Gonzalez, Clustering to minimize the maximum intercluster distance (1985), for this choice: no worse than by 2.
          const best = Math.max(...[...choices(photos, Math.min(most, photos.length))].map(spread))
          expect(spread(chosen)).toBeGreaterThanOrEqual(best / 2)
        },
      ),
    )
  })

  it('are all of them where they have room', () => {
    const photos = [3, 1, 2].map((time) => photoAt(time))
    expect(bestSpread(photos, 3).map(({ time }) => time! / 1000 - BEGAN)).toEqual([1, 2, 3])
  })
})
