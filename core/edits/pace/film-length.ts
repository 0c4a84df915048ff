import { greatest } from '../../geometry/extremes'
import { produce } from 'immer'
import { JourneyError } from '../../error'
import { scheduleOf, timedItinerary } from '../../trips/compile-traveller'
import { itineraryOf } from '../../journey/itinerary'
import { travellerOf } from '../../journey/lookup'
import type { Journey, Traveller } from '../../journey/schema'
import { LIMITS } from '../../journey/schema'
import { naturalTotal, shortestTotal } from '../../pace/schedule'

/** Changes to the film's length, and what makes times fit into it: pure functions, journey in, journey out, as in journey.ts. */

/** Sets the film's length. */
export const setSeconds = (journey: Journey, seconds: number): Journey => ({ ...journey, seconds, legSeconds: null })

/** Lets the film be as long as its trips need, with so many seconds for an automatic leg on average; null keeps its length. */
export const setLegSeconds = (journey: Journey, legSeconds: number | null): Journey => withOwnLength({ ...journey, legSeconds })

/** Seconds that automatic legs take on average now, to a tenth; 3.5 where there is none (common practice, no source). */
export function meanLegSeconds(journey: Journey): number {
  const taken = journey.travellers.flatMap((traveller) => {
    const { visits } = scheduleOf(journey, traveller)
    return traveller.legs.flatMap(({ travel }, i) => (travel === null ? [visits[i + 1]!.arrive - visits[i]!.leave] : []))
  })
  const [numerator, denominator] = journey.frame.rate.split('/').map(Number) as [number, number]
  const mean = (taken.reduce((a, b) => a + b, 0) * denominator) / numerator / taken.length
  return taken.length === 0 ? 3.5 : Math.max(0.3, Math.round(mean * 10) / 10)
}

/** The same journey with the length that its trips need, if its film is to be as long as that. @throws JourneyError if that is longer than a film may be */
export function withOwnLength(journey: Journey): Journey {
  const { legSeconds, travellers, frame } = journey
  if (legSeconds === null) return journey
  const needed = Math.max(
    1,
    greatest(travellers.map((traveller) => naturalTotal(timedItinerary(journey, traveller), legSeconds, frame.rate))),
  )
  const seconds = Math.ceil(needed * 100 - 1e-6) / 100
  if (seconds > LIMITS.seconds)
    throw new JourneyError(
      `The film would be ${Math.round(seconds)} s long, and none may be longer than ${LIMITS.seconds} s: let its legs take less time.`,
    )
  return seconds === journey.seconds ? journey : { ...journey, seconds }
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

/** The shortest travel time that can be set, in seconds. */
export const SHORTEST_SET = 0.1

/** Changes the film's length, and all set times in proportion. */
export function scaleTimes(journey: Journey, seconds: number): Journey {
  const factor = seconds / journey.seconds
  const scaled = (value: number) => Math.round(value * factor * 1e4) / 1e4
  return produce(journey, (draft) => {
    draft.seconds = seconds
    for (const traveller of draft.travellers) {
      traveller.startDelay = scaled(traveller.startDelay)
      for (const visit of traveller.visits) for (const time of TIMES_OF_VISIT) if (visit[time] !== null) visit[time] = scaled(visit[time])
      for (const leg of traveller.legs) if (leg.travel !== null) leg.travel = Math.max(SHORTEST_SET, scaled(leg.travel))
    }
  })
}

const TIMES_OF_VISIT = ['layover', 'arriveAt', 'leaveAt'] as const

/** The same journey with a film long enough for all set times; undefined if no film may be as long, or none would do. */
export function withFilmForAll(journey: Journey): Journey | undefined {
  const needed = tried(() =>
    Math.max(0, greatest(journey.travellers.map((traveller) => shortestTotal(itineraryOf(traveller), journey.frame.rate)))),
  )
  if (needed === undefined) return undefined
  const seconds = Math.max(journey.seconds, Math.ceil(needed * 10) / 10)
  return seconds > LIMITS.seconds ? undefined : { ...journey, seconds }
}

/** The same journey without arrivals and departures that are held. */
const withNothingHeld = (journey: Journey): Journey =>
  withTravellers(journey, ({ visits }) => {
    for (const visit of visits) visit.arriveAt = visit.leaveAt = null
  })

/** The same journey without set times, in a film that is long enough for all stops. */
export const withAutomaticTimes = (journey: Journey): Journey | undefined =>
  withFilmForAll(
    withTravellers(withNothingHeld(journey), (traveller) => {
      traveller.startDelay = 0
      for (const visit of traveller.visits) visit.layover = null
      for (const leg of traveller.legs) leg.travel = null
    }),
  )

const withTravellers = (journey: Journey, change: (traveller: Traveller) => void): Journey =>
  produce(journey, (draft) => draft.travellers.forEach(change))

/** A way to make times fit that do not, and the journey in which they do. */
export interface TimesFix {
  title: string
  journey: Journey
}

/** What makes the times of a journey fit that do not: the gentlest way first. @param before the journey as it was when they did */
export function fixesOfTimes(journey: Journey, before: Journey): TimesFix[] {
  const { seconds } = journey
  const longer = withFilmForAll(journey)
  const found: (TimesFix | undefined)[] = [
    longer && longer.seconds > seconds
      ? { title: `Make the film ${longer.seconds} s long`, journey: { ...longer, legSeconds: null } }
      : undefined,
    longer && longer.seconds > seconds
      ? {
          title: `Scale the set times to ${Number(seconds.toFixed(2))} s`,
          journey: scaleTimes({ ...journey, seconds: Math.max(before.seconds, longer.seconds) }, seconds),
        }
      : undefined,
    { title: 'Hold no arrivals and departures', journey: withNothingHeld(journey) },
  ]
  const automatic = withAutomaticTimes(journey)
  if (automatic) found.push({ title: 'Make all times automatic', journey: automatic })
  const fits = (fix: TimesFix | undefined): fix is TimesFix =>
    fix !== undefined && tried(() => fix.journey.travellers.forEach((traveller) => scheduleOf(fix.journey, traveller)) ?? true) === true
  return found.filter(fits).slice(0, 3)
}

function tried<T>(run: () => T): T | undefined {
  try {
    return run()
  } catch (error) {
    if (error instanceof JourneyError) return undefined
    throw error
  }
}
