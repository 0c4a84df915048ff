import { outputScale, referenceSize, toScreen } from '../camera/view'
import type { Point } from '../geometry/point'
import type { Journey } from '../journey/schema'
import { frameCount, frameTime } from '../pace/rate'
import { heldIn } from '../sheet/framing'
import { compileTraveller } from './compile-traveller'
import type { CompiledJourney, CompiledPostcard, CompiledTraveller, CompiledVisit } from './compiled'
import { labelPlace, postcardTimes } from './marks'
import { compileSpan } from './span'

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
  const travellers = journey.travellers.map((traveller) => compileTraveller(journey, traveller))
  const film = journey.sheets.filter((sheet) => !sheet.tracing)
  const [first] = film
  const view = first && journey.ground.edge === 'held' ? heldIn(first, journey.camera, reference) : journey.camera
  const seen = firstVisits(travellers.filter(({ traveller }) => traveller.shown))
  // A span tied to a stop that only a hidden traveller visits still needs its moment.
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

/** The stops of some travellers in the order of their trips, each with its first arrival. */
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
