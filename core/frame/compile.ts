import type { Box } from '../geometry/box'
import { unionOf } from '../geometry/box'
import { clamp } from '../geometry/clamp'
import type { Size } from '../geometry/size'
import { outputScale, referenceSize } from '../camera/view'
import { projectionOf } from '../camera/projection'
import { viewAt } from '../camera/view-track'
import type { Journey, LandmarkMark } from '../journey/schema'
import { frameCount, frameTime } from '../pace/rate'
import { compileCamera } from '../shots/compile-camera'
import { compileTraveller, timedTrip } from '../trips/compile-traveller'
import type { CardTimes } from '../marks/card-times'
import { cardTimes } from '../marks/card-times'
import type { CompiledJourney, CompiledLabel, CompiledMark, CompiledPostcard, CompiledTraveller, CompiledVisit } from '../trips/compiled'
import { formatDate } from '../trips/dates'
import { layLabel, setLabel } from '../marks/label-layout'
import type { LabelPlaces } from '../labels/label-scene'
import { findLabelPlaces, USUAL_PLACE } from '../labels/label-scene'
import { labelStart, NOTHING } from '../marks/pins'
import { coverOf } from '../marks/vehicle-cover'
import type { Ruler } from '../trips/metres'
import { formatDistance, metresAlong, rulerOf } from '../trips/metres'
import { countParts, revealSeconds } from '../marks/reveal'
import { asSheet } from '../sheet/lying-picture'
import type { CompiledSpan } from '../trips/span'
import { ALWAYS, compileSpan, timeOf } from '../trips/span'
import { compileValues } from '../trips/values'
import { learnFonts } from '../type/measure'

/**
 * Compiles a journey. Courses that an edit has not touched are not made again.
 * @param places where its automatic labels lie, if that is known already; else the best places are looked for
 * @throws JourneyError if the set times do not fit into the journey's length.
 */
export function compile(journey: Journey, places?: LabelPlaces): CompiledJourney {
  learnFonts(journey.fonts)
  const { rate } = journey.frame
  const frames = frameCount(journey.seconds, rate)
  const lastTime = frameTime(frames - 1, rate)
  const reference = referenceSize(journey.frame)
  const trips = journey.travellers.map((traveller) => timedTrip(journey, traveller))
  const shown = firstVisits(trips.filter(({ traveller }) => traveller.shown))
  // What is tied to a stop that only a hidden traveller visits still needs its moment.
  const moments = new Map([...firstVisits(trips), ...shown].map((visit) => [visit.stop.id, visit]))
  const film = journey.sheets.filter((sheet) => !sheet.tracing)
  const { views, shots } = compileCamera(journey, trips, moments, { frames, lastTime, reference })
  const lookAt = (time: number) => projectionOf(viewAt({ views }, time), reference)
  const still = lookAt(0)
  const look = shots.length === 0 ? () => still : remembering(lookAt)
  const ruler = rulerOf(journey)
  const travellers = trips.map((trip) => compileTraveller(trip, rate, look))
  const beside = journey.landmarks.map((landmark) => ({ landmark, shown: compileSpan(landmark.shown, moments, lastTime) }))
  const compiled: CompiledJourney = {
    journey,
    frames,
    lastTime,
    scale: outputScale(journey.frame),
    reference,
    views,
    shots,
    travellers,
    marks: [
      ...shown.map((visit) => ({
        ...visit,
        isStop: true,
        shown: ALWAYS,
        number: 1 + shown.filter(({ arrive }) => arrive < visit.arrive).length,
        label: compileLabel(visit, secondLine(visit, travellers, ruler, journey.measures.unit), reference, lastTime),
        postcards: compilePostcards(visit, travellers, lastTime),
      })),
      ...beside.flatMap(({ landmark, shown: span }) =>
        landmark.kind === 'mark' ? [compileMark(landmark, span, reference, lastTime)] : [],
      ),
    ],
    standing: beside.flatMap(({ landmark, shown: span }) => (landmark.kind === 'standing' ? [{ picture: landmark, shown: span }] : [])),
    lying: beside.flatMap(({ landmark, shown: span }) =>
      landmark.kind === 'lying' ? [{ landmark, sheet: asSheet(landmark), shown: span }] : [],
    ),
    sheets: film.map((sheet) => ({ sheet, shown: compileSpan(sheet.shown, moments, lastTime) })),
    areas: journey.areas.map((area) => ({ area, shown: compileSpan(area.shown, moments, lastTime) })),
    values: compileValues(journey, moments, lastTime),
    valueMarks: journey.valueMarks.map((mark) => ({ mark, time: timeOf(mark.at, moments, lastTime) })),
    notes: journey.notes.map((note) => ({ note, time: clamp(timeOf(note.at, moments, lastTime), 0, lastTime) })),
    captions: journey.captions.map((caption) => ({ caption, shown: compileSpan(caption.shown, moments, lastTime), ruler })),
  }
  return { ...compiled, marks: withPlaces(compiled.marks, places ?? findLabelPlaces(compiled)) }
}

