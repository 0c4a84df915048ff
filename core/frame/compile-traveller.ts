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
import type { CompiledTraveller, CompiledVisit, TimedLeg } from './compiled'
import { compiledCourse, courseGround } from '../courses/compile-course'
import type { Run } from './heading'
import type { Vehicle } from '../vehicles/vehicle'
import { resolveVehicle, sameVehicle } from '../vehicles/vehicle'
import { stretchesOf } from './stretch'

/** A traveller's trip with its courses and times, before the camera is known. */
export interface TimedTrip {
  traveller: Traveller
  visits: CompiledVisit[]
  legs: TimedLeg[]
}

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
  const vehicles = traveller.legs.map(({ vehicle }) => vehicle && resolveVehicle(vehicle))
  const runs = runsOf(vehicles, courses, visits)
  const compiledVisits = visits.map((visit, i) => ({
    stop: stops[i]!,
    arrive: frameTime(visit.arrive, rate),
    leave: frameTime(visit.leave, rate),
    date: traveller.visits[i]!.date,
  }))
  const legs = traveller.legs.map((leg, i): TimedLeg => {
    const course = courses[i]!
    const mean = meanSpeed(visits, courses, i)
    const relative = (speed: number) => (mean > 0 ? speed / mean : 0)
    return {
      leg,
      vehicle: vehicles[i]!,
      course,
      depart: compiledVisits[i]!.leave,
      arrive: compiledVisits[i + 1]!.arrive,
      progress: progressOf(leg, course, relative(speeds[i]!), relative(speeds[i + 1]!)),
      ...runs[i]!,
    }
  })
  return { traveller, visits: compiledVisits, legs }
}

/** Adds to a trip what depends on the camera: how its vehicles turn, and at which zoom its ink is drawn. @param look the projection at a time */
export function compileTraveller(
  { traveller, visits, legs }: TimedTrip,
  rate: FrameRate,
  look: (time: number) => Projection,
): CompiledTraveller {
  const [numerator, denominator] = fraction(rate)
  const stretches = stretchesOf(legs, visits, numerator / denominator, look)
  return {
    traveller,
    visits,
    legs: legs.map((leg, i) => ({ ...leg, patternZoom: look((leg.depart + leg.arrive) / 2).view.zoom, stretch: stretches[i]! })),
  }
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

function runsOf(
  vehicles: readonly (Vehicle | null)[],
  courses: readonly Course[],
  visits: readonly Visit[],
): { run: Run; runOffset: number }[] {
  const placed: { run: Run; runOffset: number }[] = []
  let start = 0
  while (start < vehicles.length) {
    let end = start + 1
    while (end < vehicles.length && visits[end]!.arrive === visits[end]!.leave && sameVehicle(vehicles[start]!, vehicles[end]!)) end++
    const run: Run = { course: joinCourses(courses.slice(start, end)) }
    let runOffset = 0
    for (let i = start; i < end; i++) {
      placed.push({ run, runOffset })
      runOffset += courses[i]!.length
    }
    start = end
  }
  return placed
}
