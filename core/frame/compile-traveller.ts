import type { Projection } from '../camera/projection'
import type { Course } from '../geometry/course'
import { joinCourses } from '../geometry/course'
import { itineraryOf } from '../journey/itinerary'
import type { Journey, Leg, Traveller } from '../journey/schema'
import { readTimes } from '../journey/track-line'
import type { EasingFunction } from '../pace/easing'
import { cubicBezier, hermite, NAMED_CURVES } from '../pace/easing'
import type { FrameRate } from '../pace/rate'
import { fraction, frameTime } from '../pace/rate'
import { recorded } from '../pace/recorded'
import type { Visit } from '../pace/schedule'
import { schedule } from '../pace/schedule'
import type { CompiledTraveller, CompiledVisit, TimedLeg, TimedRide } from './compiled'
import { timeAt } from './compiled'
import { besideCourse } from '../courses/beside-course'
import { compiledCourse, courseGround } from '../courses/compile-course'
import type { Run } from './heading'
import { resolveVehicle, sameVehicle } from '../vehicles/vehicle'
import { stretchesOf } from './stretch'

/** A traveller's trip with its courses and times, before the camera is known. */
export interface TimedTrip {
  traveller: Traveller
  visits: CompiledVisit[]
  legs: PlainLeg[]
}

/** A leg on its own course, before it is moved aside. */
type PlainLeg = Pick<TimedLeg, 'leg' | 'course' | 'depart' | 'arrive' | 'progress'>

/** Times a traveller's trip. @throws JourneyError if its times do not fit into the film. */
export function timedTrip(journey: Journey, traveller: Traveller): TimedTrip {
  const { rate } = journey.frame
  const byId = new Map(journey.stops.map((stop) => [stop.id, stop]))
  const stops = traveller.visits.map((visit) => byId.get(visit.stop)!)
  const ground = courseGround(journey)
  const courses = traveller.legs.map((leg, i) => compiledCourse(leg.course, stops[i]!.at, stops[i + 1]!.at, ground))
  const visits = schedule(
    itineraryOf(
      traveller,
      courses.map((course) => course.length),
    ),
    journey.seconds,
    rate,
    journey.shareExponent,
  )
  const speeds = speedsAtVisits(visits, courses)
  const compiledVisits = visits.map((visit, i) => ({
    stop: stops[i]!,
    arrive: frameTime(visit.arrive, rate),
    leave: frameTime(visit.leave, rate),
    date: traveller.visits[i]!.date,
  }))
  const legs = traveller.legs.map((leg, i): PlainLeg => {
    const course = courses[i]!
    const mean = meanSpeed(visits, courses, i)
    const relative = (speed: number) => (mean > 0 ? speed / mean : 0)
    return {
      leg,
      course,
      depart: compiledVisits[i]!.leave,
      arrive: compiledVisits[i + 1]!.arrive,
      progress: progressOf(leg, course, relative(speeds[i]!), relative(speeds[i + 1]!)),
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
  const moved = plain.map((leg, i) => (leg.leg.aside === 0 ? leg : { ...leg, course: asideOf(leg, zooms[i]!) }))
  const ridden = moved.map((leg) => ({ ...leg, rides: ridesOf(leg) }))
  const runs = runsOf(ridden, visits)
  const legs: TimedLeg[] = ridden.map((leg, i) => ({ ...leg, ...runs[i]! }))
  const rides = stretchesOf(legs, visits, numerator / denominator, look)
  return { traveller, visits, legs: legs.map((leg, i) => ({ ...leg, patternZoom: zooms[i]!, rides: rides[i]! })) }
}

const movedCourses = new WeakMap<Course, { by: number; course: Course }>()

/** The course of a leg moved aside; the same object while neither it nor the zoom changes. */
function asideOf({ leg, course }: PlainLeg, zoom: number): Course {
  const by = leg.aside / zoom
  const known = movedCourses.get(course)
  if (known?.by === by) return known.course
  const made = besideCourse(course, by)
  movedCourses.set(course, { by, course: made })
  return made
}

/** The parts of a leg that its vehicles travel, from its beginning on. */
function ridesOf(leg: PlainLeg): TimedRide[] {
  const resolved = (choice: Leg['vehicle']) => choice && resolveVehicle(choice)
  const changes = leg.leg.changes.toSorted((a, b) => a.at - b.at)
  return [
    { choice: leg.leg.vehicle, vehicle: resolved(leg.leg.vehicle), from: 0, at: leg.depart, how: 'cut' },
    ...changes.map(({ at, vehicle, how }): TimedRide => {
      const from = at * leg.course.length
      return { choice: vehicle, vehicle: resolved(vehicle), from, at: timeAt(leg, from), how }
    }),
  ]
}

function progressOf({ easing, course: shape }: Leg, course: Course, startSpeed: number, endSpeed: number): EasingFunction {
  if (easing === 'recorded' && shape.kind === 'track' && shape.times !== null) return recorded(course, readTimes(shape.times))
  if (easing === 'gentle' || easing === 'recorded') return hermite(startSpeed, endSpeed)
  const [x1, y1, x2, y2] = typeof easing === 'string' ? NAMED_CURVES[easing] : easing
  return cubicBezier(x1, y1, x2, y2)
}

/** Ground units a frame, on average over a leg. */
const meanSpeed = (visits: readonly Visit[], courses: readonly Course[], leg: number): number =>
  courses[leg]!.length / Math.max(1, visits[leg + 1]!.arrive - visits[leg]!.leave)

/**
 * Speed at each visit: 0 where there is a layover, else the harmonic mean of the two legs' speeds, with which a Hermite
 * interpolation stays monotone. Source: F. Fritsch and J. Butland, A method for constructing local monotone piecewise cubic interpolants (1984).
 */
function speedsAtVisits(visits: readonly Visit[], courses: readonly Course[]): number[] {
  return visits.map((visit, i) => {
    if (i === 0 || i === visits.length - 1 || visit.leave > visit.arrive) return 0
    const a = meanSpeed(visits, courses, i - 1)
    const b = meanSpeed(visits, courses, i)
    return a + b > 0 ? (2 * a * b) / (a + b) : 0
  })
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
