import { produce } from 'immer'
import type { View } from '../camera/view'
import { flatView, GREATEST_ZOOM, LEAST_ZOOM, referenceSize } from '../camera/view'
import { bowThrough } from '../geometry/bow'
import type { Point } from '../geometry/point'
import { compiledCourse, courseGround } from '../frame/course'
import { partsOf } from '../geometry/course'
import { fillingView, viewOf } from '../sheet/framing'
import { findLeg, legEnds } from './lookup'
import { withViews } from './view-edits'
import type { CourseShape, FrameFormat, Journey, Label, Leg, Pin, Postcard, Stop } from './schema'
import { postcardSchema, SIDES } from './schema'

/**
 * Every change to a journey is one of these pure functions: journey in, journey out, the parts not touched shared between the two.
 * They are what undo, autosave and partial recompiling rest on. New ids are the caller's to choose. Where a traveller is not named, the first
 * one is meant.
 */

export const rename = (journey: Journey, name: string): Journey => ({ ...journey, name })

/** The part of the frame, upright and across, in which a whole trip is laid out: the safe area for titles (common practice, no source). */
const SAFE = 0.8

/** The view of the trips of all travellers that are shown, straight down; a single stop is in its middle. Undefined without stops. */
export function routeView(journey: Journey): View | undefined {
  const ground = courseGround(journey)
  const places = new Map(journey.stops.map(({ id, at }) => [id, at]))
  const points = journey.travellers.flatMap(({ shown, visits, legs }) => {
    if (!shown) return []
    const stops = visits.map(({ stop }) => places.get(stop)!)
    const lines = legs.flatMap(({ course }, i) => partsOf(compiledCourse(course, stops[i]!, stops[i + 1]!, ground)).flat())
    return [...stops, ...lines]
  })
  const view = viewOf(points, referenceSize(journey.frame), SAFE)
  if (!view) return undefined
  const zoom = Number.isFinite(view.zoom) ? Math.min(GREATEST_ZOOM, Math.max(LEAST_ZOOM, view.zoom)) : journey.camera.zoom
  return flatView(view.centre, zoom)
}

/** Changes size or rate. A sheet keeps its scale relative to filling the frame; on plain ground the visible part stays in view. */
export function setFrame(journey: Journey, frame: FrameFormat): Journey {
  const before = referenceSize(journey.frame)
  const after = referenceSize(frame)
  const sheet = journey.sheets[0]
  const factor = sheet
    ? fillingView(sheet, after).zoom / fillingView(sheet, before).zoom
    : Math.min(after.width / before.width, after.height / before.height)
  return { ...withViews(journey, (view) => ({ ...view, zoom: view.zoom * factor })), frame }
}

export type StopPatch = Partial<Pick<Stop, 'name' | 'at' | 'found' | 'place' | 'postcard'>> & { pin?: Partial<Pin>; label?: Partial<Label> }

/** Changes the given fields of a stop. A moved stop loses the place on the Earth where it was found. */
export function editStop(journey: Journey, id: string, patch: StopPatch): Journey {
  return produce(journey, (draft) => {
    const stop = draft.stops.find((s) => s.id === id)
    if (!stop) return
    const { pin, label, ...rest } = patch
    if (rest.at) stop.place = null
    Object.assign(stop, rest)
    Object.assign(stop.pin, pin)
    Object.assign(stop.label, label)
  })
}

/** A new postcard for a stop, on the opposite side of the pin from its label. */
export function newPostcard({ label }: Pick<Stop, 'label'>, fields: Pick<Partial<Postcard>, 'photo' | 'text'>): Postcard {
  const opposite = SIDES[(SIDES.indexOf(label.side) + SIDES.length / 2) % SIDES.length]!
  return postcardSchema.parse({ side: label.shown ? opposite : 'top', ...fields })
}

/** Changes the given fields of a stop's postcard, if it has one. */
export function editPostcard(journey: Journey, id: string, patch: Partial<Postcard>): Journey {
  const postcard = journey.stops.find((stop) => stop.id === id)?.postcard
  return postcard ? editStop(journey, id, { postcard: { ...postcard, ...patch } }) : journey
}

/** Gives all stops the look of one: pin, label and, on those that have one, postcard; sides are kept. */
export function dressStopsLike(journey: Journey, id: string): Journey {
  return produce(journey, (draft) => {
    const model = draft.stops.find((s) => s.id === id)
    if (!model) return
    for (const stop of draft.stops) {
      stop.pin = { ...model.pin }
      stop.label = { ...model.label, side: stop.label.side }
      if (stop.postcard && model.postcard) {
        const { photo, text, side } = stop.postcard
        stop.postcard = { ...model.postcard, photo, text, side }
      }
    }
  })
}

export type LegPatch = Partial<Pick<Leg, 'course' | 'travel' | 'easing' | 'vehicle'>> & { ink?: Partial<Leg['ink']> }

/** Changes the given fields of a leg. */
export function editLeg(journey: Journey, id: string, patch: LegPatch): Journey {
  return produce(journey, (draft) => {
    const leg = findLeg(draft, id)?.leg
    if (!leg) return
    const { ink, ...rest } = patch
    Object.assign(leg, rest)
    Object.assign(leg.ink, ink)
  })
}

/** Gives all legs of a traveller the ink of one of them. */
export function inkLegsLike(journey: Journey, id: string): Journey {
  return produce(journey, (draft) => {
    const found = findLeg(draft, id)
    if (!found) return
    const { ink } = found.leg
    for (const leg of found.traveller.legs) leg.ink = { ...ink, glow: ink.glow && { ...ink.glow } }
  })
}

/** Gives all legs of a traveller the vehicle of one of them, or none if it has none. */
export function driveLegsLike(journey: Journey, id: string): Journey {
  return produce(journey, (draft) => {
    const found = findLeg(draft, id)
    if (!found) return
    const { vehicle } = found.leg
    for (const leg of found.traveller.legs) leg.vehicle = vehicle && { ...vehicle }
  })
}

/** Below this bow a pulled leg snaps to straight: half a hundredth of the chord. */
const STRAIGHT_BOW = 0.005

/** Bends a leg so that its middle lies as far off the chord as the given ground point. */
export function bendLeg(journey: Journey, id: string, through: Point): Journey {
  const ends = legEnds(journey, id)
  if (!ends) return journey
  const bow = Math.min(1, Math.max(-1, bowThrough(...ends, through)))
  const course: CourseShape = Math.abs(bow) < STRAIGHT_BOW ? { kind: 'straight' } : { kind: 'bowed', bow }
  return editLeg(journey, id, { course })
}
