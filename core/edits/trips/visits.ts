import { produce } from 'immer'
import type { Point } from '../../geometry/point'
import { groundGeo } from '../../geo/ground'
import type { LonLat } from '../../geo/lon-lat'
import { upwardBow } from '../../geometry/bow'
import { resolveVehicle } from '../../dress/vehicle'
import { isTiedTo, travellerOf } from '../../journey/lookup'
import { withTimeForAll } from '../pace/film-length'
import { dropLostValues } from '../pace/values'
import type { CourseShape, Journey, Label, Leg, Span, Stop, Traveller } from '../../journey/schema'
import { labelSchema, legSchema, pinSchema, shotWithout } from '../../journey/schema'

/**
 * Changes to the visits of travellers, who may visit a stop any number of times. A stop has one pin and one label; its visits have the
 * layovers, and between two visits there is a leg. Pure functions, journey in, journey out, as in journey.ts.
 */

/** The known fields of a new stop. */
export interface NewStop {
  name?: string | undefined
  /** Where it lies on the Earth, if it was found by name or read from a file. */
  place?: LonLat | undefined
  /** Whether name and place are those of the list of places. */
  found?: boolean
  /** How the leg to it looks, where it is the first of its trip. */
  dress?: Pick<Leg, 'ink' | 'vehicle'> | undefined
}

/** Adds a stop at the end of a traveller's trip, and the leg that leads to it, dressed like the leg before. */
export function addStop(
  journey: Journey,
  at: Point,
  ids: { stop: string; leg: string },
  { name, place, found = false, dress, traveller: who }: NewStop & { traveller: string },
): Journey {
  const last = travellerOf(journey, who).visits.at(-1)?.stop ?? journey.stops.at(-1)?.id
  const previous = journey.stops.find((stop) => stop.id === last)
  const stop: Stop = {
    id: ids.stop,
    name: (name ?? `Stop ${journey.stops.length + 1}`).slice(0, 120),
    at,
    found,
    place: place ? { lon: place.lon, lat: place.lat } : null,
    pin: previous ? { ...previous.pin } : pinSchema.parse({}),
    label: previous ? labelLike(previous.label) : labelSchema.parse({}),
    postcards: [],
  }
  return visitStop({ ...journey, stops: [...journey.stops, stop] }, ids.stop, ids.leg, who, dress)
}

/** The label of a new stop, with the letters of another's: it looks for its place itself, and has no note yet. */
export const labelLike = (label: Label): Label => ({
  ...label,
  place: { kind: 'automatic' },
  second: label.second?.kind === 'note' ? null : label.second,
})

/** Sets the day of a visit, as year-month-day. */
export const setVisitDate = (journey: Journey, visit: number, date: string | null, who: string): Journey =>
  produce(journey, (draft) => {
    const found = travellerOf(draft, who).visits[visit]
    if (found) found.date = date
  })

/** Extends a traveller's trip to an existing stop, its own or another's. If the set times leave no room, the film grows. @param dress of a first leg */
export function visitStop(journey: Journey, stop: string, leg: string, who: string, dress?: NewStop['dress']): Journey {
  const extended = produce(journey, (draft) => {
    const traveller = travellerOf(draft, who)
    const before = traveller.visits.at(-1)
    if (before) {
      const model = traveller.legs.at(-1)
      const place = (id: string) => draft.stops.find((other) => other.id === id)!.at
      traveller.legs.push(
        model
          ? dressedLike(journey, model as Leg, leg, [place(before.stop), place(stop)])
          : legSchema.parse({ id: leg, ink: { colour: traveller.colour }, ...dress }),
      )
    }
    traveller.visits.push({ stop, layover: null, arriveAt: null, leaveAt: null, date: null })
  })
  return withTimeForAll(extended, who)
}

/**
 * Extends a traveller's trip to a spot: to the stop that lies there, or else to a new one. If the trip is already at that stop
 * nothing changes, unless the new leg is a loop with a drawn line.
 */
export function goOnTo(
  journey: Journey,
  at: Point,
  ids: { stop: string; leg: string },
  { isLoop = false, ...options }: NewStop & { traveller: string; isLoop?: boolean },
): Journey {
  const here = travellerOf(journey, options.traveller).visits.at(-1)?.stop
  const met = journey.stops.find((stop) => stop.at.x === at.x && stop.at.y === at.y)
  if (!met) return addStop(journey, at, ids, options)
  return met.id === here && !isLoop ? journey : visitStop(journey, met.id, ids.leg, options.traveller, options.dress)
}

