import type { Projection } from '../camera/projection-type'
import { seenDirection } from '../camera/projection'
import { turnBetween } from '../geometry/angle'
import { pointAt } from '../geometry/course'
import { smooth } from '../pace/easing'
import type { Vehicle } from '../dress/vehicle'
import { sameVehicle } from '../dress/vehicle'
import type { CompiledVisit, Ride, Stretch, TimedLeg } from './compiled'
import { lengthAt, timeAt } from './compiled'
import type { Run } from './heading'
import { facesLeft, headingAt, leanOf, SMOOTHING, turnsRound } from './heading'
import { turning } from './turning'

/** Seconds in which a vehicle that rests turns towards its next leg. */
const TURN = 0.6

/** The rides of each leg of a traveller, with the stretches that they are part of. @param rate frames a second @param look the projection at a time */
export function stretchesOf(
  legs: readonly TimedLeg[],
  visits: readonly CompiledVisit[],
  rate: number,
  look: (time: number) => Projection,
): Ride[][] {
  const rides = legs.flatMap((leg, i) => leg.rides.map((ride) => ({ ride, leg: i })))
  const made: Ride[][] = legs.map(() => [])
  let start = 0
  while (start < rides.length) {
    const { vehicle } = rides[start]!.ride
    let end = start + 1
    while (end < rides.length && sameVehicle(vehicle, rides[end]!.ride.vehicle)) end++
    const [first, last] = [rides[start]!.leg, rides[end - 1]!.leg]
    const stretch = stretchOver(vehicle, legs.slice(first, last + 1), visits.slice(first, last + 2), rate, look)
    for (; start < end; start++) made[rides[start]!.leg]!.push({ ...rides[start]!.ride, stretch })
  }
  return made
}

interface Spot {
  /** On the ground. */
  heading: number
  left: boolean
  lean: number
}

/** When a vehicle seen from the side turns round during a run, in rising seconds. */
interface Sides {
  startsLeft: boolean
  flips: readonly number[]
}

function stretchOver(
  vehicle: Vehicle | null,
  legs: readonly TimedLeg[],
  visits: readonly CompiledVisit[],
  rate: number,
  look: (time: number) => Projection,
): Stretch {
  const isSideView = vehicle?.posture.view === 'side'
  const size = SMOOTHING * (vehicle?.size ?? 1)
  const headingOn = (leg: TimedLeg, s: number, t: number) => headingAt(leg.run, leg.runOffset + s, size / look(t).view.zoom)
  const seenOn = (leg: TimedLeg, s: number, t: number) => seenDirection(look(t), pointAt(leg.course, s), headingOn(leg, s, t)).direction
  const sides = new Map<Run, Sides>()
  const sidesOf = (run: Run): Sides => {
    let known = sides.get(run)
    if (!known) sides.set(run, (known = findSides(legs.filter((leg) => leg.run === run), rate, seenOn))) // prettier-ignore
    return known
  }
  const spotOn = (leg: TimedLeg, s: number, t: number): Spot => {
    const heading = headingOn(leg, s, t)
    if (!isSideView) return { heading, left: false, lean: 0 }
    const { startsLeft, flips } = sidesOf(leg.run)
    const left = flips.filter((flip) => flip <= t).length % 2 === 0 ? startsLeft : !startsLeft
    return {
      heading,
      left,
      lean: leanOf(seenDirection(look(t), pointAt(leg.course, s), heading).direction, left, vehicle.posture.mostLean),
    }
  }
  /** The direction of the vehicle from its course alone. */
  const spotAt = (t: number): Spot => {
    const next = firstAfter(legs, t)
    const leg = legs[next]
    const before = legs[next - 1]
    if (!leg) return spotOn(before!, before!.course.length, t)
    if (t >= leg.depart || !before) return spotOn(leg, lengthAt(leg, t), t)
    return turningRound(spotOn(before, before.course.length, t), spotOn(leg, 0, t), visits[next]!, t)
  }
  const [from, to] = [visits[0]!.arrive, visits.at(-1)!.leave]
  const cuts = legs.flatMap(cutsOf)
  return {
    heading: turning((t) => spotAt(t).heading, from, to, rate, cuts),
    lean: isSideView ? turning((t) => spotAt(t).lean, from, to, rate, cuts) : () => 0,
    left: (t) => spotAt(t).left,
  }
}

/** The index of the first leg that has not arrived yet at a time; that after the last one where all have. */
function firstAfter(legs: readonly TimedLeg[], t: number): number {
  let [low, high] = [0, legs.length]
  while (low < high) {
    const middle = (low + high) >> 1
    if (legs[middle]!.arrive > t) high = middle
    else low = middle + 1
  }
  return low
}

/** How often a run is examined for where its vehicle turns round, as a multiple of the frame rate. */
const PROBES_A_FRAME = 2

/** @param legs those of one run @param seenOn the direction in the frame on a leg at a length and a time */
function findSides(legs: readonly TimedLeg[], rate: number, seenOn: (leg: TimedLeg, s: number, t: number) => number): Sides {
  const [from, to] = [legs[0]!.depart, legs.at(-1)!.arrive]
  const startsLeft = facesLeft(seenOn(legs[0]!, 0, from))
  const flips: number[] = []
  let left = startsLeft
  const probes = Math.ceil((to - from) * rate * PROBES_A_FRAME)
  for (let i = 1; i <= probes; i++) {
    const t = from + ((to - from) * i) / probes
    const leg = legs[firstAfter(legs, t)] ?? legs.at(-1)!
    if (!turnsRound(seenOn(leg, lengthAt(leg, t), t), left)) continue
    flips.push(t)
    left = !left
  }
  return { startsLeft, flips }
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

/** The moments at which a leg's course is broken, to a fraction of a frame. */
const cutsOf = (leg: TimedLeg): number[] => leg.course.breaks.map((point) => timeAt(leg, leg.course.lengths[point]!))
