import fc from 'fast-check'
import { describe, expect, it } from 'vitest'
import { frameCorners, projectionOf, seenDirection, zoomedAbout } from '#core/camera/projection'
import type { View } from '#core/camera/view'
import { flatView, GREATEST_PITCH } from '#core/camera/view'
import { projectionAt, viewAt } from '#core/camera/view-track'
import { compile } from '#core/frame/compile'
import { frameAt } from '#core/frame/frame-at'
import type { InkItem } from '#core/frame/frame'
import { radians, turnBetween } from '#core/geometry/angle'
import { pointAt } from '#core/geometry/course'
import { editLeg } from '#core/edits/lines/legs'
import { setFrame } from '#core/edits/journey'
import { parseJourney } from '#core/journey/parse'
import type { Journey, ShotOf } from '#core/journey/schema'
import { shotSchema } from '#core/journey/schema'
import { setGround } from '#core/edits/ground/sheets'
import { addShot, removeShot, setCamera } from '#core/edits/camera/shots'
import { momentAt } from '#core/trips/span'
import { removeStop } from '#core/edits/trips/trips'
import { withGroundMoved } from '#core/edits/ground/ground-move'
import { frameTime } from '#core/pace/rate'
import { coversFrame } from '#core/sheet/framing'
import { demo, journeyOver, paperSheet } from '../support/journeys'

const number = (min: number, max: number) => fc.double({ min, max, noNaN: true })
const reference = { width: 1920, height: 1080 }
const anyView: fc.Arbitrary<View> = fc.record({
  centre: fc.record({ x: number(0, 6400), y: number(0, 3600) }),
  zoom: number(0.2, 4),
  bearing: number(-180, 180),
  pitch: fc.oneof(fc.constant(0), number(0.5, GREATEST_PITCH)),
})
const free = (shot: Partial<ShotOf<'free'>>) => shotSchema.parse({ kind: 'free', id: 'a', ...shot })
const anyPlan: fc.Arbitrary<Pick<Journey, 'camera' | 'shots'>> = fc.record({
  camera: anyView,
  shots: fc.array(
    fc
      .record({ offset: number(0, 9), transition: number(0.5, 6), view: anyView })
      .map(({ offset, transition, view }) =>
        free({ id: `v${offset}`.replace(/\W/g, '-').slice(0, 30), at: { at: 'start', offset }, transition, view }),
      ),
    { maxLength: 4 },
  ),
})

const zoomOf = (shot: Journey['shots'][number]) => (shot.kind === 'free' ? shot.view.zoom : NaN)

describe('a projection', () => {
  it('and its inverse agree to a millionth of a pixel', () => {
    fc.assert(
      fc.property(anyView, number(0, 1920), number(0, 1080), (view, x, y) => {
        const { toScreen, toGround } = projectionOf(view, reference)
        const back = toScreen(toGround({ x, y })!)
        expect(Math.hypot(back.x - x, back.y - y)).toBeLessThan(1e-6)
      }),
    )
  })

  it('that looks straight down is the plain scaling of a map', () => {
    fc.assert(
      fc.property(number(-1e4, 1e4), number(-1e4, 1e4), number(0.01, 9), (x, y, zoom) => {
        const seen = projectionOf(flatView({ x: 100, y: 50 }, zoom), reference).toScreen({ x, y })
        expect(seen).toEqual({ x: 960 + (x - 100) * zoom, y: 540 + (y - 50) * zoom })
      }),
    )
  })

  it('has the horizon where the formula says, above the frame at any pitch and in any frame', () => {
    // H/2 - f / tan(pitch), with f = 1.5 H: at 45 degrees one frame height above the middle and a half.
    expect(projectionOf({ ...flatView({ x: 0, y: 0 }, 1), pitch: 45 }, reference).horizon).toBeCloseTo(540 - 1620, 9)
    for (const [width, height] of [
      [1920, 1080],
      [1080, 1920],
      [1080, 1080],
    ] as const) {
      const projection = projectionOf({ ...flatView({ x: 0, y: 0 }, 1), pitch: GREATEST_PITCH }, { width, height })
      expect(projection.horizon).toBeLessThan(0)
      expect(projection.toGround({ x: 10, y: projection.horizon - 1 })).toBeUndefined()
      expect(projection.toGround({ x: 10, y: projection.horizon + 1 })).toBeDefined()
    }
  })

  it('turned to the east has the east up', () => {
    const { toScreen } = projectionOf({ ...flatView({ x: 0, y: 0 }, 1), bearing: 90 }, reference)
    const east = toScreen({ x: 100, y: 0 })
    expect(east.x).toBeCloseTo(960, 9)
    expect(east.y).toBeCloseTo(440, 9)
  })

  it('gives the scale and the axes that small steps on the ground have in the frame', () => {
    fc.assert(
      fc.property(anyView, number(200, 1700), number(100, 1000), number(-3, 3), (view, x, y, heading) => {
        const projection = projectionOf(view, reference)
        const at = projection.toGround({ x, y })!
        const step = 1e-4 / view.zoom
        const [a, b] = [-1, 1].map((side) =>
          projection.toScreen({ x: at.x + side * step * Math.cos(heading), y: at.y + side * step * Math.sin(heading) }),
        ) as [{ x: number; y: number }, { x: number; y: number }]
        const { direction, length } = seenDirection(projection, at, heading)
        expect(Math.abs(turnBetween(Math.atan2(b.y - a.y, b.x - a.x), direction))).toBeLessThan(1e-4)
        expect(Math.hypot(b.x - a.x, b.y - a.y) / 2e-4).toBeCloseTo(length, 3)
        // Across the line of sight nothing is shortened.
        expect(seenDirection(projection, at, radians(view.bearing)).length).toBeCloseTo(projection.depthScale(at), 9)
      }),
    )
  })

  it('zooms about a place of the frame that keeps its ground', () => {
    fc.assert(
      fc.property(anyView, number(0, 1920), number(0, 1080), number(0.5, 2), (view, x, y, factor) => {
        const ground = projectionOf(view, reference).toGround({ x, y })!
        const after = projectionOf(zoomedAbout(view, reference, { x, y }, factor), reference).toScreen(ground)
        if (view.pitch === 0) expect(Math.hypot(after.x - x, after.y - y)).toBeLessThan(1e-6)
      }),
    )
  })

  it('keeps what is behind the camera far below the frame', () => {
    const { toScreen } = projectionOf({ ...flatView({ x: 0, y: 0 }, 1), pitch: 60 }, reference)
    expect(toScreen({ x: 0, y: 1e5 }).y).toBeGreaterThan(2 * 1080)
  })
})

