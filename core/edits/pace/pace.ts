import { produce } from 'immer'
import { clamp } from '../../geometry/clamp'
import { JourneyError } from '../../error'
import { scheduleOf } from '../../trips/compile-traveller'
import { travellerOf } from '../../journey/lookup'
import type { Journey, Share, Traveller } from '../../journey/schema'
import { frameTime } from '../../pace/rate'
import type { Visit } from '../../pace/schedule'
import { SHORTEST_SET, withOwnLength } from './film-length'

/** Changes to the times of a trip: pure functions, journey in, journey out, as in journey.ts. */

export const setShare = (journey: Journey, share: Partial<Share>): Journey => ({ ...journey, share: { ...journey.share, ...share } })

/** Sets the layover of the visit at an index of a traveller's itinerary, in seconds; null makes it automatic. */
export const setLayover = (journey: Journey, visit: number, layover: number | null, who: string): Journey =>
  withVisit(journey, visit, who, { layover })

/** Holds the arrival at a visit at a second of the film; null lets go of it. */
export const holdArrival = (journey: Journey, visit: number, arriveAt: number | null, who: string): Journey =>
  withVisit(journey, visit, who, { arriveAt })

/** Holds the departure from a visit at a second of the film; null lets go of it. */
export const holdDeparture = (journey: Journey, visit: number, leaveAt: number | null, who: string): Journey =>
  withVisit(journey, visit, who, { leaveAt })

function withVisit(journey: Journey, visit: number, who: string, values: Partial<Traveller['visits'][number]>): Journey {
  return produce(journey, (draft) => {
    const target = travellerOf(draft, who).visits[visit]
    if (target) Object.assign(target, values)
  })
}

/** A duration of a trip that can be set: from when to when it lasts, in frames, how it is set, and the visit whose times are the next to follow. */
interface Part {
  spanOf(visits: readonly Visit[]): { from: number; to: number }
  lasting(journey: Journey, seconds: number): Journey
  shortest: number
  next: number
}

const travelOf = (leg: number, who: string): Part => ({
  spanOf: (visits) => ({ from: visits[leg]!.leave, to: visits[leg + 1]!.arrive }),
  lasting: (journey, seconds) =>
    produce(journey, (draft) => {
      const target = travellerOf(draft, who).legs[leg]
      if (target) target.travel = seconds
    }),
  shortest: SHORTEST_SET,
  next: leg + 1,
})

const layoverOf = (visit: number, who: string): Part => ({
  spanOf: (visits) => ({ from: visits[visit]!.arrive, to: visits[visit]!.leave }),
  lasting: (journey, seconds) => setLayover(journey, visit, seconds, who),
  shortest: 0,
  next: visit + 1,
})

const rounded = (seconds: number): number => Math.round(seconds * 1e4) / 1e4

/**
 * Makes a leg arrive at a moment, when its end is dragged on the pace strip. Where the arrival is held it is held there; for the last leg the rest at the end
 * is set, as that begins where the leg ends; else its travel time. No other time is set.
 * @param arrive seconds of the film
 * @param shifts whether what follows is shifted as a whole, and the film gets longer or shorter with it; else the automatic times make room or fill it
 */
export function setArrival(journey: Journey, leg: number, arrive: number, who: string, shifts = false): Journey {
  const { visits } = travellerOf(journey, who)
  if (visits[leg + 1]?.arriveAt != null) return holdArrival(journey, leg + 1, rounded(Math.max(0, arrive)), who)
  if (shifts) return shifted(journey, travelOf(leg, who), arrive, who)
  if (leg === visits.length - 2) return setLayover(journey, leg + 1, Math.max(0, rounded(journey.seconds - arrive)), who)
  return dragged(journey, travelOf(leg, who), arrive, who)
}

/** Makes a traveller leave a visit at a moment, in the same way. */
export function setDeparture(journey: Journey, visit: number, leave: number, who: string, shifts = false): Journey {
  if (travellerOf(journey, who).visits[visit]?.leaveAt != null) return holdDeparture(journey, visit, rounded(Math.max(0, leave)), who)
  return (shifts ? shifted : dragged)(journey, layoverOf(visit, who), leave, who)
}

