import { flatView } from '#core/camera/view'
import fc from 'fast-check'
import { describe, expect, it } from 'vitest'
import { projectionOf, zoomedAbout } from '#core/camera/projection'
import { referenceSize } from '#core/camera/view'
import { compile } from '#core/frame/compile'
import { NO_PLACES } from '#core/labels/label-scene'
import { createJourney, FRAME_SIZES } from '#core/journey/create'
import { bendLeg, editLeg } from '#core/edits/lines/legs'
import { setFrame } from '#core/edits/journey'
import { editStop } from '#core/edits/marks/stops'
import { setSeconds } from '#core/edits/pace/film-length'
import { setLayover } from '#core/edits/pace/pace'
import { addStop, moveVisit } from '#core/edits/trips/visits'
import { checkEdited, parseJourney } from '#core/journey/parse'
import { replaceSheet } from '#core/edits/ground/sheets'
import { removeStop } from '#core/edits/trips/trips'
import type { Journey } from '#core/journey/schema'
import { planSchema } from '#core/journey/schema'
import { coversFrame, fillingView } from '#core/sheet/framing'
import { sharpness } from '#core/sheet/sharpness'
import { VEHICLE_IDS } from '#core/vehicles/catalogue'
import { EVERY_COURSE } from '../support/every-kind'
import { demo, journeyOver, movingDemo, paperSheet } from '../support/journeys'
import {
  asVersion5,
  asVersion6,
  asVersion8,
  asVersion10,
  asVersion9,
  withoutVersion10,
  withoutVersion11,
  withoutVersion7,
  withoutVersion9,
} from '../support/old-documents'

/** The demo as plain data with one field, named by its path, set to something else (or taken away). */
function broken(path: string, value?: unknown): unknown {
  const document: unknown = JSON.parse(JSON.stringify(demo()))
  const keys = path.split('.')
  const last = keys.pop()!
  const owner = keys.reduce((node, key) => (node as Record<string, unknown>)[key], document) as Record<string, unknown>
  if (value === undefined) delete owner[last]
  else owner[last] = value
  return document
}

/** A journey with another value in a field; all other parts are shared. */
function changed<T>(part: T, [key, ...rest]: string[], value: unknown): T {
  const put = (inner: unknown) => (rest.length > 0 ? changed(inner, rest, value) : value)
  return Array.isArray(part)
    ? (part.map((inner: unknown, i) => (String(i) === key ? put(inner) : inner)) as T)
    : { ...part, [key!]: put(part[key as keyof T]) }
}

