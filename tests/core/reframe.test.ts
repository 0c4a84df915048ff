/** The same journey in frames of several shapes: what is each one's own, and what is common. */
import fc from 'fast-check'
import { describe, expect, it } from 'vitest'
import { viewAt } from '#core/camera/view-track'
import { projectionOf } from '#core/camera/projection'
import { referenceSize } from '#core/camera/view'
import { atSize, wholeFilm } from '#core/film/settings'
import { addReframe, editReframed, isSameShape, reframed, removeReframe } from '#core/edits/camera/reframe'
import { editCaption } from '#core/edits/marks/captions'
import { editLeg } from '#core/edits/lines/legs'
import { editStop } from '#core/edits/marks/stops'
import { editPostcard } from '#core/edits/marks/postcards'
import { setFrame } from '#core/edits/journey'
import { setGround, setWash } from '#core/edits/ground/sheets'
import { addShot, putShot, removeShot, setCamera, setPlan } from '#core/edits/camera/shots'
import { withGroundMoved } from '#core/edits/ground/ground-move'
import { addStop } from '#core/edits/trips/visits'
import { compile } from '#core/frame/compile'
import { NO_PLACES } from '#core/labels/label-scene'
import { frameAt } from '#core/frame/frame-at'
import { parseJourney } from '#core/journey/parse'
import type { Journey, Shot } from '#core/journey/schema'
import { shotSchema, travellerSchema } from '#core/journey/schema'
import { frameTime } from '#core/pace/rate'
import { coversFrame } from '#core/sheet/framing'
import { movingDemo, paperSheet } from '../support/journeys'
import { EVERY_SHOT, journeyWithEveryKind } from '../support/every-kind'

const UPRIGHT = { width: 1080, height: 1920 }
const upright = (journey: Journey = movingDemo()): Journey => addReframe(journey, UPRIGHT)
const within = (change: (journey: Journey) => Journey, journey: Journey = upright()) => editReframed(journey, 0, change)

describe('a journey in another shape', () => {
  it('is the same film: the same times, and travellers in the safe area of each by an automatic plan', () => {
    for (const [width, height] of [
      [1920, 1080],
      [1080, 1920],
      [1080, 1080],
      [1080, 1350],
    ] as const) {
      const journey = setPlan({ ...addReframe(movingDemo(), { width, height }), shots: [] }, 'lively')
      const shown = compile(reframed(journey, 0), NO_PLACES)
      expect(shown.travellers[0]!.visits.map(({ arrive }) => arrive)).toEqual(compile(journey, NO_PLACES).travellers[0]!.visits.map(({ arrive }) => arrive)) // prettier-ignore
      const reference = referenceSize({ width, height })
      for (let k = 0; k < shown.frames; k += 5) {
        const time = frameTime(k, '30/1')
        const { toScreen } = projectionOf(viewAt(shown, time), reference)
        for (const motion of frameAt(shown, time).motions) {
          if (!motion) continue
          const { x, y } = toScreen(motion.position)
          // 80 % of the frame, upright and across.
          expect(Math.abs(x / reference.width - 0.5)).toBeLessThan(0.401)
          expect(Math.abs(y / reference.height - 0.5)).toBeLessThan(0.401)
        }
      }
    }
  })

  it('shows as much of the ground as the film, and no more than the map where the map filled the frame', () => {
    const empty = {
      ...movingDemo(),
      shots: [],
      sheets: [paperSheet],
      stops: [],
      travellers: [travellerSchema.parse({ id: 'a', visits: [], legs: [] })],
      captions: [],
    }
    const plain = setGround(empty, { edge: 'plain' })
    const journey = setCamera(plain, { centre: { x: 3000, y: 1800 }, zoom: 1, bearing: 0, pitch: 0 })
    // 1080 by 1920 at a zoom of 1 are as many ground units as 1920 by 1080.
    expect(reframed(upright(journey), 0).camera.zoom).toBeCloseTo(1, 9)
    // A square of the same area has the side of their square root, 1440: 1080 / 1440.
    expect(reframed(addReframe(journey, { width: 1080, height: 1080 }), 0).camera.zoom).toBeCloseTo(0.75, 9)
    const whole = setCamera(journey, { centre: { x: 3200, y: 1800 }, zoom: 0.3, bearing: 0, pitch: 0 })
    expect(coversFrame(paperSheet, whole.camera, referenceSize(whole.frame))).toBe(true)
    expect(coversFrame(paperSheet, reframed(upright(whole), 0).camera, referenceSize(UPRIGHT))).toBe(true)
  })

  it('shows the stops again that the film shows', () => {
    const journey = reframed(upright(), 0)
    for (const time of [6, 12, 23.9]) {
      const seen = (of: Journey, p: { x: number; y: number }) => {
        const reference = referenceSize(of.frame)
        const { x, y } = projectionOf(viewAt(compile(of), time), reference).toScreen(p)
        return x >= 0 && y >= 0 && x <= reference.width && y <= reference.height
      }
      for (const { at } of movingDemo().stops) if (seen(movingDemo(), at)) expect(seen(journey, at)).toBe(true)
    }
  })

  it('is exported by its shape at any size', () => {
    const journey = within((j) => setCamera(j, { ...j.camera, pitch: 33 }))
    expect(atSize(journey, { ...wholeFilm(journey), width: 720, height: 1280 })).toMatchObject({
      frame: { width: 720, height: 1280 },
      camera: { pitch: 33 },
    })
    expect(atSize(journey, { ...wholeFilm(journey), width: 1280, height: 720 }).camera.pitch).toBe(journey.camera.pitch)
    expect(isSameShape({ width: 1080, height: 1350 }, { width: 864, height: 1080 })).toBe(true)
    expect(isSameShape({ width: 1080, height: 1350 }, { width: 1080, height: 1440 })).toBe(false)
  })
})