describe('views at moments', () => {
  const trip = journeyOver(
    [
      [1000, 900],
      [3000, 1500],
      [5000, 2500],
    ],
    { vehicle: { kind: 'catalogue', artwork: 'bicycle', colour: '#d8412f', size: 120 } },
  )

  it('make one view of a film that has no other, the same object at all times', () => {
    const compiled = compile(trip)
    expect(viewAt(compiled, 0)).toBe(trip.camera)
    expect(viewAt(compiled, 7)).toBe(trip.camera)
  })

  it('are taken up smoothly: middle, zoom, bearing and pitch never jump, whatever overlaps', () => {
    fc.assert(
      fc.property(anyPlan, (plan) => {
        const compiled = compile({ ...trip, ...plan })
        // A hundredth of a frame apart, nothing may have moved by more than a small part of what it may move in all.
        for (let k = 0; k < compiled.frames; k++) {
          const t = frameTime(k, '30/1')
          const [a, b] = [viewAt(compiled, t - 1e-5), viewAt(compiled, t + 1e-5)]
          expect(Math.hypot(b.centre.x - a.centre.x, b.centre.y - a.centre.y)).toBeLessThan(5)
          expect(Math.abs(Math.log(b.zoom / a.zoom))).toBeLessThan(0.01)
          expect(Math.abs(turnBetween(radians(a.bearing), radians(b.bearing)))).toBeLessThan(0.01)
          expect(Math.abs(b.pitch - a.pitch)).toBeLessThan(0.1)
        }
      }),
      { numRuns: 40 },
    )
  })

  it('are wholly reached when their transition is over', () => {
    const view = { centre: { x: 3000, y: 1500 }, zoom: 1.2, bearing: 40, pitch: 50 }
    const compiled = compile(addShot(trip, free({ id: 'a', at: { at: 'start', offset: 2 }, transition: 3, easing: 'linear', view })))
    expect(viewAt(compiled, 1.9)).toBe(trip.camera)
    expect(viewAt(compiled, 5)).toEqual(view)
    expect(viewAt(compiled, 7)).toBe(viewAt(compiled, 5))
    expect(viewAt(compiled, 3.5)).toMatchObject({ bearing: 20, pitch: 25 })
  })

  it('turn the shorter way round', () => {
    const [from, to] = [
      { ...trip.camera, bearing: 170 },
      { ...trip.camera, bearing: -170 },
    ]
    const compiled = compile(
      addShot(setCamera(trip, from), free({ id: 'a', at: { at: 'start', offset: 0 }, transition: 2, easing: 'linear', view: to })),
    )
    expect(Math.abs(viewAt(compiled, 1).bearing)).toBeCloseTo(180, 6)
  })

  it('move along with the pace when they are tied to a stop', () => {
    const tied = addShot(
      trip,
      free({
        id: 'a',
        at: { at: 'departure', stop: 's1', offset: 0.5 },
        transition: 1,
        easing: 'linear',
        view: trip.camera,
      }),
    )
    const start = (journey: Journey) => {
      const compiled = compile(journey)
      return compiled.views.shots[0]!.start - compiled.travellers[0]!.visits[1]!.leave
    }
    expect(start(tied)).toBeCloseTo(0.5, 9)
    expect(start(editLeg(tied, 'l1', { travel: 1 }))).toBeCloseTo(0.5, 9)
  })

  it('are tied to the last arrival or departure before them', () => {
    const stops = [{ stop: 'a', arrive: 0, leave: 1 }, { stop: 'b', arrive: 4, leave: 6 }] // prettier-ignore
    expect(momentAt(5, stops)).toEqual({ at: 'arrival', stop: 'b', offset: 1 })
    expect(momentAt(2.5, stops)).toEqual({ at: 'departure', stop: 'a', offset: 1.5 })
    expect(momentAt(2, [])).toEqual({ at: 'start', offset: 2 })
  })

  it('keep the frame on the sheet where it is held in, turned and tilted too', () => {
    fc.assert(
      fc.property(anyPlan, number(0, 10), (plan, t) => {
        const held = compile(setGround({ ...trip, sheets: [paperSheet], ...plan }, { edge: 'held' }))
        expect(coversFrame(paperSheet, viewAt(held, t), reference)).toBe(true)
      }),
      { numRuns: 60 },
    )
  })

  it('are scaled with the frame, move with the ground, and go with their stop', () => {
    const view = { centre: { x: 100, y: 200 }, zoom: 0.5, bearing: 10, pitch: 20 }
    const journey = addShot(
      demo(),
      free({ id: 'a', at: { at: 'arrival', stop: 'lampwick', offset: 0 }, transition: 1, easing: 'linear', view }),
    )
    const square = setFrame(journey, { width: 1080, height: 1080, rate: '30/1' })
    expect(zoomOf(square.shots[0]!) / view.zoom).toBeCloseTo(square.camera.zoom / journey.camera.zoom, 9)
    const doubled = withGroundMoved(journey, ({ x, y }) => ({ x: 2 * x + 5, y: 2 * y }))
    expect(doubled.shots.at(-1)).toMatchObject({ view: { ...view, centre: { x: 205, y: 400 }, zoom: 0.25 } })
    const without = removeStop(journey, 'lampwick', 'traveller')
    expect(without.shots.some(({ id }) => id === 'a')).toBe(false)
    expect(() => parseJourney(without)).not.toThrow()
    expect(removeShot(journey, 'a').shots).toEqual(demo().shots)
  })

  it('are refused where they name a stop that nobody visits', () => {
    const lost = addShot(
      trip,
      free({
        id: 'a',
        at: { at: 'arrival', stop: 'nowhere', offset: 0 },
        transition: 1,
        easing: 'linear',
        view: trip.camera,
      }),
    )
    expect(() => parseJourney(lost)).toThrow(/shots\[0\]\.at\.stop: names the stop "nowhere"/)
  })
})