describe('reading a journey', () => {
  it('takes what it wrote', () => {
    expect(parseJourney(JSON.parse(JSON.stringify(demo())))).toEqual(demo())
  })

  it('takes what version 2 wrote, in which stops had no postcards and no place of their own', () => {
    const now = asVersion5(demo())
    const stops = (now.stops as Journey['stops']).map(({ id, name, at, found, pin, label }) => ({ id, name, at, found, pin, label }))
    expect(parseJourney({ ...now, version: 2, stops })).toEqual({
      ...withoutVersion7(demo()),
      stops: withoutVersion7(demo()).stops.map((stop) => ({ ...stop, postcards: [] })),
    })
  })

  it('takes what version 3 wrote: rests that were given, not set, are free again, and times of tracks never fall', () => {
    const now = asVersion5(journeyOver([[0, 0], [9, 0], [9, 9]], {}, 10)) as unknown as Journey // prettier-ignore
    // What version 3 gave new stops in a film of 10 s was 0.5, 0.5 and 1.5; here the second was set by hand.
    const given = [0.5, 0.8, 1.5]
    const track = { kind: 'track', points: '0,0 1,1 2,0 9,0', times: '0 5 3.5 9' }
    const [traveller] = now.travellers
    const old = {
      ...now,
      version: 3,
      travellers: [
        {
          ...traveller,
          visits: traveller!.visits.map(({ stop }, i) => ({ stop, layover: given[i] })),
          legs: traveller!.legs.map((leg, i) => (i === 0 ? { ...leg, course: track } : leg)),
        },
      ],
    }
    const { visits, legs } = parseJourney(old).travellers[0]!
    expect(visits.map(({ layover }) => layover)).toEqual([null, 0.8, null])
    expect(legs[0]!.course).toEqual({ ...track, times: '0 5 5 9', heights: null, began: null })
  })

  it('takes what version 5 wrote: lines with all fields at once, vehicles without a kind, and gaps between nodes', () => {
    const broken = editLeg(withoutVersion7(demo()), 'seaplane', { course: EVERY_COURSE.drawn })
    expect(parseJourney(asVersion5(broken))).toEqual(broken)
    const legs = (ink: unknown) => ({ ...asVersion5(journeyOver([[0, 0], [9, 0]])), travellers: [{ id: 't', visits: [{ stop: 's0' }, { stop: 's1' }], legs: [{ id: 'l', ink }] }] }) // prettier-ignore
    const lineOf = (ink: unknown) => parseJourney(legs(ink)).travellers[0]!.legs[0]!.ink.line
    expect(lineOf({})).toEqual({ kind: 'solid' })
    expect(lineOf({ line: 'dotted', dash: 40, gap: 7 })).toEqual({ kind: 'dotted', space: 7, fitted: false })
    expect(lineOf({ line: 'dashed', dash: 40 })).toEqual({ kind: 'dashed', dash: 40, space: 18, fitted: false })
    expect(() => lineOf({ line: 'wavy' })).toThrow(/ink\.line\.kind/)
  })

  it('takes what version 6 wrote: labels on a side, with the fields of their letters', () => {
    expect(parseJourney(asVersion6(demo()))).toEqual(withoutVersion7(demo()))
    const labelOf = (label: unknown) =>
      parseJourney({ ...asVersion6(demo()), stops: demo().stops.map(({ id, name, at }) => ({ id, name, at, label })) }).stops[0]!.label
    expect(labelOf({ side: 'top', size: 60, colour: '#112233', halo: '#445566' })).toMatchObject({
      shown: true,
      place: { kind: 'side', side: 'top' },
      style: { family: 'alegreya', weight: 700, size: 60, colour: '#112233', halo: { colour: '#445566', width: 0.1 }, plate: null },
    })
    expect(labelOf(undefined).place).toEqual({ kind: 'side', side: 'right' })
    expect(() => labelOf({ font: 'Arial' })).toThrow(/stops\[0\]\.label.*font/)
  })

  it('takes what version 8 wrote: travel times shared out by length to a power', () => {
    expect(parseJourney(asVersion8(demo()))).toEqual(withoutVersion9(demo()))
    expect(parseJourney({ ...asVersion8(demo()), shareExponent: 0.8 }).share).toEqual({ by: 'distance', exponent: 0.8 })
    expect(() => parseJourney({ ...asVersion8(demo()), shareExponent: 3 })).toThrow(/share\.exponent/)
  })

  it('takes what version 10 wrote: no globe, and no sky of one’s own', () => {
    expect(parseJourney(asVersion10(movingDemo()))).toEqual(withoutVersion11(movingDemo()))
    const planned = { ...movingDemo(), plan: planSchema.parse({ temperament: 'lively', globe: true }) }
    expect(parseJourney(asVersion10(planned)).plan).toEqual({ temperament: 'lively', globe: false, without: [] })
  })

  it('takes what version 9 wrote: views are shots of one’s own', () => {
    expect(parseJourney(asVersion9(movingDemo()))).toEqual(withoutVersion10(movingDemo()))
    expect(() => parseJourney({ ...asVersion9(movingDemo()), views: [{ id: 'a' }] })).toThrow(/shots\[0\]\.at/)
  })

  it('fills in defaults', () => {
    const bare = { ...createJourney('Bare'), stops: [{ id: 'a', name: 'A', at: { x: 1, y: 2 } }] }
    expect(parseJourney(JSON.parse(JSON.stringify(bare))).stops[0]!.pin).toMatchObject({ shape: 'lantern', colour: '#d8412f', size: 64 })
  })

  it.each<[what: string, path: string, value: unknown, message: RegExp]>([
    ['another format', 'format', 'something', /field "format" should be "zephyrine-journey"/],
    ['a later version', 'version', 12, /field "version" is 12, and this Zephyrine reads versions 1 to 11/],
    ['a missing version', 'version', undefined, /field "version" is missing/],
    [
      'a visit to nowhere',
      'travellers.0.visits.1.stop',
      'atlantis',
      /travellers\[0\]\.visits\[1\]\.stop: names the stop "atlantis", which is not in the journey/,
    ],
    ['too few legs', 'travellers.0.legs', [], /travellers\[0\]\.legs: has 0 legs, but 5 visits need 4/],
    ['two stops of one id', 'stops.1.id', 'harrowmere', /stops\[1\]\.id: is "harrowmere", which another stop has already/],
    ['an unknown vehicle', 'travellers.0.legs.2.vehicle.artwork', 'dragon', /travellers\[0\]\.legs\[2\]\.vehicle\.artwork/],
    ['a size beyond all bounds', 'frame.width', 100000, /frame\.width/],
    ['an odd size', 'frame.width', 1921, /frame\.width: must be an even number of pixels/],
    ['a frame rate that is not on offer', 'frame.rate', '29.97', /frame\.rate/],
    ['a place that is no number', 'stops.0.at.x', null, /stops\[0\]\.at\.x/],
    ['a field nobody knows', 'stops.0.elevation', 3, /stops\[0\]: .*elevation/],
    ['a colour in words', 'stops.0.pin.colour', 'red', /stops\[0\]\.pin\.colour: must be a colour like/],
  ])('refuses %s and names the field', (_what, path, value, message) => {
    expect(() => parseJourney(broken(path, value))).toThrow(message)
    // An edit that did this would be refused in the same words, though most of the journey is not looked at again.
    const before = demo()
    if (path !== 'format' && path !== 'version') expect(() => checkEdited(changed(before, path.split('.'), value))).toThrow(message)
  })

  it('refuses what is not a journey at all', () => {
    for (const value of [null, 3, 'text', [], {}]) expect(() => parseJourney(value)).toThrow(/This is not a journey/)
  })
})

