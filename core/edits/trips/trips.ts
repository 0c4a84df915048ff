import { produce } from 'immer'
import { isCurve } from '../../courses/compile-course'
import type { Course } from '../../geometry/course'
import { courseOf, nearestOnCourse, pointAt } from '../../geometry/course'
import { splitCubic } from '../../geometry/cubic'
import { nearestOnChain } from '../../geometry/nearest'
import type { Point } from '../../geometry/point'
import { drawnCourse, legCourse, legCubics, withBreak } from '../lines/courses'
import { findLeg, legEnds, travellerOf } from '../../journey/lookup'
import type { CourseShape, Journey, Leg, Stop, Traveller } from '../../journey/schema'
import type { Recorded } from '../../courses/track-course'
import { joinedTrack, reversedTrack, splitTrack } from '../../courses/track-course'
import { joinedOnTheWay, reversedOnTheWay, splitOnTheWay } from './on-the-way'
import { arrange, labelLike, visitsOf } from './visits'

/** Changes to the shape of the trip that keep courses as drawn: pure functions, journey in, journey out. */

/**
 * Inserts a stop into a leg's course, which is split there: the two legs together have exactly the old course. They share its travel time by
 * their lengths, and the stop is dressed like the one before it; the traveller passes through.
 * @param near the stop goes to the spot of the course closest to this point
 * @param s for a line of many points: the length along it at which the stop goes instead
 */
export function insertStop(journey: Journey, legId: string, near: Point, ids: { stop: string; leg: string }, s?: number): Journey {
  const [found, course] = [findLeg(journey, legId), legCourse(journey, legId)]
  if (!found || !course) return journey
  const { at, parts, share } = splitAt(journey, legId, found.leg.course, course, near, s)
  return produce(journey, (draft) => {
    const { leg, index, traveller } = findLeg(draft, legId)!
    const model = draft.stops.find((stop) => stop.id === traveller.visits[index]!.stop)!
    const stop: Stop = {
      ...model,
      id: ids.stop,
      name: `Stop ${draft.stops.length + 1}`,
      at: { ...at },
      found: false,
      place: null,
      pin: { ...model.pin },
      label: labelLike(model.label),
      postcards: [],
    }
    draft.stops.push(stop)
    traveller.visits.splice(index + 1, 0, { stop: ids.stop, layover: 0, arriveAt: null, leaveAt: null, date: null })
    const { travel } = leg
    const shared = (part: number) => (travel === null ? null : Math.max(0.1, travel * part))
    const [before, after] = splitOnTheWay(leg, share)
    traveller.legs.splice(index + 1, 0, { ...leg, ...after, id: ids.leg, course: parts[1], travel: shared(1 - share) })
    Object.assign(leg, before)
    leg.course = parts[0]
    leg.travel = shared(share)
  })
}

