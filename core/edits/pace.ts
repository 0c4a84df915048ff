import { produce } from 'immer'
import type { Visit } from '../pace/schedule'
import { schedule, shortestTotal } from '../pace/schedule'
import { frameTime } from '../pace/rate'
import { JourneyError } from '../error'
import { travellerOf } from '../journey/lookup'
import { itineraryOf } from '../journey/itinerary'
import type { Journey } from '../journey/schema'
import { LIMITS } from '../journey/schema'

/** Changes to the timing: the film's length, travel times and layovers. Pure functions, journey in, journey out, as in journey.ts. */

export const setSeconds = (journey: Journey, seconds: number): Journey => ({ ...journey, seconds })

export const setShareExponent = (journey: Journey, shareExponent: number): Journey => ({ ...journey, shareExponent })

/** Sets the layover of the visit at an index of a traveller's itinerary, in seconds; null makes it automatic. */
export function setLayover(journey: Journey, visit: number, layover: number | null, who: string): Journey {
  return produce(journey, (draft) => {
    const target = travellerOf(draft, who).visits[visit]
    if (target) target.layover = layover
  })
}

/** The shortest travel time of a new leg for which the film grows, in seconds. */
const ROOM_FOR_LEG = 1

/** The same journey with room for a traveller's whole trip: the film grows if set times leave none for the others. */
export function withTimeForAll(journey: Journey, who: string): Journey {
  const itinerary = itineraryOf(travellerOf(journey, who))
  const { layovers, legs } = itinerary
  const isSet = legs.some((leg) => leg.travel !== null) || layovers.some((layover) => layover !== null)
  const shortest = shortestTotal(itinerary, journey.frame.rate)
  if (shortest <= journey.seconds) return journey
  const free = legs.filter((leg) => leg.travel === null).length
  // If no times are set, only the number of stops is to blame: give each a frame.
  const wanted = isSet ? shortest + free * ROOM_FOR_LEG : shortest
  return { ...journey, seconds: Math.min(LIMITS.seconds, Math.max(journey.seconds, Math.ceil(wanted * 10) / 10)) }
}

/** Changes the film's length, and all set times in proportion. */
export function scaleTimes(journey: Journey, seconds: number): Journey {
  const factor = seconds / journey.seconds
  const scaled = (value: number) => Math.round(value * factor * 1e4) / 1e4
  return produce(journey, (draft) => {
    draft.seconds = seconds
    for (const traveller of draft.travellers) {
      traveller.startDelay = scaled(traveller.startDelay)
      for (const visit of traveller.visits) if (visit.layover !== null) visit.layover = scaled(visit.layover)
      for (const leg of traveller.legs) if (leg.travel !== null) leg.travel = Math.max(SHORTEST_SET, scaled(leg.travel))
    }
  })
}

/** The same journey with a film long enough for all set times; undefined if no film may be as long. */
export function withFilmForAll(journey: Journey): Journey | undefined {
  const needed = Math.max(0, ...journey.travellers.map((traveller) => shortestTotal(itineraryOf(traveller), journey.frame.rate)))
  const seconds = Math.max(journey.seconds, Math.ceil(needed * 10) / 10)
  return seconds > LIMITS.seconds ? undefined : { ...journey, seconds }
}

/** The same journey without set times, in a film that is long enough for all stops. */
export function withAutomaticTimes(journey: Journey): Journey | undefined {
  return withFilmForAll(
    produce(journey, (draft) => {
      for (const traveller of draft.travellers) {
        traveller.startDelay = 0
        for (const visit of traveller.visits) visit.layover = null
        for (const leg of traveller.legs) leg.travel = null
      }
    }),
  )
}

/** The shortest travel time that can be set, in seconds. */
export const SHORTEST_SET = 0.1

/**
 * Sets a leg's travel time so that it arrives at a moment, when its end is dragged on the pace strip. No other time is set: the automatic ones
 * make room or fill it. For the last leg the rest at the end is set instead, as that begins where the leg ends.
 * @param lengths of all the traveller's legs, in gu
 * @param arrive seconds of the film
 */
export function setArrival(journey: Journey, leg: number, arrive: number, lengths: readonly number[], who: string): Journey {
  const { visits } = travellerOf(journey, who)
  if (leg === visits.length - 2) {
    const rest = Math.max(0, Math.round((journey.seconds - arrive) * 1e4) / 1e4)
    return setLayover(journey, leg + 1, rest, who)
  }
  const travelling = (travel: number) =>
    produce(journey, (draft) => {
      const target = travellerOf(draft, who).legs[leg]
      if (target) target.travel = travel
    })
  return dragged(journey, travelling, SHORTEST_SET, arrive, lengths, who, (visits) => ({
    from: visits[leg]!.leave,
    to: visits[leg + 1]!.arrive,
  }))
}

/** Sets a layover so that the traveller leaves at a moment, in the same way. */
export const setDeparture = (journey: Journey, visit: number, leave: number, lengths: readonly number[], who: string): Journey =>
  dragged(
    journey,
    (layover) => setLayover(journey, visit, layover, who),
    0,
    leave,
    lengths,
    who,
    (visits) => ({
      from: visits[visit]!.arrive,
      to: visits[visit]!.leave,
    }),
  )

/**
 * The journey with the duration for which something ends at a moment, to a fraction of a frame. Automatic times change along with a duration, so
 * it is found by bisection: the longer it is, the later the end.
 */
function dragged(
  journey: Journey,
  lasting: (seconds: number) => Journey,
  shortest: number,
  end: number,
  lengths: readonly number[],
  who: string,
  partOf: (visits: readonly Visit[]) => { from: number; to: number },
): Journey {
  const { rate } = journey.frame
  const frame = frameTime(1, rate)
  const part = (of: Journey) => {
    const { from, to } = partOf(schedule(itineraryOf(travellerOf(of, who), lengths), of.seconds, rate, of.shareExponent))
    return { from: from * frame, to: to * frame }
  }
  const now = part(journey)
  /** When that part ends, in seconds; Infinity if the film has no room for it. */
  const endOf = (of: Journey): number => {
    try {
      return part(of).to
    } catch (error) {
      if (error instanceof JourneyError) return Infinity
      throw error
    }
  }
  const isTooLong = (seconds: number) => endOf(lasting(seconds)) > end + frame / 2
  let [low, high] = [shortest, Math.max(shortest, journey.seconds)]
  for (let i = 0; i < 24 && high - low > frame / 64; i++) {
    const middle = (low + high) / 2
    if (isTooLong(middle)) high = middle
    else low = middle
  }
  // Of the two neighbouring durations in whole frames, take the one whose end is nearer.
  const inFrames = [Math.floor(low / frame + 1e-6), Math.ceil(low / frame - 1e-6)].map((count) =>
    Math.max(shortest, Math.round(count * frame * 1e4) / 1e4),
  )
  const off = (seconds: number) => Math.abs(endOf(lasting(seconds)) - end)
  const found = lasting(off(inFrames[0]!) <= off(inFrames[1]!) ? inFrames[0]! : inFrames[1]!)
  if (Math.abs(endOf(found) - end) < 1.5 * frame) return found
  // The end cannot be there: set the requested duration instead, or say why that is impossible.
  return lasting(Math.max(shortest, Math.round((end - now.from) * 1e4) / 1e4))
}