function dressedLike(journey: Journey, model: Leg, id: string, ends: readonly [Point, Point]): Leg {
  const { kind } = model.course
  const isSimple = kind === 'bowed' || kind === 'great-circle' || kind === 'network'
  const course: CourseShape = isSimple ? betweenOthers(model.course) : { kind: 'straight' }
  const isFlight = model.vehicle !== null && resolveVehicle(model.vehicle).medium === 'air'
  // A flight arches upwards on the map, whichever way it runs.
  const bowed = course.kind === 'bowed' && isFlight ? { ...course, bow: upwardBow(...ends, course.bow, groundGeo(journey)) } : course
  return { ...model, id, course: bowed, travel: null, changes: [], paceMarks: [], aside: 0 }
}

/** Moves the visit at one place in a traveller's itinerary to another, with the layover that was set there. */
export function moveVisit(journey: Journey, from: number, to: number, who: string): Journey {
  const order = [...travellerOf(journey, who).visits.keys()]
  const [moved] = order.splice(from, 1)
  if (moved === undefined) return journey
  order.splice(to, 0, moved)
  return arrange(journey, order, who)
}

/**
 * Reorders a traveller's visits, given by their indexes in the itinerary, leaving out those not given; a stop that nobody visits any more is
 * removed. A leg whose two visits stay neighbours is kept as it is; the others take over the dress of the leg at their index, and a bow if that leg
 * was drawn.
 */
export function arrange(journey: Journey, order: readonly number[], who: string): Journey {
  return produce(journey, (draft) => {
    const traveller = travellerOf(draft, who)
    const { legs, visits } = traveller
    const kept = order.slice(1).map((visit, i) => (order[i] === visit - 1 ? legs[visit - 1] : undefined))
    const spare = legs.filter((leg) => !kept.includes(leg))
    traveller.legs = kept.map((leg) => {
      if (leg) return leg
      const taken = spare.shift()!
      return { ...taken, course: betweenOthers(taken.course) }
    })
    // Times that are held stay in their order: they go with their visits where some are left out, and keep their places where visits change theirs.
    const isMoved = order.some((visit, i) => i > 0 && visit < order[i - 1]!)
    traveller.visits = order.map((visit, i) => {
      const { arriveAt, leaveAt } = visits[isMoved ? i : visit]!
      return { ...visits[visit]!, arriveAt, leaveAt }
    })
    dropUnvisited(draft)
  })
}

/** The course of a leg that now leads between other stops: a drawn or recorded one is replaced by a bow. */
function betweenOthers(course: CourseShape): CourseShape {
  switch (course.kind) {
    case 'network':
      return { ...course, vias: [] }
    case 'drawn':
    case 'track':
      return { kind: 'bowed', bow: 0.18 }
    case 'straight':
    case 'bowed':
    case 'great-circle':
      return course
    default:
      return course satisfies never
  }
}

/** The places in a traveller's itinerary at which a stop is visited. */
export const visitsOf = ({ visits }: Pick<Traveller, 'visits'>, stop: string): number[] =>
  visits.flatMap((visit, i) => (visit.stop === stop ? [i] : []))

/** Removes from a draft the stops that nobody visits, and what was tied to them. */
export function dropUnvisited(draft: Journey): void {
  const visited = new Set(draft.travellers.flatMap(({ visits }) => visits.map((visit) => visit.stop)))
  draft.stops = draft.stops.filter((stop) => visited.has(stop.id))
  for (const { shown } of [...draft.sheets, ...draft.areas, ...draft.captions, ...draft.landmarks]) if (shown) letGoOfStops(shown, visited)
  dropShots(draft, visited)
  const { softFocus } = draft.depth
  if (softFocus?.on.kind === 'stop' && !visited.has(softFocus.on.stop)) softFocus.on = { kind: 'traveller' }
  for (const note of draft.notes) if (!isTiedTo(note.at, visited)) note.at = { at: 'start', offset: 0 }
  dropLostValues(draft)
}

/** Removes from a draft the shots that are tied to what is gone, or are of it. */
function dropShots(draft: Journey, visited: ReadonlySet<string>): void {
  const left = {
    stop: visited,
    leg: new Set(draft.travellers.flatMap((traveller) => traveller.legs.map(({ id }) => id))),
    traveller: new Set(draft.travellers.map(({ id }) => id)),
  }
  const isGone = (kind: keyof typeof left, id: string) => !left[kind].has(id)
  for (const of of [draft, ...draft.reframes])
    of.shots = of.shots.flatMap((shot) => {
      const kept = isTiedTo(shot.at, visited) ? shotWithout(shot, isGone) : null
      return kept ? [kept] : []
    })
}

/** A span that begins or ends at a removed stop begins at the start or lasts to the end instead. */
function letGoOfStops(span: Span, kept: ReadonlySet<string>): void {
  if (!isTiedTo(span.from, kept)) span.from = { at: 'start', offset: 0 }
  if (!isTiedTo(span.to, kept)) span.to = { at: 'end', offset: 0 }
}