describe('an edit in another shape', () => {
  it('of where things are keeps that to the shape; the journey itself stays as it was', () => {
    const journey = upright()
    const [stop] = journey.stops
    const carded = journey.stops.find(({ postcards }) => postcards.length > 0)!
    const [card] = carded.postcards
    const [caption] = journey.captions
    const place = { kind: 'side', side: 'bottom' } as const
    const corner = caption!.corner === 'top' ? 'bottom' : 'top'
    const after = [
      (j: Journey) => setCamera(j, { ...j.camera, bearing: 12 }),
      (j: Journey) => editStop(j, stop!.id, { label: { place } }),
      (j: Journey) => editPostcard(j, carded.id, card!.id, { size: 300, place }),
      (j: Journey) => editCaption(j, caption!.id, { corner }),
      (j: Journey) => putShot(j, { ...j.shots[0]!, orbit: 7 }),
    ].reduce((all, change) => editReframed(all, 0, change), journey)
    expect({ ...after, reframes: [] }).toEqual({ ...journey, reframes: [] })
    const shown = reframed(after, 0)
    expect(shown.camera.bearing).toBe(12)
    expect(shown.stops[0]!.label.place).toEqual(place)
    expect(shown.stops.find(({ id }) => id === carded.id)!.postcards[0]).toMatchObject({ size: 300, place })
    expect(shown.captions[0]!.corner).toBe(corner)
    expect(shown.shots[0]!.orbit).toBe(7)
    expect(parseJourney(JSON.parse(JSON.stringify(after)))).toEqual(after)
  })

  it('of everything else is for all', () => {
    const changes: ((journey: Journey) => Journey)[] = [
      (j) => editLeg(j, j.travellers[0]!.legs[0]!.id, { travel: 3 }),
      (j) => editStop(j, j.stops[0]!.id, { name: 'Elsewhere', at: { x: 1, y: 2 }, label: { shown: false } }),
      (j) => addStop(j, { x: 900, y: 900 }, { stop: 'new', leg: 'newleg' }, { traveller: j.travellers[0]!.id }),
      (j) => setWash(j, j.sheets[0]!.id, null),
      (j) => setPlan(j, 'calm'),
      (j) => removeShot(j, j.shots[0]!.id),
      (j) => withGroundMoved(j, ({ x, y }) => ({ x: 2 * x, y: 2 * y })),
    ]
    for (const change of changes) {
      const after = within(change)
      expect({ ...after, reframes: [] }).toEqual({ ...change(upright()), reframes: [] })
      expect(reframed(after, 0).frame).toMatchObject(UPRIGHT)
    }
  })

  it('of when a shot is, and of which shots there are, is for all', () => {
    const later = within((j) => putShot(j, { ...j.shots[1]!, transition: 0.7 }))
    expect(later.shots[1]!.transition).toBe(0.7)
    expect(later.reframes[0]!.shots).toEqual([])
    const chase = shotSchema.parse({ kind: 'chase', id: 'c', at: { at: 'start' }, zoom: 0.75 })
    const added = within((j) => addShot(j, chase), addReframe(movingDemo(), { width: 1080, height: 1080 }))
    // As near in the square as was asked, and as much of the ground in the journey's own frame.
    expect(reframed(added, 0).shots.at(-1)).toMatchObject({ zoom: 0.75 })
    expect(added.shots.at(-1)).toMatchObject({ zoom: 1 })
  })

  it('of a planned shot takes its place in that shape alone', () => {
    const journey = setPlan({ ...upright(), shots: [] }, 'calm')
    const planned = compile(reframed(journey, 0), NO_PLACES).shots.find(({ shot }) => shot.kind === 'chase')!.shot
    const after = editReframed(journey, 0, (j) => putShot(j, { ...planned, orbit: 9 }))
    expect(after.shots).toEqual([])
    const kinds = (j: Journey) => compile(j).shots.map(({ shot }) => [shot.kind, shot.orbit])
    expect(kinds(reframed(after, 0))).toContainEqual(['chase', 9])
    expect(kinds(after)).toContainEqual(['chase', 0])
  })

  it('of the size is one of that shape', () => {
    const after = within((j) => setFrame(j, { width: 720, height: 1280, rate: '25/1' }))
    expect(after.frame).toEqual({ ...movingDemo().frame, rate: '25/1' })
    expect(after.reframes[0]).toMatchObject({ width: 720, height: 1280 })
    expect(removeReframe(after, 0).reframes).toEqual([])
  })

  it('of any kind of shot leaves a journey that can be read, and that shows what was asked', () => {
    fc.assert(
      fc.property(fc.constantFrom(...Object.values(EVERY_SHOT)), fc.integer({ min: -40, max: 40 }), (shot: Shot, orbit) => {
        const journey = journeyWithEveryKind()
        const after = editReframed(journey, 0, (j) => putShot(j, { ...j.shots.find(({ id }) => id === shot.id)!, orbit }))
        expect(() => parseJourney(JSON.parse(JSON.stringify(after)))).not.toThrow()
        expect(reframed(after, 0).shots.find(({ id }) => id === shot.id)).toMatchObject({ kind: shot.kind, orbit })
        expect(after.shots).toEqual(journey.shots)
        expect(() => compile(reframed(after, 0), NO_PLACES)).not.toThrow()
      }),
    )
  })
})
