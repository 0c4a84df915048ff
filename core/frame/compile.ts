import type { Size, View } from '../camera/view'
import { outputScale, referenceSize, toScreen } from '../camera/view'
import type { Course } from '../geometry/course'
import { joinCourses } from '../geometry/course'
import type { Point } from '../geometry/point'
import type { Area, Journey, Leg, Postcard, Sheet, Stop, Traveller, VehicleChoice } from '../journey/schema'
import type { Progress } from '../pace/easing'
import { readTimes } from '../journey/track-line'
import { cubicBezier, hermite, NAMED_CURVES } from '../pace/easing'
import { recorded } from '../pace/recorded'
import type { Visit } from '../pace/schedule'
import { schedule } from '../pace/schedule'
import { frameCount, frameTime } from '../pace/rate'
import { heldIn } from '../sheet/framing'
import { artworkOf } from '../vehicles/catalogue'
import { compiledCourse, courseGround } from './course'
import type { Run } from './heading'
import { runOf, SMOOTHING } from './heading'
import type { LabelPlace, PostcardTimes } from './marks'
import { labelPlace, postcardTimes } from './marks'
import type { CompiledSpan } from './span'
import { compileSpan } from './span'

/** A journey made ready to be asked for any moment; plain data and functions, all times in seconds. */
export interface CompiledJourney {
  journey: Journey
  /** Number of frames, N; the last one shows `lastTime`. */
  frames: number
  lastTime: number
  /** Output pixels per reference pixel. */
  scale: number
  reference: Size
  view: View
  travellers: CompiledTraveller[]
  /** The stops that are seen in the film, each with the first arrival at it. */
  marks: CompiledMark[]
  /** The sheets and areas of the film, and when they are shown; tracing sheets are not among them. */
  sheets: { sheet: Sheet; shown: CompiledSpan }[]
  areas: { area: Area; shown: CompiledSpan }[]
}

export interface CompiledTraveller {
  traveller: Traveller
  visits: CompiledVisit[]
  legs: CompiledLeg[]
}

export interface CompiledVisit {
  stop: Stop
  arrive: number
  leave: number
}

export interface CompiledMark extends CompiledVisit {
  labelPlace: LabelPlace
  postcard: CompiledPostcard | undefined
}

export interface CompiledPostcard extends PostcardTimes {
  postcard: Postcard
  /** Where the stop is in the frame, in reference pixels. */
  home: Point
}

export interface CompiledLeg {
  leg: Leg
  course: Course
  depart: number
  arrive: number
  progress: Progress
  /** Ground units between the vehicle and the head of the ink behind it. */
  gap: number
  /** The run this leg is part of, and where on it the leg begins. */
  run: Run
  runOffset: number
}

/**
 * Compiles a journey. Courses that an edit has not touched are not made again.
 * @throws JourneyError if the set times do not fit into the journey's length.
 */
export function compile(journey: Journey): CompiledJourney {
  const { rate } = journey.frame
  const frames = frameCount(journey.seconds, rate)
  const lastTime = frameTime(frames - 1, rate)
  const reference = referenceSize(journey.frame)
  const travellers = journey.travellers.map((traveller) => compileTraveller(journey, traveller))
  const film = journey.sheets.filter((sheet) => !sheet.tracing)
  const [first] = film
  const view = first && journey.ground.edge === 'held' ? heldIn(first, journey.camera, reference) : journey.camera
  const seen = firstVisits(travellers.filter(({ traveller }) => traveller.shown))
  // What hangs on a stop that only a hidden traveller visits still has its moment.
  const moments = new Map([...firstVisits(travellers), ...seen].map((visit) => [visit.stop.id, visit]))
  return {
    journey,
    frames,
    lastTime,
    scale: outputScale(journey.frame),
    reference,
    view,
    travellers,
    marks: seen.map((visit) => ({
      ...visit,
      labelPlace: labelPlace(visit.stop.pin, visit.stop.label),
      postcard: compilePostcard(visit, lastTime, toScreen(view, reference, visit.stop.at)),
    })),
    sheets: film.map((sheet) => ({ sheet, shown: compileSpan(sheet.shown, moments, lastTime) })),
    areas: journey.areas.map((area) => ({ area, shown: compileSpan(area.shown, moments, lastTime) })),
  }
}

/** The stops of some travellers in the order of their trips; of one that several visit the first arrival. */
function firstVisits(travellers: readonly CompiledTraveller[]): CompiledVisit[] {
  const first = new Map<string, CompiledVisit>()
  for (const visit of travellers.flatMap(({ visits }) => visits)) {
    const known = first.get(visit.stop.id)
    if (!known || visit.arrive < known.arrive) first.set(visit.stop.id, visit)
  }
  return [...first.values()]
}

