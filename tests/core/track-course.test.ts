import fc from 'fast-check'
import { describe, expect, it } from 'vitest'
import { compile } from '#core/frame/compile'
import { lengthAt } from '#core/trips/compiled'
import type { Track } from '#core/tracks/track'
import { groundGeo } from '#core/geo/ground'
import type { LayOptions } from '#core/tracks/lay-track'
import { layTrack, matchPlaces, takenPart } from '#core/tracks/lay-track'
import { countOf, pointOf } from '#core/tracks/measure'
import { overviewOf } from '#core/tracks/overview'
import { nearestOnCourse, pointAt, polylineCourse } from '#core/geometry/course'
import { distance } from '#core/geometry/point'
import { editLeg } from '#core/edits/lines/legs'
import { parseJourney } from '#core/journey/parse'
import { compiledCourse } from '#core/courses/compile-course'
import type { Journey, TrackCourse } from '#core/journey/schema'
import { courseSchema } from '#core/journey/schema'
import { joinedTrack, reversedTrack, splitTrack, trackCourse } from '#core/courses/track-course'
import { addTrack } from '#core/edits/lines/tracks'
import { effortOf } from '#core/pace/profile'
import { countIn, readPoints, readTimes, writePoints } from '#core/journey/track-line'
import { insertStop, removeStop, reverseTrip } from '#core/edits/trips/trips'
import { demo, journeyOver } from '../support/journeys'

const value = fc.integer({ min: -2000, max: 2000 }).map((n) => n / 4)
const lines = fc.array(fc.tuple(value, value, fc.integer({ min: 0, max: 30 })), { minLength: 3, maxLength: 40 }).map((points) => {
  let time = 0
  return { xy: Float64Array.from(points.flatMap(([x, y]) => [x, y])), times: Float64Array.from(points, ([, , step]) => (time += step)) }
})
const check = (journey: Journey) => parseJourney(JSON.parse(JSON.stringify(journey)))

describe('a line kept as text', () => {
  it('is what it was, to the hundredth', () => {
    fc.assert(
      fc.property(lines, ({ xy }) => {
        expect([...readPoints(writePoints(xy))]).toEqual([...xy])
        expect(countIn(writePoints(xy))).toBe(xy.length / 2)
      }),
    )
  })

  it.each([
    ['points without a comma', { points: '1,2 3' }],
    ['a single point', { points: '1,2' }],
    ['numbers that are none', { points: '1,2 NaN,3' }],
    ['code', { points: '1,2 3,4;alert(1)' }],
    ['fewer times than points', { points: '1,2 3,4 5,6', times: '0 1' }],
    ['times before the start', { points: '1,2 3,4', times: '0 -1' }],
    ['times that fall', { points: '1,2 3,4 5,6', times: '0 9 3' }],
    ['fewer heights than points', { points: '1,2 3,4 5,6', heights: '0 1' }],
    ['heights that are none', { points: '1,2 3,4', heights: '0 high' }],
  ])('is refused with %s', (_what, course) => {
    const journey = editLeg(
      journeyOver([
        [0, 0],
        [9, 9],
      ]),
      'l1',
      { course: { kind: 'track', times: null, heights: null, ...course } as TrackCourse },
    )
    expect(() => check(journey)).toThrow(/course/)
  })

  it('of too many points is refused', () => {
    expect(() => trackCourse(new Float64Array(200_002), null)).toThrow(/at most 100000 recorded points/)
  })
})