describe('a view that zooms, turns and tilts', () => {
  const artworks = ['car', 'bicycle', 'walker', 'airliner'] as const

  it('has the vehicle on its course and the end of the ink under it at every frame', () => {
    fc.assert(
      fc.property(anyPlan, fc.constantFrom(...artworks), (plan, artwork) => {
        const journey = journeyOver(
          [
            [1000, 900],
            [3000, 1500],
            [2500, 2500],
          ],
          { vehicle: { kind: 'catalogue', artwork, colour: '#d8412f', size: 120 }, course: { kind: 'bowed', bow: 0.2 } },
        )
        const compiled = compile({ ...journey, ...plan })
        for (let k = 0; k < compiled.frames; k += 3) {
          const frame = frameAt(compiled, frameTime(k, '30/1'))
          const motion = frame.motions[0]
          if (!motion || motion.resting) continue
          const { course, leg } = compiled.travellers[0]!.legs[motion.leg]!
          const { toScreen, depthScale } = projectionAt(compiled, frame.time)
          const [vehicle, on] = [toScreen(motion.position), toScreen(pointAt(course, motion.s))]
          if (vehicle.x < 0 || vehicle.y < 0 || vehicle.x > 1920 || vehicle.y > 1080) continue
          expect(Math.hypot(vehicle.x - on.x, vehicle.y - on.y)).toBeLessThan(0.5)
          const ink = frame.items.find((item): item is InkItem => item.kind === 'ink' && item.leg === leg.id)
          if (!ink) continue
          expect(ink.head).toBeLessThanOrEqual(motion.s + 1e-9)
          const head = toScreen(pointAt(course, ink.head))
          // The widest distance behind is that of the sailing boat, 0.32 of its length, and perspective stretches what is nearer.
          expect(Math.hypot(vehicle.x - head.x, vehicle.y - head.y)).toBeLessThanOrEqual(0.32 * 120 * depthScale(motion.position) * 1.2 + 1)
        }
      }),
      { numRuns: 40 },
    )
  })

  it('shows the ground within the frame alone', () => {
    fc.assert(
      fc.property(anyView, (view) => {
        const projection = projectionOf(view, reference)
        const corners = frameCorners(projection).map(projection.toScreen)
        expect(corners[0]!.x).toBeCloseTo(0, 6)
        expect(corners[2]!.y).toBeCloseTo(1080, 6)
      }),
    )
  })
})
