import { JourneyError } from '../error'
import type { Point } from '../geometry/point'
import type { Journey, Leg, Stop, TextStyle, Traveller } from './schema'

/** The traveller with an id. @throws JourneyError if there is none */
export function travellerOf({ travellers }: Pick<Journey, 'travellers'>, id: string): Traveller {
  const found = travellers.find((traveller) => traveller.id === id)
  if (!found) throw new JourneyError('That traveller is not in the journey any more.')
  return found
}

/** A stop's name in lists and messages; in the picture an unnamed stop has no label. */
export const nameOfStop = ({ name }: Pick<Stop, 'name'>): string => name || 'Unnamed stop'

/** A leg, its traveller, and its index among that traveller's legs. */
export function findLeg(journey: Journey, id: string): { traveller: Traveller; leg: Leg; index: number } | undefined {
  for (const traveller of journey.travellers) {
    const index = traveller.legs.findIndex((leg) => leg.id === id)
    if (index >= 0) return { traveller, leg: traveller.legs[index]!, index }
  }
  return undefined
}

/** The ends of a leg on the ground; undefined if there is no such leg. */
export function legEnds(journey: Journey, id: string): [Point, Point] | undefined {
  const found = findLeg(journey, id)
  if (!found) return undefined
  const place = (k: number) => journey.stops.find((stop) => stop.id === found.traveller.visits[k]?.stop)?.at
  const [a, b] = [place(found.index), place(found.index + 1)]
  return a && b && [a, b]
}

/** All styles of text in a journey. */
export const textStylesOf = ({ stops, landmarks, captions }: Pick<Journey, 'stops' | 'landmarks' | 'captions'>): TextStyle[] => [
  ...[...stops, ...landmarks].flatMap((place) => ('label' in place ? [place.label.style] : [])),
  ...captions.map(({ style }) => style),
]
