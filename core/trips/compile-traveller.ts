import { remembered } from '../remembered'
import type { Projection } from '../camera/projection-type'
import type { Course } from '../geometry/course'
import { joinCourses } from '../geometry/course'
import { itineraryOf } from '../journey/itinerary'
import type { Journey, Leg, Stop, Traveller } from '../journey/schema'
import { legProgress } from '../pace/profile'
import type { FrameRate } from '../pace/rate'
import { fraction, frameTime } from '../pace/rate'
import type { Itinerary, Visit } from '../pace/schedule'
import { schedule } from '../pace/schedule'
import type { CompiledTraveller, CompiledVisit, TimedLeg, TimedRide } from './compiled'
import { timeAt } from './compiled'
import { besideCourse } from '../courses/beside-course'
import type { CourseGround } from '../courses/compile-course'
import { compiledCourse, courseGround } from '../courses/compile-course'
import { legWeights } from '../courses/leg-weights'
import type { Run } from './heading'
import { resolveVehicle, sameVehicle } from '../dress/vehicle'
import { paceOf, speedsAtVisits } from './leg-pace'
import { stretchesOf } from './stretch'

/** A traveller's trip with its courses and times, before the camera is known. */
export interface TimedTrip {
  traveller: Traveller
  visits: CompiledVisit[]
  legs: PlainLeg[]
}

/** A leg on its own course, before it is moved aside. */
type PlainLeg = Pick<TimedLeg, 'leg' | 'course' | 'depart' | 'arrive' | 'progress'>

/** The courses of a traveller's legs, and when it is at its stops, in frames. */
interface Schedule {
  courses: Course[]
  visits: Visit[]
}

/** What a traveller's times follow from, beside itself. */
interface Basis {
  stops: Stop[]
  ground: CourseGround
  share: Journey['share']
  seconds: number
  rate: FrameRate
}

const schedules = new WeakMap<Traveller, { basis: Basis; made: Schedule }>()
const timedTrips = new WeakMap<Schedule, { stops: Stop[]; trip: TimedTrip }>()

/**
 * The courses and times of a trip; the same object as long as nothing has changed that they follow from.
 * @throws TimesError if its times do not fit into the film
 */
export function scheduleOf(journey: Journey, traveller: Traveller): Schedule {
  const { share, seconds, frame } = journey
  const basis = { stops: stopsOf(journey, traveller), ground: courseGround(journey), share, seconds, rate: frame.rate }
  const known = schedules.get(traveller)
  if (known && isSameBasis(known.basis, basis)) return known.made
  const courses = coursesOf(basis, traveller)
  const made = { courses, visits: schedule(itineraryWith(courses, journey, traveller), seconds, frame.rate) }
  schedules.set(traveller, { basis, made })
  return made
}

const isSameBasis = (a: Basis, b: Basis): boolean =>
  a.ground === b.ground &&
  a.share === b.share &&
  a.seconds === b.seconds &&
  a.rate === b.rate &&
  a.stops.every(({ at }, i) => at === b.stops[i]!.at)

/** The input of the schedule for a traveller, with what each leg gets of the free time. */
export const timedItinerary = (journey: Journey, traveller: Traveller): Itinerary =>
  itineraryWith(coursesOf({ stops: stopsOf(journey, traveller), ground: courseGround(journey) }, traveller), journey, traveller)

const itineraryWith = (courses: readonly Course[], { share }: Journey, traveller: Traveller): Itinerary =>
  itineraryOf(traveller, legWeights(traveller.legs, courses, share))

const stopsById = remembered((stops: Journey['stops']) => new Map(stops.map((stop) => [stop.id, stop])))

/** The stops that a traveller visits, in order. */
const stopsOf = ({ stops }: Journey, { visits }: Traveller): Stop[] => visits.map(({ stop }) => stopsById(stops).get(stop)!)

const coursesOf = ({ stops, ground }: Pick<Basis, 'stops' | 'ground'>, { legs }: Traveller): Course[] =>
  legs.map((leg, i) => compiledCourse(leg.course, stops[i]!.at, stops[i + 1]!.at, ground))

/** Times a traveller's trip; the same object as long as nothing of it has changed. @throws TimesError if its times do not fit into the film */
export function timedTrip(journey: Journey, traveller: Traveller): TimedTrip {
  const made = scheduleOf(journey, traveller)
  const stops = stopsOf(journey, traveller)
  const known = timedTrips.get(made)
  if (known?.stops.every((stop, i) => stop === stops[i])) return known.trip
  const trip = tripOf(made, stops, journey.frame.rate, traveller)
  timedTrips.set(made, { stops, trip })
  return trip
}

