import { produce } from 'immer'
import type { View } from '../camera/view'
import { referenceSize } from '../camera/view'
import { bowThrough } from '../geometry/bow'
import type { Point } from '../geometry/point'
import { fillingView } from '../sheet/framing'
import { findLeg, legEnds, travellerOf } from './lookup'
import type { CourseShape, FrameFormat, Journey, Label, Leg, Pin, Postcard, Span, Stop } from './schema'
import { labelSchema, legSchema, pinSchema, postcardSchema, SIDES } from './schema'

/**
 * Every change to a journey is one of these pure functions: journey in, journey out, the parts not touched shared between the two.
 * They are what undo, autosave and partial recompiling rest on. New ids are the caller's to choose. Where a traveller is not named, the first
 * one is meant.
 */

/** Seconds of rest at new stops: a pin needs about one to appear (common practice, no source), but short films get by with a share of theirs. */
function usualLayovers(seconds: number) {
  const share = (most: number, part: number) => Math.min(most, Math.round(seconds * part * 100) / 100)
  return { first: share(0.6, 0.05), between: share(1, 0.05), last: share(2, 0.15) }
}

export const rename = (journey: Journey, name: string): Journey => ({ ...journey, name })

export const setSeconds = (journey: Journey, seconds: number): Journey => ({ ...journey, seconds })

export const setShareExponent = (journey: Journey, shareExponent: number): Journey => ({ ...journey, shareExponent })

export const setCamera = (journey: Journey, camera: View): Journey => ({ ...journey, camera })

/** Changes size or rate. A sheet keeps its scale relative to filling the frame; on plain ground what was seen stays in view. */
export function setFrame(journey: Journey, frame: FrameFormat): Journey {
  const before = referenceSize(journey.frame)
  const after = referenceSize(frame)
  const sheet = journey.sheets[0]
  const factor = sheet
    ? fillingView(sheet, after).zoom / fillingView(sheet, before).zoom
    : Math.min(after.width / before.width, after.height / before.height)
  return { ...journey, frame, camera: { ...journey.camera, zoom: journey.camera.zoom * factor } }
}

/**
 * Adds a stop at the end of a traveller's trip, and the leg that leads to it, dressed like the leg before. One with a name was found in the list
 * of places.
 */
export function addStop(
  journey: Journey,
  at: Point,
  ids: { stop: string; leg: string },
  { name, traveller: who }: { name?: string | undefined; traveller?: string } = {},
): Journey {
  const last = travellerOf(journey, who).visits.at(-1)?.stop ?? journey.stops.at(-1)?.id
  const previous = journey.stops.find((stop) => stop.id === last)
  const stop: Stop = {
    id: ids.stop,
    name: name ?? `Stop ${journey.stops.length + 1}`,
    at,
    found: name !== undefined,
    pin: previous ? { ...previous.pin } : pinSchema.parse({}),
    label: previous ? { ...previous.label } : labelSchema.parse({}),
    postcard: null,
  }
  return visitStop({ ...journey, stops: [...journey.stops, stop] }, ids.stop, ids.leg, who)
}

/** Has a traveller's trip go on to a stop that is there already, such as another one's. */
export function visitStop(journey: Journey, stop: string, leg: string, who?: string): Journey {
  return produce(journey, (draft) => {
    const traveller = travellerOf(draft, who)
    const usual = usualLayovers(draft.seconds)
    if (traveller.visits.length > 0) {
      const model = traveller.legs.at(-1)
      traveller.legs.push(model ? dressedLike(model, leg) : legSchema.parse({ id: leg, ink: { colour: traveller.colour } }))
      const before = traveller.visits.at(-1)!
      if (before.layover === usual.last) before.layover = traveller.visits.length === 1 ? usual.first : usual.between
    }
    traveller.visits.push({ stop, layover: usual.last })
  })
}

/**
 * Has a traveller's trip go on to a spot: to the stop that lies just there, if it is another traveller's (so that they meet), else to a new one.
 * A trip that comes back to one of its own stops has a stop of its own there, as it is reached at another time.
 */
export function goOnTo(
  journey: Journey,
  at: Point,
  ids: { stop: string; leg: string },
  options: { name?: string | undefined; traveller?: string } = {},
): Journey {
  const own = travellerOf(journey, options.traveller).visits.map((visit) => visit.stop)
  const met = journey.stops.find((stop) => stop.at.x === at.x && stop.at.y === at.y && !own.includes(stop.id))
  return met ? visitStop(journey, met.id, ids.leg, options.traveller) : addStop(journey, at, ids, options)
}

function dressedLike(model: Leg, id: string): Leg {
  const { kind } = model.course
  const isSimple = kind === 'bowed' || kind === 'great-circle' || kind === 'network'
  const course: CourseShape = isSimple ? betweenOthers(model.course) : { kind: 'straight' }
  return { ...model, id, course, travel: null }
}

export type StopPatch = Partial<Pick<Stop, 'name' | 'at' | 'postcard'>> & { pin?: Partial<Pin>; label?: Partial<Label> }

/** Changes the given fields of a stop. */
export function editStop(journey: Journey, id: string, patch: StopPatch): Journey {
  return produce(journey, (draft) => {
    const stop = draft.stops.find((s) => s.id === id)
    if (!stop) return
    const { pin, label, ...rest } = patch
    Object.assign(stop, rest)
    Object.assign(stop.pin, pin)
    Object.assign(stop.label, label)
  })
}