describe('edits', () => {
  const names = (journey: Journey) => journey.travellers[0]!.visits.map((visit) => journey.stops.find((stop) => stop.id === visit.stop)!.id)

  it('add a stop and the leg that leads to it, dressed like the one before', () => {
    const journey = editLeg(
      journeyOver([
        [0, 0],
        [100, 0],
      ]),
      'l1',
      { ink: { colour: '#00ff00' }, course: { kind: 'bowed', bow: 0.3 } },
    )
    const longer = addStop(journey, { x: 200, y: 50 }, { stop: 'new', leg: 'leg' }, { traveller: 'traveller' })
    expect(longer.travellers[0]!.legs[1]).toMatchObject({ id: 'leg', ink: { colour: '#00ff00' }, course: { kind: 'bowed', bow: 0.3 } })
    expect(longer.travellers[0]!.visits.map((visit) => visit.layover)).toEqual([null, null, null])
    expect(journey.stops).toHaveLength(2)
  })

  it('give new stops rests that fit the film, short or long', () => {
    const rests = (seconds: number) =>
      compile(
        journeyOver(
          [
            [0, 0],
            [9, 9],
            [20, 0],
            [30, 30],
          ],
          {},
          seconds,
        ),
      ).travellers[0]!.visits.map(({ arrive, leave }) => Math.round((leave - arrive) * 30))
    // In frames: 0.6, 1, 1 and 2 seconds; in a film of 4 s 0.2, 0.2, 0.2 and 0.6.
    expect(rests(20)).toEqual([18, 30, 30, 60])
    expect(rests(4)).toEqual([6, 6, 6, 18])
  })

  it('remove a stop and join its legs', () => {
    const journey = removeStop(demo(), 'oarsend', 'traveller')
    expect(names(journey)).toEqual(['harrowmere', 'quillhaven', 'lampwick', 'emberlight'])
    expect(journey.travellers[0]!.legs.map((leg) => leg.id)).toEqual(['night-train', 'bicycle', 'seaplane'])
    // What was drawn stays as it was drawn: the joined leg is as long as the two were.
    const lengths = (j: Journey) => compile(j).travellers[0]!.legs.map(({ course }) => course.length)
    const before = lengths(demo())
    expect(lengths(journey)[1]).toBeCloseTo(before[1]! + before[2]!, 1)
    expect(() => parseJourney(journey)).not.toThrow()
  })

  it('remove the last stop left', () => {
    const journey = removeStop(journeyOver([[0, 0]]), 's0', 'traveller')
    expect([journey.stops, journey.travellers[0]!.visits, journey.travellers[0]!.legs]).toEqual([[], [], []])
  })

  it('move a stop in the order and keep the legs whose ends stay neighbours', () => {
    const journey = moveVisit(demo(), 4, 0, 'traveller')
    expect(names(journey)).toEqual(['emberlight', 'harrowmere', 'quillhaven', 'oarsend', 'lampwick'])
    const legs = journey.travellers[0]!.legs
    expect(legs.map((leg) => leg.id)).toEqual(['seaplane', 'night-train', 'bicycle', 'rowing-boat'])
    expect(legs[1]!.course.kind).toBe('drawn')
  })

  it('bend a leg by its middle, and straighten it again', () => {
    const journey = bendLeg(
      journeyOver([
        [0, 0],
        [100, 0],
      ]),
      'l1',
      { x: 60, y: -25 },
    )
    expect(journey.travellers[0]!.legs[0]!.course).toEqual({ kind: 'bowed', bow: 0.25 })
    expect(bendLeg(journey, 'l1', { x: 50, y: 0.2 }).travellers[0]!.legs[0]!.course).toEqual({ kind: 'straight' })
  })

  it('lay a new sheet so that everything keeps its place in the frame', () => {
    const journey = demo()
    const reference = referenceSize(journey.frame)
    const before = journey.stops.map((stop) => projectionOf(journey.camera, reference).toScreen(stop.at))
    const replaced = replaceSheet(journey, 'isles', { ...paperSheet, width: 3000, height: 3000 }, { by: 'frame' })
    replaced.stops.forEach((stop, i) => {
      const after = projectionOf(replaced.camera, reference).toScreen(stop.at)
      expect(after.x).toBeCloseTo(before[i]!.x, 6)
      expect(after.y).toBeCloseTo(before[i]!.y, 6)
    })
    const length = (j: Journey) => compile(j).travellers[0]!.legs[0]!.course.length * j.camera.zoom
    expect(length(replaced) / length(journey)).toBeCloseTo(1, 4)
    expect(coversFrame(replaced.sheets[0]!, replaced.camera, reference)).toBe(true)
  })

  it('keep the sheet filling the frame when the frame changes shape', () => {
    for (const sizes of Object.values(FRAME_SIZES)) {
      for (const [, width, height] of sizes) {
        const journey = setFrame(demo(), { width, height, rate: '25/1' })
        expect(coversFrame(paperSheet, journey.camera, referenceSize(journey.frame))).toBe(true)
        expect(setFrame(journey, demo().frame).camera.zoom).toBeCloseTo(demo().camera.zoom, 12)
        expect(() => parseJourney(journey)).not.toThrow()
      }
    }
  })

  it('leave a valid journey, whatever they are and in whatever order, and share what they do not touch', () => {
    const place = fc.record({ x: fc.integer({ min: 0, max: 6400 }), y: fc.integer({ min: 0, max: 3600 }) })
    const edit = fc.oneof(
      place.map((at) => (j: Journey, k: number) => addStop(j, at, { stop: `n${k}`, leg: `m${k}` }, { traveller: 'traveller' })),
      fc.nat(9).map((i) => (j: Journey) => (j.stops[i] ? removeStop(j, j.stops[i]!.id, 'traveller') : j)),
      fc.tuple(fc.nat(6), fc.nat(6)).map(
        ([a, b]) =>
          (j: Journey) =>
            moveVisit(j, a, Math.min(b, Math.max(0, j.stops.length - 1)), 'traveller'),
      ),
      fc.tuple(fc.nat(6), place).map(
        ([i, at]) =>
          (j: Journey) =>
            j.travellers[0]!.legs[i] ? bendLeg(j, j.travellers[0]!.legs[i]!.id, at) : j,
      ),
      fc.tuple(fc.nat(6), place).map(
        ([i, at]) =>
          (j: Journey) =>
            j.stops[i] ? editStop(j, j.stops[i]!.id, { at }) : j,
      ),
      fc.tuple(fc.nat(6), fc.constantFrom(...VEHICLE_IDS)).map(
        ([i, artwork]) =>
          (j: Journey) =>
            j.travellers[0]!.legs[i]
              ? editLeg(j, j.travellers[0]!.legs[i]!.id, { vehicle: { kind: 'catalogue', artwork, colour: '#123456', size: 90 } })
              : j,
      ),
      fc.double({ min: 0, max: 1, noNaN: true }).map((s) => (j: Journey) => setLayover(j, 0, s, 'traveller')),
    )
    fc.assert(
      fc.property(fc.array(edit, { maxLength: 14 }), (steps) => {
        const start = setSeconds(demo(), 60)
        const frozen = JSON.stringify(start)
        let journey = start
        steps.forEach((step, k) => (journey = step(journey, k)))
        expect(() => compile(parseJourney(journey), NO_PLACES)).not.toThrow()
        expect(JSON.stringify(start)).toBe(frozen)
      }),
    )
  })
})

