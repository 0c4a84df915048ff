import { produce } from 'immer'
import type { Journey, Label, Pin, Postcard, Stop } from '../journey/schema'
import { postcardSchema, SIDES } from '../journey/schema'

/** Changes to what is seen at the stops: pure functions, journey in, journey out, as in journey.ts. */

export type StopPatch = Partial<Pick<Stop, 'name' | 'at' | 'found' | 'place' | 'postcard'>> & { pin?: Partial<Pin>; label?: Partial<Label> }

/** Changes the given fields of a stop. A moved stop loses the place on the Earth where it was found. */
export function editStop(journey: Journey, id: string, patch: StopPatch): Journey {
  return produce(journey, (draft) => {
    const stop = draft.stops.find((s) => s.id === id)
    if (!stop) return
    const { pin, label, ...rest } = patch
    if (rest.at) stop.place = null
    Object.assign(stop, rest)
    Object.assign(stop.pin, pin)
    Object.assign(stop.label, label)
  })
}

/** A new postcard for a stop, on the opposite side of the pin from its label. */
export function newPostcard({ label }: Pick<Stop, 'label'>, fields: Pick<Partial<Postcard>, 'photo' | 'text'>): Postcard {
  const opposite = SIDES[(SIDES.indexOf(label.side) + SIDES.length / 2) % SIDES.length]!
  return postcardSchema.parse({ side: label.shown ? opposite : 'top', ...fields })
}

/** Changes the given fields of a stop's postcard, if it has one. */
export function editPostcard(journey: Journey, id: string, patch: Partial<Postcard>): Journey {
  const postcard = journey.stops.find((stop) => stop.id === id)?.postcard
  return postcard ? editStop(journey, id, { postcard: { ...postcard, ...patch } }) : journey
}

/** Gives all stops the look of one: pin, label and, on those that have one, postcard; sides are kept. */
export function dressStopsLike(journey: Journey, id: string): Journey {
  return produce(journey, (draft) => {
    const model = draft.stops.find((s) => s.id === id)
    if (!model) return
    for (const stop of draft.stops) {
      stop.pin = { ...model.pin }
      stop.label = { ...model.label, side: stop.label.side }
      if (stop.postcard && model.postcard) {
        const { photo, text, side } = stop.postcard
        stop.postcard = { ...model.postcard, photo, text, side }
      }
    }
  })
}
