import { clamp } from '../geometry/clamp'
import type { Size } from '../geometry/size'
import { outputScale, referenceSize } from '../camera/view'
import type { ViewTrack } from '../camera/view-track'
import { projectionAt, viewTrack } from '../camera/view-track'
import type { Journey, Sheet } from '../journey/schema'
import { cubicBezier, NAMED_CURVES } from '../pace/easing'
import { frameCount, frameTime } from '../pace/rate'
import { heldIn } from '../sheet/framing'
import { compileTraveller, timedTrip } from './compile-traveller'
import type { CompiledJourney, CompiledPostcard, CompiledVisit } from './compiled'
import { labelPlace, postcardTimes } from './marks'
import { compileSpan, timeOf } from './span'

export type * from './compiled'

/**
 * Compiles a journey. Courses that an edit has not touched are not made again.
 * @throws JourneyError if the set times do not fit into the journey's length.
 */
export function compile(journey: Journey): CompiledJourney {
  const { rate } = journey.frame
  const frames = frameCount(journey.seconds, rate)
  const lastTime = frameTime(frames - 1, rate)
  const reference = referenceSize(journey.frame)
  const trips = journey.travellers.map((traveller) => timedTrip(journey, traveller))
  const shown = firstVisits(trips.filter(({ traveller }) => traveller.shown))
  // What is tied to a stop that only a hidden traveller visits still needs its moment.
  const moments = new Map([...firstVisits(trips), ...shown].map((visit) => [visit.stop.id, visit]))
  const film = journey.sheets.filter((sheet) => !sheet.tracing)
  const views = compileViews(journey, film[0], moments, lastTime, reference)
  const still = projectionAt({ views, reference }, 0)
  const look = views.moves.length === 0 ? () => still : remembering((time) => projectionAt({ views, reference }, time))
  return {
    journey,
    frames,
    lastTime,
    scale: outputScale(journey.frame),
    reference,
    views,
    travellers: trips.map((trip) => compileTraveller(trip, rate, look)),
    marks: shown.map((visit) => ({
      ...visit,
      number: 1 + shown.filter(({ arrive }) => arrive < visit.arrive).length,
      labelPlace: labelPlace(visit.stop.pin, visit.stop.label),
      postcard: compilePostcard(visit, lastTime),
    })),
    sheets: film.map((sheet) => ({ sheet, shown: compileSpan(sheet.shown, moments, lastTime) })),
    areas: journey.areas.map((area) => ({ area, shown: compileSpan(area.shown, moments, lastTime) })),
  }
}

function compileViews(
  { camera, views, ground }: Journey,
  first: Sheet | undefined,
  moments: ReadonlyMap<string, CompiledVisit>,
  lastTime: number,
  reference: Size,
): ViewTrack {
  const timed = views.map(({ id, at, transition, easing, view }) => {
    const [x1, y1, x2, y2] = NAMED_CURVES[easing]
    const time = clamp(timeOf(at, moments, lastTime), 0, lastTime)
    return { id, time, transition, progress: cubicBezier(x1, y1, x2, y2), view }
  })
  const isHeld = first !== undefined && ground.edge === 'held'
  return viewTrack(camera, timed, reference, isHeld ? (view) => heldIn(first, view, reference) : undefined)
}

/** A function that keeps its last answer: several things ask for one moment in a row. */
function remembering<T>(answer: (time: number) => T): (time: number) => T {
  let last: { time: number; value: T } | undefined
  return (time) => {
    if (last?.time !== time) last = { time, value: answer(time) }
    return last.value
  }
}

/** The stops of some travellers in the order of their trips, each with its first arrival. */
function firstVisits(travellers: readonly { visits: CompiledVisit[] }[]): CompiledVisit[] {
  const first = new Map<string, CompiledVisit>()
  for (const visit of travellers.flatMap(({ visits }) => visits)) {
    const known = first.get(visit.stop.id)
    if (!known || visit.arrive < known.arrive) first.set(visit.stop.id, visit)
  }
  return [...first.values()]
}

/** A card with nothing on it is not shown. */
function compilePostcard({ stop, arrive, leave }: CompiledVisit, lastTime: number): CompiledPostcard | undefined {
  const { postcard } = stop
  if (!postcard || (!postcard.photo && postcard.text.trim() === '')) return undefined
  return { postcard, ...postcardTimes(postcard, arrive, leave, lastTime) }
}
