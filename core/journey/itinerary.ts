import type { Itinerary } from '../pace/schedule'
import { sum } from '../pace/share-out'
import type { Leg, Traveller } from './schema'

/** The input of the schedule for a traveller. `weights` are the legs' shares of free time; without them all have the same. */
export const itineraryOf = ({ startDelay, visits, legs }: Traveller, weights?: readonly number[]): Itinerary => ({
  startDelay,
  layovers: visits.map(({ layover }) => layover),
  held: visits.map(({ arriveAt, leaveAt }) => ({ arrive: arriveAt, leave: leaveAt })),
  legs: legs.map((leg, i) => ({ travel: leg.travel, rests: restsOn(leg), weight: weights?.[i] ?? 1 })),
})

/** Seconds that a leg rests on the way. */
const restsOn = ({ paceMarks }: Pick<Leg, 'paceMarks'>): number => sum(paceMarks.map((mark) => (mark.kind === 'wait' ? mark.seconds : 0)))
