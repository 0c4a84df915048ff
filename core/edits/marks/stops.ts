import { produce } from 'immer'
import type { Journey, Label, Pin, Stop, TextStyle } from '../../journey/schema'

/** Changes to what is seen at the stops: pure functions, journey in, journey out, as in journey.ts. */

export type StopPatch = Partial<Pick<Stop, 'name' | 'at' | 'found' | 'place' | 'postcards'>> & {
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

/** Gives all stops the look of one: pin, label and, on those that have any, postcards; places and notes are kept. */
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
      const [card] = model.postcards
      if (card) stop.postcards = stop.postcards.map(({ id, photo, crop, text, place }) => ({ ...card, id, photo, crop, text, place }))
    }
  })
}