function tripOf({ courses, visits }: Schedule, stops: readonly Stop[], rate: FrameRate, traveller: Traveller): TimedTrip {
  const compiledVisits = visits.map((visit, i) => ({
    stop: stops[i]!,
    arrive: frameTime(visit.arrive, rate),
    leave: frameTime(visit.leave, rate),
    date: traveller.visits[i]!.date,
  }))
  const seconds = traveller.legs.map((_, i) => Math.max(frameTime(1, rate), compiledVisits[i + 1]!.arrive - compiledVisits[i]!.leave))
  const paces = traveller.legs.map((leg, i) => paceOf(leg, courses[i]!))
  const speeds = speedsAtVisits(visits, paces, courses, seconds)
  const legs = traveller.legs.map((leg, i): PlainLeg => {
    const { length } = courses[i]!
    const share = (speed: number) => (length > 0 ? speed / length : 0)
    return {
      leg,
      course: courses[i]!,
      depart: compiledVisits[i]!.leave,
      arrive: compiledVisits[i + 1]!.arrive,
      progress: legProgress(paces[i]!, seconds[i]!, share(speeds[i]!), share(speeds[i + 1]!)),
    }
  })
  return { traveller, visits: compiledVisits, legs }
}

/** Adds to a trip what depends on the camera: where legs run aside, how vehicles turn, and at which zoom ink is drawn. @param look the projection at a time */
export function compileTraveller(
  { traveller, visits, legs: plain }: TimedTrip,
  rate: FrameRate,
  look: (time: number) => Projection,
): CompiledTraveller {
  const [numerator, denominator] = fraction(rate)
  const zooms = plain.map(({ depart, arrive }) => look((depart + arrive) / 2).view.zoom)
  const moved = plain.map((leg, i) => (leg.leg.aside === 0 ? leg : { ...leg, course: asideOf(leg.course, leg.leg.aside / zooms[i]!) }))
  const ridden = moved.map((leg) => ({ ...leg, rides: ridesOf(leg) }))
  const runs = runsOf(ridden, visits)
  const legs: TimedLeg[] = ridden.map((leg, i) => ({ ...leg, ...runs[i]! }))
  const rides = stretchesOf(legs, visits, numerator / denominator, look)
  return { traveller, visits, legs: legs.map((leg, i) => ({ ...leg, patternZoom: zooms[i]!, rides: rides[i]! })) }
}

/** A course moved aside by so many ground units. */
const asideOf = remembered(besideCourse)

/** The parts of a leg that its vehicles travel, from its beginning on. */
function ridesOf(leg: PlainLeg): TimedRide[] {
  const resolved = (choice: Leg['vehicle']) => choice && resolveVehicle(choice)
  const changes = leg.leg.changes.map((change, i) => ({ ...change, i })).sort((a, b) => a.at - b.at)
  return [
    { choice: leg.leg.vehicle, vehicle: resolved(leg.leg.vehicle), from: 0, at: leg.depart, how: 'cut', seconds: undefined, change: null },
    ...changes.map(({ at, vehicle, how, seconds, i }): TimedRide => {
      const from = at * leg.course.length
      return { choice: vehicle, vehicle: resolved(vehicle), from, at: timeAt(leg, from), how, seconds, change: i }
    }),
  ]
}

/** The runs of a traveller's legs: one goes on where a vehicle passes through a stop. */
function runsOf(legs: readonly Pick<TimedLeg, 'course' | 'rides'>[], visits: readonly CompiledVisit[]): { run: Run; runOffset: number }[] {
  const placed: { run: Run; runOffset: number }[] = []
  const goesOn = (i: number) =>
    visits[i]!.arrive === visits[i]!.leave && sameVehicle(legs[i - 1]!.rides.at(-1)!.vehicle, legs[i]!.rides[0]!.vehicle)
  let start = 0
  while (start < legs.length) {
    let end = start + 1
    while (end < legs.length && goesOn(end)) end++
    const courses = legs.slice(start, end).map(({ course }) => course)
    const run: Run = { course: joinCourses(courses) }
    let runOffset = 0
    for (const { length } of courses) {
      placed.push({ run, runOffset })
      runOffset += length
    }
    start = end
  }
  return placed
}
