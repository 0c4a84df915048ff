import { produce } from 'immer'
import { pinLike } from '../../dress/own-styles'
import type { Journey, Label, Pin, Postcard, Stop, TextStyle } from '../../journey/schema'

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

/** What of a stop others can look like; `card` is the look of all of them. */
interface StopLook {
  pin: Pin
  label: Label
  card: Postcard | null
}

/** A stop that looks like another: pin, label and, if it has any, postcards; what is written on them, and where they lie, are its own. */
export function inLookOf(stop: Stop, { pin, label, card }: StopLook): Stop {
  const { place, second } = stop.label
  // A note is about one stop; dates and distances are everyone's.
  const isNote = second?.kind === 'note' || label.second?.kind === 'note'
  return {
    ...stop,
    pin: pinLike(stop.pin, pin),
    label: { ...label, place, second: isNote ? second : label.second },
    postcards: card
      ? stop.postcards.map(({ id, photo, crop, text, place }) => ({ ...card, id, photo, crop, text, place }))
      : stop.postcards,
  }
}

/** Gives all stops the look of one. */
export function dressStopsLike(journey: Journey, id: string): Journey {
  const model = journey.stops.find((stop) => stop.id === id)
  if (!model) return journey
  const look = { pin: model.pin, label: model.label, card: model.postcards[0] ?? null }
  return { ...journey, stops: journey.stops.map((stop) => inLookOf(stop, look)) }
}
