import { produce } from 'immer'
import { isCurve } from '../frame/course'
import type { Course } from '../geometry/course'
import { courseOf, nearestOnCourse } from '../geometry/course'
import { splitCubic } from '../geometry/cubic'
import { nearestOnChain } from '../geometry/nearest'
import type { Point } from '../geometry/point'
import { drawnCourse, legCourse, legCubics, withGap } from './course-edits'
import { arrange } from './edits'
import { findLeg, legEnds, travellerOf } from './lookup'
import type { CourseShape, Journey, Leg, Stop, Traveller } from './schema'
import { joinedTrack, reversedTrack, splitTrack } from './track-course'

/** Changes to the shape of the trip, which leave the courses as they were drawn: pure functions, journey in, journey out. */

/**
 * Puts a stop onto a leg's course, which is split there: the two legs together are the very course that was. They share its travel time by
 * their lengths, and the stop is dressed like the one before it, without a layover.
 * @param near the spot of the course that is nearest to this is where the stop goes
 */
export function insertStop(journey: Journey, legId: string, near: Point, ids: { stop: string; leg: string }): Journey {
  const [found, course] = [findLeg(journey, legId), legCourse(journey, legId)]
  if (!found || !course) return journey
  const { at, parts, share } = splitAt(journey, legId, found.leg.course, course, near)
  return produce(journey, (draft) => {
    const { leg, index, traveller } = findLeg(draft, legId)!
    const model = draft.stops.find((stop) => stop.id === traveller.visits[index]!.stop)!
    const stop: Stop = {
      ...model,
      id: ids.stop,
      name: `Stop ${draft.stops.length + 1}`,
      at: { ...at },
      found: false,
      pin: { ...model.pin },
      label: { ...model.label },
      postcard: null,
    }
    draft.stops.push(stop)
    traveller.visits.splice(index + 1, 0, { stop: ids.stop, layover: 0 })
    const { travel } = leg
    const shared = (part: number) => (travel === null ? null : Math.max(0.1, travel * part))
    traveller.legs.splice(index + 1, 0, { ...leg, id: ids.leg, course: parts[1], travel: shared(1 - share) })
    leg.course = parts[0]
    leg.travel = shared(share)
  })
}

/** Where a course is split, its two parts, and the share of its length that the first one has. */
function splitAt(journey: Journey, id: string, shape: CourseShape, course: Course, near: Point) {
  const whole = course.length || 1
  if (isCurve(shape)) {
    const cubics = legCubics(journey, id)
    const { segment, u } = nearestOnChain(cubics, near)
    const [before, after] = splitCubic(cubics[segment]!, u)
    const chains = [
      [...cubics.slice(0, segment), before],
      [after, ...cubics.slice(segment + 1)],
    ]
    const [first, second] = chains.map((chain): CourseShape => (shape.kind === 'straight' ? shape : drawnCourse(chain)))
    return { at: before[3], parts: [first!, second!] as const, share: courseOf(chains[0]!).length / whole }
  }
  const { s, at } = nearestOnCourse(course, near)
  return { at, parts: splitLine(shape, course, s), share: s / whole }
}

function splitLine(
  shape: Exclude<CourseShape, { kind: 'straight' | 'bowed' | 'drawn' }>,
  course: Course,
  s: number,
): readonly [CourseShape, CourseShape] {
  switch (shape.kind) {
    case 'great-circle':
      return [shape, shape]
    case 'track':
      return splitTrack(shape, course, s)
    case 'network': {
      const isBefore = (via: Point) => nearestOnCourse(course, via).s <= s
      return [
        { ...shape, vias: shape.vias.filter(isBefore) },
        { ...shape, vias: shape.vias.filter((via) => !isBefore(via)) },
      ]
    }
  }
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
  const joined = joinedCourse(journey, into, out)
  const travel = into.travel !== null && out.travel !== null ? into.travel + out.travel : null
  const leg: Leg = { ...into, course: joined, travel }
  return {
    ...arranged,
    travellers: arranged.travellers.map((t) =>
      t.id === traveller.id ? { ...t, legs: [...legs.slice(0, i - 1), leg, ...legs.slice(i + 1)] } : t,
    ),
  }
}

/** Two legs of one simple kind make another of it; over networks the trip still goes by way of the stop. What was drawn or recorded stays as it was. */
function joinedCourse(journey: Journey, into: Leg, out: Leg): CourseShape {
  const [a, b] = [into.course, out.course]
  if (a.kind === 'network' && b.kind === 'network' && a.mode === b.mode)
    return { ...a, vias: [...a.vias, legEnds(journey, into.id)![1], ...b.vias] }
  if (a.kind === b.kind && (a.kind === 'straight' || a.kind === 'bowed' || a.kind === 'great-circle')) return a
  if (isCurve(a) && isCurve(b)) return drawnCourse([...legCubics(journey, into.id), ...legCubics(journey, out.id)])
  const timesOf = (shape: CourseShape) => (shape.kind === 'track' ? shape.times : null)
  return joinedTrack(legCourse(journey, into.id)!, legCourse(journey, out.id)!, timesOf(a), timesOf(b))
}

/** Turns a traveller's trip round: the last stop becomes the first, every course is travelled the other way, in the times it took. */
export function reverseTrip(journey: Journey, who?: string): Journey {
  const traveller = travellerOf(journey, who)
  const { visits, legs } = traveller
  const turned = legs.map((leg): Leg => ({ ...leg, course: reversedCourse(journey, leg) }))
  const reversed: Traveller = { ...traveller, visits: [...visits].reverse(), legs: turned.reverse() }
  return { ...journey, travellers: journey.travellers.map((other) => (other === traveller ? reversed : other)) }
}

function reversedCourse(journey: Journey, { id, course }: Leg): CourseShape {
  switch (course.kind) {
    case 'straight':
    case 'great-circle':
      return course
    case 'bowed':
      return { ...course, bow: -course.bow }
    case 'network':
      return { ...course, vias: [...course.vias].reverse() }
    case 'track':
      return reversedTrack(course, legCourse(journey, id)!)
    case 'drawn': {
      const nodes = course.nodes.map((node, i) =>
        withGap({ ...node, before: node.after, after: node.before }, course.nodes[i - 1]?.gap ?? false),
      )
      return { kind: 'drawn', leave: course.arrive, nodes: nodes.reverse(), arrive: course.leave }
    }
  }
}
