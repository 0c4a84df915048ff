import type { Itinerary } from '../pace/schedule'
import type { Traveller } from './schema'

/** The input of the schedule for a traveller. `lengths` are those of the legs' courses in gu; they only affect how free time is shared. */
export const itineraryOf = ({ startDelay, visits, legs }: Traveller, lengths?: readonly number[]): Itinerary => ({
  startDelay,
  layovers: visits.map((visit) => visit.layover),
  legs: legs.map(({ travel }, i) => ({ travel, length: lengths?.[i] ?? 1 })),
})