/** The same journey with the travel times of some legs of a traveller in the proportion in which they are, but of so many seconds together. */
export function setTravelOfAll(journey: Journey, ids: ReadonlySet<string>, seconds: number, who: string): Journey {
  const traveller = travellerOf(journey, who)
  const now = travelSeconds(journey, traveller)
  const all = traveller.legs.reduce((sum, { id }, i) => sum + (ids.has(id) ? now[i]! : 0), 0)
  return produce(journey, (draft) => {
    travellerOf(draft, who).legs.forEach((leg, i) => {
      if (ids.has(leg.id) && all > 0) leg.travel = Math.max(SHORTEST_SET, rounded((now[i]! * seconds) / all))
    })
  })
}

/** The seconds that each leg of a traveller takes now. */
function travelSeconds(journey: Journey, traveller: Traveller): number[] {
  const { visits } = scheduleOf(journey, traveller)
  return traveller.legs.map((_, i) => (visits[i + 1]!.arrive - visits[i]!.leave) * frameTime(1, journey.frame.rate))
}

/**
 * The journey with a duration that ends at a moment, and all that follows it shifted as a whole: the film is longer or shorter by as much, and so are the times
 * that are held later on.
 */
function shifted(journey: Journey, { spanOf, lasting, shortest, next }: Part, end: number, who: string): Journey {
  const frame = frameTime(1, journey.frame.rate)
  const { from, to } = spanOf(scheduleOf(journey, travellerOf(journey, who)).visits)
  const takes = Math.max(shortest, rounded(end - from * frame))
  const by = takes - (to - from) * frame
  const later = (time: number | null) => (time === null ? null : Math.max(0, rounded(time + by)))
  const longer = produce(journey, (draft) => {
    draft.seconds = rounded(draft.seconds + by)
    for (const visit of travellerOf(draft, who).visits.slice(next)) {
      visit.arriveAt = later(visit.arriveAt)
      visit.leaveAt = later(visit.leaveAt)
    }
  })
  return withOwnLength(lasting(longer, takes))
}

/**
 * The journey with the duration for which something ends at a moment, to a fraction of a frame. Automatic times change along with a duration, so
 * it is looked for: the longer it is, the later the end.
 */
function dragged(journey: Journey, { spanOf, lasting, shortest }: Part, end: number, who: string): Journey {
  const frame = frameTime(1, journey.frame.rate)
  const from = spanOf(scheduleOf(journey, travellerOf(journey, who)).visits).from * frame
  const at = (seconds: number) => lasting(journey, seconds)
  /** When that part ends, in seconds; Infinity if the film has no room for it. */
  const endOf = (of: Journey): number => {
    try {
      return spanOf(scheduleOf(of, travellerOf(of, who)).visits).to * frame
    } catch (error) {
      if (error instanceof JourneyError) return Infinity
      throw error
    }
  }
  let [low, high] = [shortest, Math.max(shortest, journey.seconds)]
  let [before, after] = [endOf(at(low)), endOf(at(high))]
  for (let i = 0; i < 24 && high - low > frame / 64; i++) {
    // The end follows the duration almost evenly: a guess on the line between the two is mostly close. Every third time the middle is taken, in case it is not.
    const isBetween = i % 3 < 2 && before < end && end < after && after < Infinity
    const guess = low + (isBetween ? clamp((end - before) / (after - before), 0.02, 0.98) : 0.5) * (high - low)
    const reached = endOf(at(guess))
    if (Math.abs(reached - end) < frame / 2) low = high = guess
    else if (reached > end) [high, after] = [guess, reached]
    else [low, before] = [guess, reached]
  }
  // Of the two neighbouring durations in whole frames, take the one whose end is nearer.
  const inFrames = [Math.floor(low / frame + 1e-6), Math.ceil(low / frame - 1e-6)].map((count) =>
    Math.max(shortest, rounded(count * frame)),
  )
  const off = (seconds: number) => Math.abs(endOf(at(seconds)) - end)
  const found = at(off(inFrames[0]!) <= off(inFrames[1]!) ? inFrames[0]! : inFrames[1]!)
  if (Math.abs(endOf(found) - end) < 1.5 * frame) return found
  // The end cannot be there: set the requested duration instead, or say why that is impossible.
  return at(Math.max(shortest, rounded(end - from)))
}
