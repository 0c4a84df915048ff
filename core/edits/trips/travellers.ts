import { produce } from 'immer'
import { travellerOf } from '../../journey/lookup'
import type { Journey, Traveller } from '../../journey/schema'
import { travellerSchema } from '../../journey/schema'
import { HOUSE_COLOURS } from '../../journey/values'
import { dropUnvisited } from './visits'

/** Changes to the travellers of a journey: pure functions, journey in, journey out. */

/** The first of the house's colours that no traveller has yet. */
const freeColour = ({ travellers }: Journey): string =>
  HOUSE_COLOURS.find((colour) => travellers.every((traveller) => traveller.colour !== colour)) ??
  HOUSE_COLOURS[travellers.length % HOUSE_COLOURS.length]!

/** The name shown for a traveller without one. */
export const nameOfTraveller = ({ travellers }: Pick<Journey, 'travellers'>, { id, name }: Traveller): string =>
  name || `Traveller ${travellers.findIndex((traveller) => traveller.id === id) + 1}`

/** Adds a traveller that has no trip yet. */
export const addTraveller = (journey: Journey, id: string): Journey => ({
  ...journey,
  travellers: [...journey.travellers, travellerSchema.parse({ id, colour: freeColour(journey), visits: [], legs: [] })],
})

/** Adds a traveller who makes the same trip over the same stops, in a colour of its own. `legIds` has an id for each leg. */
export function duplicateTraveller(journey: Journey, who: string, id: string, legIds: readonly string[]): Journey {
  const model = travellerOf(journey, who)
  const copy: Traveller = {
    ...model,
    id,
    name: model.name && `${model.name.slice(0, 55)} copy`,
    legs: model.legs.map((leg, i) => ({ ...leg, id: legIds[i]! })),
  }
  const at = journey.travellers.indexOf(model) + 1
  const travellers = [...journey.travellers.slice(0, at), copy, ...journey.travellers.slice(at)]
  return colourTraveller({ ...journey, travellers }, id, freeColour(journey))
}

/** Removes a traveller, with the stops that nobody else visits. The last traveller stays. */
export function removeTraveller(journey: Journey, who: string): Journey {
  if (journey.travellers.length === 1) return journey
  return produce(journey, (draft) => {
    draft.travellers = draft.travellers.filter((traveller) => traveller.id !== who)
    // What told of it tells of the first one from then on.
    for (const { content } of draft.captions) if ('traveller' in content && content.traveller === who) content.traveller = null
    dropUnvisited(draft)
  })
}

/** Moves a traveller to another place in the order: later ones lie over earlier ones. */
export function moveTraveller(journey: Journey, from: number, to: number): Journey {
  const travellers = [...journey.travellers]
  const [moved] = travellers.splice(from, 1)
  if (!moved || to < 0 || to > travellers.length) return journey
  travellers.splice(to, 0, moved)
  return { ...journey, travellers }
}

/** Gives a traveller a colour, and with it all its ink and its vehicles. */
export function colourTraveller(journey: Journey, who: string, colour: string): Journey {
  return produce(journey, (draft) => {
    const traveller = travellerOf(draft, who)
    traveller.colour = colour
    for (const { ink, vehicle, changes } of traveller.legs) {
      ink.colour = colour
      for (const each of [vehicle, ...changes.map((change) => change.vehicle)]) if (each?.kind === 'catalogue') each.colour = colour
    }
  })
}

/** Changes the given fields of a traveller. */
export const editTraveller = (
  journey: Journey,
  who: string,
  patch: Partial<
    Pick<Traveller, 'name' | 'shown' | 'startDelay' | 'atEnd' | 'enters' | 'changes' | 'leaves' | 'entersIn' | 'changesIn' | 'leavesIn'>
  >,
): Journey =>
  produce(journey, (draft) => {
    Object.assign(travellerOf(draft, who), patch)
  })
