import fc from 'fast-check'
import { describe, expect, it } from 'vitest'
import { compile } from '#core/frame/compile'
import { NO_PLACES } from '#core/labels/label-scene'
import { asSheet } from '#core/sheet/lying-picture'
import { nearestOnCourse } from '#core/geometry/course'
import type { Point } from '#core/geometry/point'
import { distance } from '#core/geometry/point'
import { parseJourney } from '#core/journey/parse'
import type { Journey, Sheet } from '#core/journey/schema'
import { replaceSheet, turnSheet } from '#core/edits/ground/sheets'
import { readPoints } from '#core/journey/track-line'
import { groundToSheet, sheetToGround, turnedAbout } from '#core/sheet/place'
import { EVERY_COURSE, journeyWithEveryKind, pointsOf } from '../support/every-kind'

const coursesOf = (journey: Journey) => compile(journey, NO_PLACES).travellers[0]!.legs.map(({ course }) => course)

/** Everything that lies on the ground: points of it by what they belong to. */
const onGround = (journey: Journey): Record<string, Point[]> => ({
  stops: journey.stops.map((stop) => stop.at),
  networks: journey.networks.flatMap(({ lines }) => lines.flatMap(({ points }) => pointsOf(readPoints(points)))),
  vias: journey.travellers.flatMap(({ legs }) => legs.flatMap(({ course }) => (course.kind === 'network' ? course.vias : []))),
  areas: journey.areas.flatMap(({ rings }) => rings.flatMap((ring) => pointsOf(ring))),
  landmarks: journey.landmarks.flatMap((landmark) =>
    // The corners of one that lies on the map.
    landmark.kind === 'lying'
      ? [landmark.at, sheetToGround(asSheet(landmark).place, { x: 0, y: 0 }), sheetToGround(asSheet(landmark).place, { x: 300, y: 200 })]
      : [landmark.at],
  ),
})

/** The largest distance of an old course, moved, from the new one, at some spots. */
function farthestOff(before: Journey, after: Journey, move: (p: Point) => Point): Record<string, number> {
  const [was, is] = [coursesOf(before), coursesOf(after)]
  const off = (i: number) =>
    Math.max(...pointsOf(was[i]!.points).map((p) => nearestOnCourse(is[i]!, move(p)).distance), (is[i]!.length === 0 && Infinity) || 0)
  return Object.fromEntries(Object.keys(EVERY_COURSE).map((kind, i) => [kind, off(i)]))
}

const all = (value: number) => Object.fromEntries(Object.keys(EVERY_COURSE).map((kind) => [kind, value]))
const rounded = (off: Record<string, number>) => Object.fromEntries(Object.entries(off).map(([kind, value]) => [kind, Math.floor(value)]))

describe('when the ground moves', () => {
  const journey = journeyWithEveryKind()
  const whole = (j: Journey) => parseJourney(JSON.parse(JSON.stringify(j)))

  it('courses of every kind, networks and areas turn with the first sheet', () => {
    fc.assert(
      fc.property(fc.double({ min: -179, max: 179, noNaN: true }), (degrees) => {
        const turned = turnSheet(journey, 'isles', degrees)
        expect(whole(turned)).toEqual(turned)
        const [old, now] = [journey.sheets[0]!.place, turned.sheets[0]!.place]
        const move = (p: Point) => sheetToGround(now, groundToSheet(old, p))
        expect(rounded(farthestOff(journey, turned, move))).toEqual(all(0))
        const [was, is] = [onGround(journey), onGround(turned)]
        for (const [what, points] of Object.entries(was))
          points.forEach((p, i) => expect(distance(move(p), is[what]![i]!), what).toBeLessThan(0.01))
        expect(coursesOf(turned).map(({ breaks }) => breaks.length)).toEqual(coursesOf(journey).map(({ breaks }) => breaks.length))
      }),
      { numRuns: 30 },
    )
  })

  it('they go along to another map by two matched points', () => {
    const move = (p: Point) => turnedAbout({ x: p.x * 0.5, y: p.y * 0.5 }, { x: 900, y: 600 }, 40)
    const [a, b] = [journey.stops[0]!.at, journey.stops[4]!.at]
    const { name, image, vector, credit, drawn, taken } = journey.sheets[0]!
    // Georeferenced as the old one is, so that great circles are too.
    const georeference = {
      ...journey.sheets[0]!.georeference!,
      points: (journey.sheets[0]!.georeference as { points: { at: Point }[] }).points.map((point) => ({ ...point, at: move(point.at) })),
    } as Sheet['georeference']
    const next = { name, image, vector, credit, drawn, taken, width: 4000, height: 3000, georeference }
    const replaced = replaceSheet(journey, 'isles', next, {
      by: 'points',
      pairs: [
        { ground: a, sheet: move(a) },
        { ground: b, sheet: move(b) },
      ],
    })
    expect(whole(replaced)).toEqual(replaced)
    expect(rounded(farthestOff(journey, replaced, move))).toEqual(all(0))
    expect(coursesOf(replaced)[2]!.breaks).toHaveLength(1)
  })
})