describe('a recorded course', () => {
  it('is split, joined and turned round without loss of length or time', () => {
    fc.assert(
      fc.property(lines, fc.double({ min: 0.01, max: 0.99, noNaN: true }), ({ xy, times }, share) => {
        const track = trackCourse(xy, times)
        const course = polylineCourse(xy)
        fc.pre(course.length > 1)
        const [a, b] = splitTrack(track, course, course.length * share)
        const [first, second] = [polylineCourse(readPoints(a.points)), polylineCourse(readPoints(b.points))]
        expect(first.length + second.length).toBeCloseTo(course.length, 0)
        const joined = joinedTrack(first, second, a, b)
        expect(polylineCourse(readPoints(joined.points)).length).toBeCloseTo(course.length, 0)
        const whole = times.at(-1)! - times[0]!
        expect(Math.abs(readTimes(joined.times!).at(-1)! - whole)).toBeLessThan(0.3)
        const turned = reversedTrack(track, course)
        expect(readPoints(turned.points).slice(0, 2)).toEqual(xy.slice(-2))
        expect(readTimes(reversedTrack(turned, polylineCourse(readPoints(turned.points))).times!).at(-1)).toBeCloseTo(whole, 1)
      }),
    )
  })

  it('leads from stop to stop, wherever these are moved', () => {
    const journey = editLeg(
      journeyOver([
        [0, 0],
        [100, 0],
      ]),
      'l1',
      { course: trackCourse([3, 4, 50, 50, 97, 2], null) },
    )
    const { points } = compile(journey).travellers[0]!.legs[0]!.course
    expect([...points]).toEqual([0, 0, 50, 50, 100, 0])
  })

  it('keeps its pace: where it was slow the traveller is slow', () => {
    const times = Float64Array.of(0, 90, 100)
    const course = polylineCourse(Float64Array.of(0, 0, 50, 0, 100, 0))
    const { toShare } = effortOf(course.lengths, times)
    expect([0, 0.45, 0.9, 0.95, 1].map(toShare)).toEqual([0, 0.25, 0.5, 0.75, 1])
    const journey = editLeg(
      journeyOver([
        [0, 0],
        [100, 0],
      ]),
      'l1',
      { course: trackCourse([0, 0, 50, 0, 100, 0], times), easing: 'recorded' },
    )
    const leg = compile(journey).travellers[0]!.legs[0]!
    expect(lengthAt(leg, leg.depart + 0.9 * (leg.arrive - leg.depart))).toBeCloseTo(50, 6)
    // Of another course there is no record.
    const gentle = compile(editLeg(journey, 'l1', { course: { kind: 'straight' } })).travellers[0]!.legs[0]!
    expect(lengthAt(gentle, (gentle.depart + gentle.arrive) / 2)).toBeCloseTo(50, 6)
  })

  it('stands still where it stood', () => {
    const { toShare } = effortOf(Float64Array.of(0, 40, 40, 100), readTimes('0 10 60 70'))
    expect(toShare(0.3)).toBeCloseTo(0.4, 9)
    expect(toShare(0.8)).toBeCloseTo(0.4, 9)
    expect(effortOf(Float64Array.of(0, 9), Float64Array.of(0, 0)).toShare(0.5)).toBe(0.5)
  })

  it('takes in a stop and gives it back, is turned round, and becomes a bow between other stops', () => {
    const xy = Float64Array.from(Array.from({ length: 200 }, (_, i) => [i * 5, 80 * Math.sin(i / 20)]).flat())
    const journey = editLeg(
      journeyOver([
        [0, 0],
        [995, 80 * Math.sin(199 / 20)],
      ]),
      'l1',
      { course: trackCourse(xy, null), travel: 4 },
    )
    const whole = compile(journey).travellers[0]!.legs[0]!.course
    const split = insertStop(journey, 'l1', { x: 400, y: 60 }, { stop: 'new', leg: 'second' })
    const lengths = compile(check(split)).travellers[0]!.legs.map(({ course }) => course.length)
    expect(lengths[0]! + lengths[1]!).toBeCloseTo(whole.length, 0)
    const joined = compile(check(removeStop(split, 'new', 'traveller'))).travellers[0]!.legs[0]!.course
    for (let s = 0; s <= whole.length; s += 20) expect(nearestOnCourse(joined, pointAt(whole, s)).distance).toBeLessThan(0.02)
    expect(compile(reverseTrip(journey, 'traveller')).travellers[0]!.legs[0]!.course.length).toBeCloseTo(whole.length, 0)
  })
})

const geo = groundGeo(demo())!
/** Ten kilometres east along a parallel in a thousand steps of a second, with a marked place on the way and a gap after the first third. */
const along = (i: number) => ({ lon: 84.4 + i * 0.000115, lat: -38.5 + 0.0002 * Math.sin(i / 9) })
const segment = (from: number, to: number) => ({
  lonLat: Float64Array.from(Array.from({ length: to - from }, (_, i) => [along(from + i).lon, along(from + i).lat]).flat()),
  times: Float64Array.from(Array.from({ length: to - from }, (_, i) => 1000 + from + i)),
  heights: null,
})
const TRACK: Track = { segments: [segment(0, 333), segment(340, 1000)], waypoints: [{ ...along(600), name: 'Mill' }], badTimes: 0 }
const ALL: LayOptions = { segment: null, from: 0, to: 1, reversed: false, metres: 0, stops: [] }