describe('views', () => {
  const frame = { width: 3840, height: 2160 }
  const reference = referenceSize(frame)

  it('goes to the screen and back', () => {
    const view = flatView({ x: 123, y: 456 }, 0.37)
    const p = projectionOf(view, reference).toGround(projectionOf(view, reference).toScreen({ x: 999, y: -5 }))!
    expect(p.x).toBeCloseTo(999, 9)
    expect(p.y).toBeCloseTo(-5, 9)
  })

  it('counts sheet pixels per output pixel', () => {
    const view = fillingView(paperSheet, reference)
    expect(sharpness(paperSheet, view, frame)).toBeCloseTo(6400 / 3840, 9)
    expect(sharpness(paperSheet, { ...view, zoom: view.zoom * 2 }, frame)).toBeCloseTo(6400 / 7680, 9)
    // Where only a coarser level of a sheet of tiles was taken, a pixel of it is twice as large. The middle lies in column 6, row 3 of level 0.
    const taken = (...level0: [number, number, number][]) =>
      ({ ...paperSheet, taken: { tiles: [level0, [[1, 0, 12]]] } }) as unknown as typeof paperSheet
    expect(sharpness(taken([3, 6, 6]), view, frame)).toBeCloseTo(6400 / 3840, 9)
    expect(sharpness(taken([3, 0, 5]), view, frame)).toBeCloseTo(6400 / 7680, 9)
  })

  it('zooms about a point that stays where it is', () => {
    const view = fillingView(paperSheet, reference)
    const at = { x: 300, y: 200 }
    const ground = projectionOf(view, reference).toGround(at)!
    const closer = zoomedAbout(view, reference, at, 1.7)
    expect(projectionOf(closer, reference).toScreen(ground).x).toBeCloseTo(300, 9)
    expect(closer.zoom / view.zoom).toBeCloseTo(1.7, 9)
  })
})