/** Marks with their automatic labels at the places that were found for them. */
const withPlaces = (marks: readonly CompiledMark[], places: LabelPlaces): CompiledMark[] =>
  marks.map((mark) => {
    const { stop, label } = mark
    const found = places.get(stop.id)
    return label && found && stop.label.place.kind === 'automatic'
      ? { ...mark, label: { ...label, ...layLabel(stop.label, stop.pin, label.block, found) } }
      : mark
  })

/** A mark beside the way: it comes and goes with its span. */
function compileMark(stop: LandmarkMark, shown: CompiledSpan, reference: Size, lastTime: number): CompiledMark {
  const { second } = stop.label
  const mark = { stop, arrive: shown.from, leave: shown.to, date: null }
  const label = compileLabel(mark, second?.kind === 'note' ? second.text.trim() : '', reference, lastTime)
  return { ...mark, isStop: false, shown, number: 0, label, postcards: [] }
}

/** A label at its usual place, if it is automatic. @param second what stands under the name; '' for nothing */
function compileLabel(
  { stop: { label, pin, name }, arrive }: Pick<CompiledMark, 'stop' | 'arrive'>,
  second: string,
  reference: Size,
  lastTime: number,
): CompiledLabel | undefined {
  if (!label.shown || (name === '' && second === '')) return undefined
  const block = setLabel(name, second, label.style, reference)
  const parts = countParts(block, label.appears.by)
  const from = labelStart(arrive, pin.delay + label.delay, revealSeconds(label.appears, parts), lastTime)
  return { ...layLabel(label, pin, block, USUAL_PLACE), from, parts }
}

/** What stands under a stop's name; '' for nothing, or what is not known. */
function secondLine(
  visit: CompiledVisit,
  travellers: readonly CompiledTraveller[],
  ruler: Ruler | undefined,
  unit: Journey['measures']['unit'],
): string {
  const { second } = visit.stop.label
  switch (second?.kind) {
    case undefined:
      return ''
    case 'note':
      return second.text.trim()
    case 'date':
      return visit.date === null ? '' : formatDate(visit.date)
    case 'distance': {
      const trip = travellers.find(({ visits }) => visits.includes(visit))
      if (!trip || !ruler) return ''
      const before = trip.legs.slice(0, trip.visits.indexOf(visit))
      return formatDistance(
        before.reduce((sum, { course }) => sum + metresAlong(course, course.length, ruler), 0),
        unit,
      )
    }
    default:
      return second satisfies never
  }
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
function compilePostcards(
  { stop, arrive, leave }: CompiledVisit,
  travellers: readonly CompiledTraveller[],
  lastTime: number,
): CompiledPostcard[] {
  const cards = stop.postcards.filter(({ photo, text }) => photo !== null || text.trim() !== '')
  const times = cardTimes(cards, arrive, leave, lastTime)
  return cards.map((postcard, i) => ({ postcard, ...times[i]!, clearOf: restingAt(stop, times[i]!, travellers) }))
}

/** What the vehicles cover about a stop that rest there between two times. */
function restingAt({ id }: CompiledVisit['stop'], { from, to }: CardTimes, travellers: readonly CompiledTraveller[]): Box {
  const covers = travellers.flatMap(({ traveller, visits, legs }) =>
    visits.flatMap(({ stop, arrive, leave }, i) => {
      if (!traveller.shown || stop.id !== id || leave <= from || arrive >= to) return []
      return [legs[i - 1]?.rides.at(-1), legs[i]?.rides[0]].flatMap((ride) => (ride?.vehicle ? [coverOf(ride.vehicle)] : []))
    }),
  )
  return unionOf([NOTHING, ...covers])
}