/** A postcard for a stop, on the other side of its pin than its name. */
export function newPostcard({ label }: Pick<Stop, 'label'>, fields: Pick<Partial<Postcard>, 'photo' | 'text'>): Postcard {
  const opposite = SIDES[(SIDES.indexOf(label.side) + SIDES.length / 2) % SIDES.length]!
  return postcardSchema.parse({ side: label.shown ? opposite : 'top', ...fields })
}

/** Changes the given fields of a stop's postcard, if it has one. */
export function editPostcard(journey: Journey, id: string, patch: Partial<Postcard>): Journey {
  const postcard = journey.stops.find((stop) => stop.id === id)?.postcard
  return postcard ? editStop(journey, id, { postcard: { ...postcard, ...patch } }) : journey
}

/** Gives all stops the look of one of them: of its pin, its label and, where they have one, its postcard; sides stay as they are. */
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

/** Moves the visit at one place in a traveller's itinerary to another. */
export function moveVisit(journey: Journey, from: number, to: number, who?: string): Journey {
  const order = travellerOf(journey, who).visits.map((visit) => visit.stop)
  const [moved] = order.splice(from, 1)
  if (moved === undefined) return journey
  order.splice(to, 0, moved)
  return arrange(journey, order, who)
}

/**
 * Puts a traveller's stops into a new order, leaving out those not named; a stop that nobody visits any more is gone. A leg whose two ends stay
 * neighbours is kept as it is; the others take over the dress of the leg that had their place, and a bow where that leg was drawn.
 */
export function arrange(journey: Journey, order: readonly string[], who?: string): Journey {
  return produce(journey, (draft) => {
    const traveller = travellerOf(draft, who)
    const { legs, visits } = traveller
    const used = new Set<string>()
    const legBetween = (a: string, b: string) =>
      legs.find((leg, i) => visits[i]!.stop === a && visits[i + 1]!.stop === b && !used.has(leg.id))
    const kept = order.slice(1).map((stop, i) => {
      const leg = legBetween(order[i]!, stop)
      if (leg) used.add(leg.id)
      return leg
    })
    const spare = legs.filter((leg) => !used.has(leg.id))
    traveller.legs = kept.map((leg) => {
      if (leg) return leg
      const taken = spare.shift()!
      return { ...taken, course: betweenOthers(taken.course) }
    })
    // Layovers belong to places in the itinerary (start, between, end), so they stay where they are; a removed one goes with its stop.
    const layovers = visits.map((visit) => visit.layover)
    if (order.length < visits.length) {
      const gone = visits.findIndex((visit) => !order.includes(visit.stop))
      layovers.splice(gone === visits.length - 1 && gone > 0 ? gone - 1 : gone, 1)
    }
    traveller.visits = order.map((stop, i) => ({ stop, layover: layovers[i]! }))
    dropUnvisited(draft)
  })
}

/** What becomes of a course when its leg leads between other stops: what was drawn or recorded for it makes way for a bow. */
function betweenOthers(course: CourseShape): CourseShape {
  if (course.kind === 'network') return { ...course, vias: [] }
  return course.kind === 'drawn' || course.kind === 'track' ? { kind: 'bowed', bow: 0.18 } : course
}

/** Takes out of a draft the stops that nobody visits, and what hung on them. */
export function dropUnvisited(draft: Journey): void {
  const visited = draft.travellers.flatMap(({ visits }) => visits.map((visit) => visit.stop))
  draft.stops = draft.stops.filter((stop) => visited.includes(stop.id))
  for (const { shown } of [...draft.sheets, ...draft.areas]) if (shown) letGoOfStops(shown, visited)
}

/** What was to be shown from or until a stop that is no longer there is shown from the start or until the end. */
function letGoOfStops(span: Span, kept: readonly string[]): void {
  if ('stop' in span.from && !kept.includes(span.from.stop)) span.from = { at: 'start', offset: 0 }
  if ('stop' in span.to && !kept.includes(span.to.stop)) span.to = { at: 'end', offset: 0 }
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

/**
 * Sets a travel time by its end on the pace strip: what lies before stays where it is, so earlier legs keep the times they have now.
 * @param current the travel times in effect, in seconds, of all the traveller's legs
 */
export function dragTravel(journey: Journey, leg: number, travel: number, current: readonly number[], who?: string): Journey {
  return produce(holdBefore(journey, leg, current, who), (draft) => {
    const target = travellerOf(draft, who).legs[leg]
    if (target) target.travel = travel
  })
}

/** Sets a layover by its end on the pace strip, in the same way. */
export const dragLayover = (journey: Journey, visit: number, layover: number, current: readonly number[], who?: string): Journey =>
  setLayover(holdBefore(journey, visit, current, who), visit, layover, who)

const holdBefore = (journey: Journey, leg: number, current: readonly number[], who?: string): Journey =>
  produce(journey, (draft) => {
    for (const [i, earlier] of travellerOf(draft, who).legs.slice(0, leg).entries()) earlier.travel ??= current[i]!
  })

/** Sets the seconds spent at the visit with this place in a traveller's itinerary. */
export function setLayover(journey: Journey, visit: number, layover: number, who?: string): Journey {
  return produce(journey, (draft) => {
    const target = travellerOf(draft, who).visits[visit]
    if (target) target.layover = layover
  })
}
