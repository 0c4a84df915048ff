import { JourneyError } from '../error'
import type { Point } from '../geometry/point'
import type {
  Caption,
  CaptionKind,
  ChangingValue,
  Ink,
  Journey,
  LandmarkMark,
  Leg,
  Moment,
  Stop,
  TextStyle,
  Traveller,
  ValueMark,
} from './schema'

/** The traveller with an id. @throws JourneyError if there is none */
export function travellerOf({ travellers }: Pick<Journey, 'travellers'>, id: string): Traveller {
  const found = travellers.find((traveller) => traveller.id === id)
  if (!found) throw new JourneyError('That traveller is not in the journey any more.')
  return found
}

/** A stop's name in lists and messages; in the picture an unnamed stop has no label. */
export const nameOfStop = ({ name }: Pick<Stop, 'name'>): string => name || 'Unnamed stop'

/** What the kinds of titles and readouts are called. */
export const CAPTION_NAMES: Readonly<Record<CaptionKind, string>> = {
  title: 'Title',
  distance: 'Distance so far',
  date: 'Date',
  day: 'Day of the trip',
  height: 'Height',
  leg: 'Leg',
  place: 'Last stop',
  'scale-bar': 'Scale bar',
  'north-arrow': 'North arrow',
}

/** What a title or readout is called in lists: a title by its first line. */
export const nameOfCaption = ({ content }: Pick<Caption, 'content'>): string =>
  content.kind === 'title' ? content.text.split('\n')[0] || CAPTION_NAMES.title : CAPTION_NAMES[content.kind]

/** What the values that change over time are called. */
export const VALUE_NAMES: Readonly<Record<ChangingValue, string>> = {
  'line-width': 'Line width',
  'line-opacity': 'Line opacity',
  'line-light': 'Light of the line',
  'line-colour': 'Line colour',
  'vehicle-size': 'Vehicle size',
  'pin-size': 'Pin size',
  'name-size': 'Name size',
  'sheet-opacity': 'Map opacity',
  wash: 'Wash',
  'edge-shade': 'Edge shade',
  'map-dim': 'Map dimmed',
}

/** What a value mark is called in lists. */
export const nameOfValueMark = ({ value, to }: Pick<ValueMark, 'value' | 'to'>): string =>
  `${VALUE_NAMES[value]} to ${typeof to === 'string' ? to : `${Math.round(100 * to)} %`}`

/** A leg, its traveller, and its index among that traveller's legs. */
export function findLeg(journey: Journey, id: string): { traveller: Traveller; leg: Leg; index: number } | undefined {
  for (const traveller of journey.travellers) {
    const index = traveller.legs.findIndex((leg) => leg.id === id)
    if (index >= 0) return { traveller, leg: traveller.legs[index]!, index }
  }
  return undefined
}

/** Whether a moment is tied to one of these stops, or to none. */
export const isTiedTo = (moment: Moment, stops: ReadonlySet<string>): boolean => !('stop' in moment) || stops.has(moment.stop)

/** What has a pin and a name: the stops, and the marks beside the way. */
export const markedOf = ({ stops, landmarks }: Pick<Journey, 'stops' | 'landmarks'>): (Stop | LandmarkMark)[] => [
  ...stops,
  ...landmarks.filter((landmark) => landmark.kind === 'mark'),
]

/** The lines of a leg, from the lowest to the uppermost. */
export const inksOf = ({ ink, over }: Pick<Leg, 'ink' | 'over'>): [Ink, ...Ink[]] => [ink, ...over]

/** The ends of a leg on the ground; undefined if there is no such leg. */
export function legEnds(journey: Journey, id: string): [Point, Point] | undefined {
  const found = findLeg(journey, id)
  if (!found) return undefined
  const place = (k: number) => journey.stops.find((stop) => stop.id === found.traveller.visits[k]?.stop)?.at
  const [a, b] = [place(found.index), place(found.index + 1)]
  return a && b && [a, b]
}

/** Whether names of countries or seas are asked for on the map. */
export const hasMapNames = ({ ground: { names } }: Pick<Journey, 'ground'>): boolean => names !== null && (names.countries || names.seas)

/** All styles of text in a journey. */
export const textStylesOf = ({ stops, landmarks, captions }: Pick<Journey, 'stops' | 'landmarks' | 'captions'>): TextStyle[] => [
  ...[...stops, ...landmarks].flatMap((place) => ('label' in place ? [place.label.style] : [])),
  ...captions.map(({ style }) => style),
]