/** The point of a split, the two parts, and the first part's share of the length. */
function splitAt(journey: Journey, id: string, shape: CourseShape, course: Course, near: Point, length?: number) {
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
  const { s, at } = length === undefined ? nearestOnCourse(course, near) : { s: length, at: pointAt(course, length) }
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

/** Removes a stop with all its visits from a traveller's trip, or from that of the first traveller who visits it. */
export function removeStop(journey: Journey, id: string, who: string): Journey {
  const visitors = journey.travellers.filter((traveller) => visitsOf(traveller, id).length > 0)
  const traveller = visitors.find((visitor) => visitor.id === who) ?? visitors[0]
  if (!traveller) return journey
  const [first, ...others] = visitsOf(traveller, id)
  const without = removeVisit(journey, first!, traveller.id)
  return others.length === 0 ? without : removeStop(without, id, traveller.id)
}

/**
 * Removes a visit from a traveller's trip. The courses before and after it are joined into one with the first one's look; their times add up.
 * If that would lead from a stop to itself without a drawn course, the two visits there become one.
 */
export function removeVisit(journey: Journey, visit: number, who: string): Journey {
  const traveller = travellerOf(journey, who)
  const { visits, legs } = traveller
  if (!visits[visit]) return journey
  const order = [...visits.keys()].filter((i) => i !== visit)
  const [into, out] = [legs[visit - 1], legs[visit]]
  if (!into || !out) return arrange(journey, order, traveller.id)
  const joined = joinedCourse(journey, into, out)
  const isBack = visits[visit - 1]!.stop === visits[visit + 1]!.stop
  const arranged = arrange(journey, isBack && isSimple(joined) ? order.filter((i) => i !== visit + 1) : order, traveller.id)
  if (isBack && isSimple(joined)) return withLegs(arranged, traveller.id, [...legs.slice(0, visit - 1), ...legs.slice(visit + 1)])
  const travel = into.travel !== null && out.travel !== null ? into.travel + out.travel : null
  const leg: Leg = { ...into, ...joinedOnTheWay(into, out, shareOfFirst(journey, into.id, out.id)), course: joined, travel }
  return withLegs(arranged, traveller.id, [...legs.slice(0, visit - 1), leg, ...legs.slice(visit + 1)])
}

/** The first leg's share of the length of two. */
function shareOfFirst(journey: Journey, first: string, second: string): number {
  const [a, b] = [legCourse(journey, first)!.length, legCourse(journey, second)!.length]
  return a + b > 0 ? a / (a + b) : 0.5
}

const withLegs = (journey: Journey, who: string, legs: Leg[]): Journey => ({
  ...journey,
  travellers: journey.travellers.map((traveller) => (traveller.id === who ? { ...traveller, legs } : traveller)),
})

/** Whether a course follows from its stops alone, so that it has no length from a stop to itself. */
const isSimple = ({ kind }: CourseShape): boolean => kind === 'straight' || kind === 'bowed' || kind === 'great-circle'

/** Two legs of one simple kind become one of that kind; over networks the trip still goes by way of the stop. Drawn or recorded courses are kept. */
function joinedCourse(journey: Journey, into: Leg, out: Leg): CourseShape {
  const [a, b] = [into.course, out.course]
  if (a.kind === 'network' && b.kind === 'network' && a.mode === b.mode)
    return { ...a, vias: [...a.vias, legEnds(journey, into.id)![1], ...b.vias] }
  if (a.kind === b.kind && (a.kind === 'straight' || a.kind === 'bowed' || a.kind === 'great-circle')) return a
  if (isCurve(a) && isCurve(b)) return drawnCourse([...legCubics(journey, into.id), ...legCubics(journey, out.id)])
  const recordOf = (shape: CourseShape): Recorded => (shape.kind === 'track' ? shape : { times: null, heights: null, began: null })
  return joinedTrack(legCourse(journey, into.id)!, legCourse(journey, out.id)!, recordOf(a), recordOf(b))
}

/**
 * Reverses a traveller's trip: the last stop becomes the first, every course is travelled the other way, in the times it took. The rests at the start
 * and at the end stay there; those between go with their visits.
 */
export function reverseTrip(journey: Journey, who: string): Journey {
  const traveller = travellerOf(journey, who)
  const { visits, legs } = traveller
  const turned = legs.map((leg): Leg => ({
    ...leg,
    ...reversedOnTheWay(leg),
    // It runs on the same side of its course as before.
    aside: leg.aside === 0 ? 0 : -leg.aside,
    course: reversedCourse(journey, leg),
  }))
  const back = [...visits].reverse()
  const isEnd = (i: number) => i === 0 || i === visits.length - 1
  // The days, and the times that are held, go on in their order.
  const held = back.map((visit, i) => {
    const { date, arriveAt, leaveAt, layover } = visits[i]!
    return { ...visit, date, arriveAt, leaveAt, layover: isEnd(i) ? layover : visit.layover }
  })
  const reversed: Traveller = { ...traveller, visits: held, legs: turned.reverse() }
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
        withBreak({ ...node, before: node.after, after: node.before }, course.nodes[i - 1]?.break ?? false),
      )
      return { ...course, leave: course.arrive, nodes: nodes.reverse(), arrive: course.leave }
    }
  }
}
