import { turnBetween } from '../geometry/angle'
import type { VehicleChoice } from '../journey/schema'
import { smooth } from '../pace/easing'
import type { CompiledVisit, Stretch, TimedLeg } from './compiled'
import { lengthAt } from './compiled'
import { headingAt, headsLeft, leanOf } from './heading'
import { turning } from './turning'

/** Seconds in which a vehicle that rests turns towards its next leg. */
const TURN = 0.6

/** Whether two legs are travelled by what looks like the same vehicle. */
export const sameVehicle = (a: VehicleChoice | null, b: VehicleChoice | null): boolean =>
  a === b || (a !== null && b !== null && a.artwork === b.artwork && a.colour === b.colour && a.size === b.size)

/** The stretch that each of a traveller's legs is part of. @param rate frames a second */
export function stretchesOf(legs: readonly TimedLeg[], visits: readonly CompiledVisit[], rate: number): Stretch[] {
  const stretches: Stretch[] = []
  let start = 0
  while (start < legs.length) {
    let end = start + 1
    while (end < legs.length && sameVehicle(legs[start]!.leg.vehicle, legs[end]!.leg.vehicle)) end++
    const stretch = stretchOver(legs.slice(start, end), visits.slice(start, end + 1), rate)
    for (; start < end; start++) stretches.push(stretch)
  }
  return stretches
}

interface Spot {
  heading: number
  left: boolean
  lean: number
}

function stretchOver(legs: readonly TimedLeg[], visits: readonly CompiledVisit[], rate: number): Stretch {
  const spotOn = (leg: TimedLeg, s: number): Spot => {
    const heading = headingAt(leg.run, leg.runOffset + s)
    const left = headsLeft(leg.run, leg.runOffset + s)
    return { heading, left, lean: leanOf(heading, left) }
  }
  /** The direction of the vehicle from its course alone. */
  const spotAt = (t: number): Spot => {
    const next = legs.findIndex((leg) => t < leg.arrive)
    const leg = legs[next]
    const before = legs[next === -1 ? legs.length - 1 : next - 1]
    if (!leg) return spotOn(before!, before!.course.length)
    if (t >= leg.depart || !before) return spotOn(leg, lengthAt(leg, t))
    return turningRound(spotOn(before, before.course.length), spotOn(leg, 0), visits[next]!, t)
  }
  const [from, to] = [visits[0]!.arrive, visits.at(-1)!.leave]
  const cuts = legs.flatMap(cutsOf)
  return {
    heading: turning((t) => spotAt(t).heading, from, to, rate, cuts),
    lean: turning((t) => spotAt(t).lean, from, to, rate, cuts),
    left: (t) => spotAt(t).left,
  }
}

/** At a stop between two legs the vehicle turns just before it goes on. A side view cannot be half turned round: it faces the new way as soon as it begins to turn. */
function turningRound(arrived: Spot, departing: Spot, { arrive, leave }: CompiledVisit, t: number): Spot {
  const turn = Math.min(TURN, leave - arrive)
  const u = smooth((t - (leave - turn)) / turn)
  return {
    heading: arrived.heading + turnBetween(arrived.heading, departing.heading) * u,
    left: u > 0 ? departing.left : arrived.left,
    lean: arrived.lean + (departing.lean - arrived.lean) * u,
  }
}

/** The moments at which a leg's course jumps, to a fraction of a frame. */
function cutsOf(leg: TimedLeg): number[] {
  return leg.course.breaks.map((point) => {
    const s = leg.course.lengths[point]!
    let [low, high] = [leg.depart, leg.arrive]
    for (let i = 0; i < 30; i++) {
      const middle = (low + high) / 2
      if (lengthAt(leg, middle) < s) low = middle
      else high = middle
    }
    return high
  })
}
