import { produce } from 'immer'
import type { Journey, Label, Pin, Postcard, Stop, TextStyle } from '../journey/schema'
import { postcardSchema, SIDES } from '../journey/schema'

/** Changes to what is seen at the stops: pure functions, journey in, journey out, as in journey.ts. */

export type StopPatch = Partial<Pick<Stop, 'name' | 'at' | 'found' | 'place' | 'postcard'>> & {
  pin?: Partial<Pin>
  label?: Partial<Omit<Label, 'style'>> & { style?: Partial<TextStyle> }
}

/** Changes the given fields of a stop. A moved stop loses the place on the Earth where it was found. */
export function editStop(journey: Journey, id: string, patch: StopPatch): Journey {
  return produce(journey, (draft) => {
    const stop = draft.stops.find((s) => s.id === id)
    if (!stop) return
    const { pin, label, ...rest } = patch
    if (rest.at) stop.place = null
    Object.assign(stop, rest)
    Object.assign(stop.pin, pin)
    const { style, ...labelled } = label ?? {}
    Object.assign(stop.label, labelled)
    Object.assign(stop.label.style, style)
  })
}

/** A new postcard for a stop, on the opposite side of the pin from its label. */
export function newPostcard({ label }: Pick<Stop, 'label'>, fields: Pick<Partial<Postcard>, 'photo' | 'text'>): Postcard {
  const { place, shown } = label
  // An automatic label gives way to the card.
  const side = shown && place.kind === 'side' ? SIDES[(SIDES.indexOf(place.side) + SIDES.length / 2) % SIDES.length]! : 'top'
  return postcardSchema.parse({ side, ...fields })
}

/** Changes the given fields of a stop's postcard, if it has one. */
export function editPostcard(journey: Journey, id: string, patch: Partial<Postcard>): Journey {
  const postcard = journey.stops.find((stop) => stop.id === id)?.postcard
  return postcard ? editStop(journey, id, { postcard: { ...postcard, ...patch } }) : journey
}

/** Gives all stops the look of one: pin, label and, on those that have one, postcard; sides and notes are kept. */
export function dressStopsLike(journey: Journey, id: string): Journey {
  return produce(journey, (draft) => {
    const model = draft.stops.find((s) => s.id === id)
    if (!model) return
    for (const stop of draft.stops) {
      stop.pin = { ...model.pin }
      const { place, second } = stop.label
      // A note is about one stop; dates and distances are everyone's.
      const isNote = second?.kind === 'note' || model.label.second?.kind === 'note'
      stop.label = { ...model.label, place, second: isNote ? second : model.label.second }
      if (stop.postcard && model.postcard) {
        const { photo, text, side } = stop.postcard
        stop.postcard = { ...model.postcard, photo, text, side }
      }
    }
  })
}