describe('laying a track', () => {
  it('puts every point where it belongs on the ground', () => {
    const { stops, legs } = layTrack(TRACK, ALL, geo.toGround)
    expect(legs).toHaveLength(1)
    expect(legs[0]!.points).toHaveLength(2 * 993)
    expect(distance(stops[0]!.at, geo.toGround(along(0))!)).toBeLessThan(1e-6)
    expect(legs[0]!.times!.at(-1)! - legs[0]!.times![0]!).toBe(999)
  })

  it('cuts it at stops, trims it, takes one segment, turns it round and leaves points out', () => {
    const cut = layTrack(TRACK, { ...ALL, stops: TRACK.waypoints }, geo.toGround)
    expect(cut.stops.map(({ name }) => name)).toEqual(['', 'Mill', ''])
    expect(cut.legs[0]!.points.slice(-2)).toEqual(cut.legs[1]!.points.slice(0, 2))
    expect(countOf(takenPart(TRACK, { ...ALL, segment: 1 }))).toBe(660)
    expect(countOf(takenPart(TRACK, { ...ALL, from: 0.25, to: 0.5 }))).toBe(249)
    const turned = takenPart(TRACK, { ...ALL, reversed: true })
    expect(pointOf(turned, 0)).toEqual(pointOf(TRACK.segments[1]!, 659))
    expect(turned.times![0]).toBe(0)
    expect(turned.times!.at(-1)).toBe(999)
    const few = layTrack(TRACK, { ...ALL, metres: 5 }, geo.toGround).legs[0]!.points.length / 2
    expect(few).toBeLessThan(500)
    const named = layTrack({ ...TRACK, waypoints: [] }, { ...ALL, stops: [{ ...along(2), name: 'Gate' }] }, geo.toGround)
    expect(named.stops.map(({ name }) => name)).toEqual(['Gate', ''])
  })

  it('says so where the map does not show it, or there is no line', () => {
    expect(() => layTrack(TRACK, ALL, () => undefined)).toThrow(/leaves the part of the Earth/)
    expect(() => layTrack({ ...TRACK, segments: [] }, ALL, geo.toGround)).toThrow(/there is no line/)
  })

  it('finds places to lay it by that are far apart', () => {
    const bend = { lonLat: Float64Array.of(8, 47, 8.5, 47, 9, 47.6, 8.9, 47), times: null, heights: null }
    expect(matchPlaces(bend)).toEqual([
      { lon: 8, lat: 47 },
      { lon: 9, lat: 47.6 },
      { lon: 8.9, lat: 47 },
    ])
  })

  it('is told in short', () => {
    const overview = overviewOf(TRACK)!
    expect(overview).toMatchObject({ points: 993, segments: [333, 660], hasTimes: true, places: [{ name: 'Mill', seconds: 0 }] })
    expect(overview.lengthMetres).toBeGreaterThan(9000)
    for (const coordinate of overview.outline) expect(coordinate >= -1e-9 && coordinate <= 1 + 1e-9).toBe(true)
  })
})

describe('a track in the journey', () => {
  const laid = (seconds = true) => {
    const { stops, legs } = layTrack(TRACK, { ...ALL, stops: TRACK.waypoints }, geo.toGround)
    return { stops, courses: legs.map(({ points, times }) => trackCourse(points, times)), seconds: seconds ? [600, 399] : null }
  }
  const ids = [0, 1, 2, 3].map((n) => ({ stop: `t${n}`, leg: `m${n}` }))

  it('is the trip of a traveller of its own, at the pace it had', () => {
    const journey = check(addTrack(demo(), laid(), { use: 'own', traveller: 'walker' }, ids))
    const [, walker] = compile(journey).travellers
    expect(walker!.traveller.visits).toHaveLength(3)
    expect(journey.stops.at(-2)!.name).toBe('Mill')
    const [a, b] = walker!.legs.map(({ depart, arrive }) => arrive - depart)
    expect(a! / b!).toBeCloseTo(600 / 399, 1)
    expect(walker!.traveller.legs.every(({ easing }) => easing === 'recorded')).toBe(true)
  })

  it('goes on from where the trip ends, with a leg that leads there', () => {
    const journey = check(addTrack(demo(), laid(false), { use: 'go-on', traveller: 'traveller' }, ids))
    expect(journey.travellers[0]!.visits).toHaveLength(8)
    expect(journey.travellers[0]!.legs.slice(-2).every(({ course }) => course.kind === 'track')).toBe(true)
    expect(journey.travellers[0]!.legs.at(-3)!.course.kind).not.toBe('track')
  })

  it('begins at a stop that lies there already', () => {
    const track = { ...laid(false), stops: laid().stops.map((stop, i) => (i === 0 ? { ...stop, at: { x: 902, y: 1122 } } : stop)) }
    const journey = check(addTrack(demo(), track, { use: 'own', traveller: 'walker' }, ids))
    expect(journey.travellers[1]!.visits[0]!.stop).toBe('harrowmere')
  })

  it('becomes the course of a leg', () => {
    const { courses } = laid(false)
    const journey = check(addTrack(demo(), { ...laid(false), courses: courses.slice(0, 1) }, { use: 'leg', leg: 'bicycle' }, ids))
    expect(journey.travellers[0]!.legs[1]!.course).toEqual(courses[0])
    expect(journey.stops).toHaveLength(5)
  })
})

it('a track’s course stays as it is when its stops are moved: another is made', () => {
  const shape = courseSchema.parse({ kind: 'track', points: '0,0 10,5 20,0' }) as TrackCourse
  const ground = { geo: undefined, networks: [] }
  const first = compiledCourse(shape, { x: 0, y: 0 }, { x: 20, y: 0 }, ground)
  const second = compiledCourse(shape, { x: 0, y: 0 }, { x: 30, y: 8 }, ground)
  expect([...first.points.slice(-2)]).toEqual([20, 0])
  expect([...second.points.slice(-2)]).toEqual([30, 8])
})
