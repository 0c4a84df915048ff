import { produce } from 'immer'
import { cubicsOf } from '../frame/course'
import { courseOf } from '../geometry/course'
import { reversedCubic, splitCubic } from '../geometry/cubic'
import type { OnChain } from '../geometry/nearest'
import type { Point } from '../geometry/point'
import { drawnCourse, legCubics } from './course-edits'
import { arrange } from './edits'
import { travellerOf } from './lookup'
import type { CourseShape, Journey, Leg, Stop, Traveller } from './schema'

/** Changes to the shape of the trip, which leave the courses as they were drawn: pure functions, journey in, journey out. */

/**
 * Puts a stop onto a leg's course, which is split there: the two legs together are the very course that was. They share its travel time by
 * their lengths, and the stop is dressed like the one before it, without a layover.
 */
export function insertStop(
  journey: Journey,
  legId: string,
  spot: Pick<OnChain, 'segment' | 'u'>,
  ids: { stop: string; leg: string },
): Journey {
  const cubics = legCubics(journey, legId)
  const cubic = cubics[spot.segment]
  if (!cubic) return journey
  const [before, after] = splitCubic(cubic, spot.u)
  const parts = [
    [...cubics.slice(0, spot.segment), before],
    [after, ...cubics.slice(spot.segment + 1)],
  ] as const
  const [near, far] = parts.map((part) => courseOf(part).length) as [number, number]
  const share = near + far > 0 ? near / (near + far) : 0.5
  return produce(journey, (draft) => {
    for (const { legs, visits } of draft.travellers) {
      const i = legs.findIndex((leg) => leg.id === legId)
      if (i < 0) continue
      const leg = legs[i]!
      const model = draft.stops.find((stop) => stop.id === visits[i]!.stop)!
      const stop: Stop = {
        ...model,
        id: ids.stop,
        name: `Stop ${draft.stops.length + 1}`,
        at: { ...before[3] },
        found: false,
        pin: { ...model.pin },
        label: { ...model.label },
      }
      draft.stops.push(stop)
      visits.splice(i + 1, 0, { stop: ids.stop, layover: 0 })
      const [first, second] = parts.map((part): CourseShape => (leg.course.kind === 'straight' ? { kind: 'straight' } : drawnCourse(part)))
      const travel = leg.travel
      const shared = (part: number) => (travel === null ? null : Math.max(0.1, travel * part))
      const added: Leg = { ...leg, id: ids.leg, course: second!, travel: shared(1 - share) }
      legs.splice(i + 1, 0, added)
      leg.course = first!
      leg.travel = shared(share)
    }
  })
}

/**
 * Takes a stop out of a traveller's trip, the first one's who visits it where none is named. The courses that led to it and from it are joined into
 * one, of the first one's look; their times add up.
 */
export function removeStop(journey: Journey, id: string, who?: string): Journey {
  const visitors = journey.travellers.filter(({ visits }) => visits.some((visit) => visit.stop === id))
  const traveller = visitors.find((visitor) => visitor.id === who) ?? visitors[0]
  if (!traveller) return journey
  const { visits, legs } = traveller
  const i = visits.findIndex((visit) => visit.stop === id)
  const order = visits.flatMap(({ stop }) => (stop === id ? [] : [stop]))
  const arranged = arrange(journey, order, traveller.id)
  const [into, out] = [legs[i - 1], legs[i]]
  if (!into || !out) return arranged
  const place = (k: number) => journey.stops.find((stop) => stop.id === visits[k]!.stop)!.at
  const joined = joinedCourse(into.course, out.course, () => [
    ...cubicsOf(into.course, place(i - 1), place(i)),
    ...cubicsOf(out.course, place(i), place(i + 1)),
  ])
  const travel = into.travel !== null && out.travel !== null ? into.travel + out.travel : null
  const leg: Leg = { ...into, course: joined, travel }
  return {
    ...arranged,
    travellers: arranged.travellers.map((t) =>
      t.id === traveller.id ? { ...t, legs: [...legs.slice(0, i - 1), leg, ...legs.slice(i + 1)] } : t,
    ),
  }
}

/** Two straight legs make a straight one, two bowed ones a bowed one; what was drawn stays as it was drawn. */
function joinedCourse(into: CourseShape, out: CourseShape, cubics: () => Parameters<typeof drawnCourse>[0]): CourseShape {
  if (into.kind !== 'drawn' && out.kind === into.kind) return into
  return drawnCourse(cubics())
}

/** Turns a traveller's trip round: the last stop becomes the first, every course is travelled the other way, in the times it took. */
export function reverseTrip(journey: Journey, who?: string): Journey {
  const traveller = travellerOf(journey, who)
  const { visits, legs } = traveller
  const place = (k: number) => journey.stops.find((stop) => stop.id === visits[k]!.stop)!.at
  const turned = legs.map((leg, i): Leg => ({ ...leg, course: reversedCourse(leg.course, place(i), place(i + 1)) }))
  const reversed: Traveller = { ...traveller, visits: [...visits].reverse(), legs: turned.reverse() }
  return { ...journey, travellers: journey.travellers.map((other) => (other === traveller ? reversed : other)) }
}

function reversedCourse(course: CourseShape, a: Point, b: Point): CourseShape {
  if (course.kind === 'straight') return course
  if (course.kind === 'bowed') return { ...course, bow: -course.bow }
  const kinds = course.nodes.map((node) => node.kind).reverse()
  const reversed = drawnCourse(cubicsOf(course, a, b).map(reversedCubic).reverse())
  return { ...reversed, nodes: reversed.nodes.map((node, k) => ({ ...node, kind: kinds[k]! })) }
}