/** A card with nothing on it is not shown. */
function compilePostcard({ stop, arrive, leave }: CompiledVisit, lastTime: number, home: Point): CompiledPostcard | undefined {
  const { postcard } = stop
  if (!postcard || (!postcard.photo && postcard.text.trim() === '')) return undefined
  return { postcard, home, ...postcardTimes(postcard, arrive, leave, lastTime) }
}

function compileTraveller(journey: Journey, traveller: Traveller): CompiledTraveller {
  const { rate } = journey.frame
  const byId = new Map(journey.stops.map((stop) => [stop.id, stop]))
  const stops = traveller.visits.map((visit) => byId.get(visit.stop)!)
  const ground = courseGround(journey)
  const courses = traveller.legs.map((leg, i) => compiledCourse(leg.course, stops[i]!.at, stops[i + 1]!.at, ground))
  const visits = schedule(
    {
      startDelay: traveller.startDelay,
      layovers: traveller.visits.map((visit) => visit.layover),
      legs: traveller.legs.map((leg, i) => ({ length: courses[i]!.length, travel: leg.travel })),
    },
    journey.seconds,
    rate,
    journey.shareExponent,
  )
  const speeds = speedsAtVisits(visits, courses)
  const runs = runsOf(traveller.legs, courses, visits, journey.camera.zoom)
  return {
    traveller,
    visits: visits.map((visit, i) => ({
      stop: stops[i]!,
      arrive: frameTime(visit.arrive, rate),
      leave: frameTime(visit.leave, rate),
    })),
    legs: traveller.legs.map((leg, i) => {
      const course = courses[i]!
      const mean = meanSpeed(visits, courses, i)
      const relative = (speed: number) => (mean > 0 ? speed / mean : 0)
      return {
        leg,
        course,
        depart: frameTime(visits[i]!.leave, rate),
        arrive: frameTime(visits[i + 1]!.arrive, rate),
        progress: progressOf(leg, course, relative(speeds[i]!), relative(speeds[i + 1]!)),
        gap: Math.min(course.length, gapOf(leg.vehicle) / journey.camera.zoom),
        ...runs[i]!,
      }
    }),
  }
}

const gapOf = (vehicle: VehicleChoice | null): number => (vehicle ? artworkOf(vehicle.artwork).inkGap * vehicle.size : 0)

function progressOf({ easing, course: shape }: Leg, course: Course, startSpeed: number, endSpeed: number): Progress {
  if (easing === 'recorded' && shape.kind === 'track' && shape.times !== null) return recorded(course, readTimes(shape.times))
  if (easing === 'gentle' || easing === 'recorded') return hermite(startSpeed, endSpeed)
  const [x1, y1, x2, y2] = typeof easing === 'string' ? NAMED_CURVES[easing] : easing
  return cubicBezier(x1, y1, x2, y2)
}

/** Ground units a frame, on average over a leg. */
const meanSpeed = (visits: readonly Visit[], courses: readonly Course[], leg: number): number =>
  courses[leg]!.length / Math.max(1, visits[leg + 1]!.arrive - visits[leg]!.leave)

/**
 * Speed at each visit: none where there is a layover, else the harmonic mean of the two legs' speeds, with which a Hermite
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

/** Whether two legs are travelled by what looks like the same vehicle. */
export const sameVehicle = (a: VehicleChoice | null, b: VehicleChoice | null): boolean =>
  a === b || (a !== null && b !== null && a.artwork === b.artwork && a.colour === b.colour && a.size === b.size)

function runsOf(
  legs: readonly Leg[],
  courses: readonly Course[],
  visits: readonly Visit[],
  zoom: number,
): { run: Run; runOffset: number }[] {
  const placed: { run: Run; runOffset: number }[] = []
  let start = 0
  while (start < legs.length) {
    let end = start + 1
    while (end < legs.length && visits[end]!.arrive === visits[end]!.leave && sameVehicle(legs[start]!.vehicle, legs[end]!.vehicle)) end++
    const vehicle = legs[start]!.vehicle
    const run = runOf(
      joinCourses(courses.slice(start, end)),
      (SMOOTHING * (vehicle?.size ?? 1)) / zoom,
      vehicle ? artworkOf(vehicle.artwork).view : 'above',
    )
    let runOffset = 0
    for (let i = start; i < end; i++) {
      placed.push({ run, runOffset })
      runOffset += courses[i]!.length
    }
    start = end
  }
  return placed
}
