import { produce } from 'immer'
import type { Journey, Postcard, Stop } from '../../journey/schema'
import { LIMITS, postcardSchema, SIDES } from '../../journey/schema'

/** Changes to the cards that are shown at stops: pure functions, journey in, journey out, as in journey.ts. */

/** A new postcard for a stop: with the looks of its last card, or on the opposite side of the pin from its label. */
export function newPostcard(
  { label, postcards }: Pick<Stop, 'label' | 'postcards'>,
  id: string,
  fields: Pick<Partial<Postcard>, 'photo' | 'text'>,
): Postcard {
  const last = postcards.at(-1)
  if (last) return { ...last, photo: null, text: '', crop: null, ...fields, id }
  const { place, shown } = label
  // An automatic label gives way to the card.
  const side = shown && place.kind === 'side' ? SIDES[(SIDES.indexOf(place.side) + SIDES.length / 2) % SIDES.length]! : 'top'
  return postcardSchema.parse({ place: { kind: 'side', side }, ...fields, id })
}

/** Adds a card, to be shown after those that the stop has; a stop that is full stays as it is. */
export const addPostcard = (journey: Journey, stop: string, card: Postcard): Journey =>
  editCards(journey, stop, (cards) => (cards.length < LIMITS.postcards ? [...cards, card] : cards))

/** Changes the given fields of a card. */
export const editPostcard = (journey: Journey, stop: string, id: string, patch: Partial<Omit<Postcard, 'id'>>): Journey =>
  editCards(journey, stop, (cards) =>
    cards.some((card) => card.id === id) ? cards.map((card) => (card.id === id ? { ...card, ...patch } : card)) : cards,
  )

export const removePostcard = (journey: Journey, stop: string, id: string): Journey =>
  editCards(journey, stop, (cards) => cards.filter((card) => card.id !== id))

/** Moves a card to another place in the order in which a stop's cards are shown. */
export const movePostcard = (journey: Journey, stop: string, from: number, to: number): Journey =>
  editCards(journey, stop, (cards) => {
    const moved = cards[from]
    return moved && to >= 0 && to < cards.length ? cards.toSpliced(from, 1).toSpliced(to, 0, moved) : cards
  })

function editCards(journey: Journey, id: string, change: (cards: Postcard[]) => Postcard[]): Journey {
  const stop = journey.stops.find((known) => known.id === id)
  const cards = stop && change(stop.postcards)
  if (!cards || cards === stop.postcards) return journey
  return produce(journey, (draft) => {
    draft.stops.find((known) => known.id === id)!.postcards = cards
  })
}
