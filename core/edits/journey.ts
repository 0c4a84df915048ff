import equal from 'fast-deep-equal'
import { fittedView } from '../camera/fit'
import type { View } from '../camera/view'
import { referenceSize } from '../camera/view'
import { SAFE } from '../camera/view-track'
import { compiledCourse, courseGround } from '../courses/compile-course'
import { partsOf } from '../geometry/course'
import type { FrameFormat, Grade, Journey, Shutter } from '../journey/schema'
import { gradeSchema, LIMITS } from '../journey/schema'
import { fillingView } from '../sheet/framing'
import { withZooms } from './camera/shots'

/**
 * Every change to a journey is one of these pure functions: journey in, journey out, the parts not touched shared between the two.
 * They are what undo, autosave and partial recompiling rest on. New ids are the caller's to choose. Where a traveller is not named, the first
 * one is meant.
 */

export const rename = (journey: Journey, name: string): Journey => ({ ...journey, name })

/** Moves a layer to another place in the order of what is over what. */
export function moveLayer(journey: Journey, from: number, to: number): Journey {
  const moved = journey.order[from]
  return moved && to >= 0 && to < journey.order.length
    ? { ...journey, order: journey.order.toSpliced(from, 1).toSpliced(to, 0, moved) }
    : journey
}

/** Keeps a colour with the journey, after those that are kept already, if there is room. */
export const keepColour = (journey: Journey, colour: string): Journey =>
  journey.colours.includes(colour) || journey.colours.length >= LIMITS.colours
    ? journey
    : { ...journey, colours: [...journey.colours, colour] }

export const forgetColour = (journey: Journey, colour: string): Journey => ({
  ...journey,
  colours: journey.colours.filter((kept) => kept !== colour),
})

/** Says of a finding of the checks that it is as it should be; the first one is forgotten where there are too many. */
export const acceptFinding = (journey: Journey, key: string): Journey => ({
  ...journey,
  accepted: [...journey.accepted.filter((other) => other !== key), key].slice(-LIMITS.accepted),
})

export const tellFindingAgain = (journey: Journey, key: string): Journey => ({
  ...journey,
  accepted: journey.accepted.filter((other) => other !== key),
})

/** Has the camera sway as if it was held by hand; null puts it on a stand. */
export const setHandheld = (journey: Journey, handheld: Journey['handheld']): Journey => ({ ...journey, handheld })

/** Sets the light that shadows fall in; null has it come straight from above. */
export const setSun = (journey: Journey, sun: Journey['sun']): Journey => ({ ...journey, sun })

/** Changes how what is further away looks. */
export const setDepth = (journey: Journey, patch: Partial<Journey['depth']>): Journey => ({
  ...journey,
  depth: { ...journey.depth, ...patch },
})

const STRAIGHT_DOWN = { bearing: 0, pitch: 0 }

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
  return points.length === 0 ? undefined : fittedView(points, STRAIGHT_DOWN, referenceSize(journey.frame), SAFE, journey.camera.zoom)
}

/** Changes what is done to the colours of the whole picture; null where that is nothing. */
export function setGrade(journey: Journey, patch: Partial<Grade>): Journey {
  const grade = { ...(journey.grade ?? NO_GRADE), ...patch }
  return { ...journey, grade: equal(grade, NO_GRADE) ? null : grade }
}

export const NO_GRADE = gradeSchema.parse({})

export const setShutter = (journey: Journey, shutter: Shutter): Journey => ({ ...journey, shutter })

/** Changes size or rate. A sheet keeps its scale relative to filling the frame; on plain ground the visible part stays in view. */
export function setFrame(journey: Journey, frame: FrameFormat): Journey {
  const before = referenceSize(journey.frame)
  const after = referenceSize(frame)
  const sheet = journey.sheets[0]
  const factor = sheet
    ? fillingView(sheet, after).zoom / fillingView(sheet, before).zoom
    : Math.min(after.width / before.width, after.height / before.height)
  return { ...withZooms(journey, factor), frame }
}
