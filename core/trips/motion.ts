import { pointAt } from '../geometry/course'
import type { Point } from '../geometry/point'
import { overshoot, smooth } from '../pace/easing'
import type { Vehicle } from '../dress/vehicle'
import { sameVehicle } from '../dress/vehicle'
import type { CompiledLeg, CompiledTraveller, Ride } from './compiled'
import { lengthAt, rideAt } from './compiled'
import type { Pose } from './heading'
import { poseOf } from './heading'
import type { Liveliness } from './liveliness'
import { livelinessOf } from './liveliness'

/** How long the last vehicle stays after its arrival before it leaves, in seconds. */
const REST = 0.25

/** How long vehicles take to come, to change and to leave, in seconds, where nothing else is said: at stops one fades out and the next one in, or pops up; on the way one fades into the next. */
export const USUAL_VEHICLE = { enters: 0.35, fades: 0.25, pops: 0.35, leaves: 0.4, fadesOnTheWay: 0.4 } as const

/** At the top of its flight a vehicle looks larger by this share. */
export const CLIMB = 0.28

/** Where a traveller is: on which leg (the one just travelled, while resting), how far along it, and the vehicle there. */
export interface Motion {
  leg: number
  /** Ground units along that leg's course. */
  s: number
  /** Ground units along the whole trip. */
  travelled: number
  position: Point
  /** Radians, 0 to the right, clockwise positive. */
  heading: number
  resting: boolean
  /** What rides there: mostly one vehicle, two while one gives way to the other. */
  vehicles: VehicleState[]
}

interface VehicleState extends Pose, Liveliness {
  leg: number
  vehicle: Vehicle
  /** Whether it is the one that gives way to another. */
  isGoing: boolean
  /** 0..1 */
  opacity: number
  /** Of its size. */
  scale: number
  /** 0 on the ground, 1 at the top of a usual flight. */
  altitude: number
}

/** Motion of a traveller at time t (seconds); a pure function of t. Undefined before the traveller appears, and without legs. */
export function motionAt(compiled: CompiledTraveller, t: number, lastTime: number): Motion | undefined {
  const { legs, visits } = compiled
  if (legs.length === 0 || t < visits[0]!.arrive) return undefined
  const next = legs.findIndex((leg) => t < leg.arrive)
  const i = next === -1 ? legs.length - 1 : next
  const leg = legs[i]!
  const travelledBefore = legs.slice(0, i).reduce((sum, l) => sum + l.course.length, 0)
  if (t >= leg.depart && next !== -1) {
    const s = lengthAt(leg, t)
    return {
      leg: i,
      s,
      travelled: travelledBefore + s,
      position: pointAt(leg.course, s),
      heading: rideAt(leg, s).stretch.heading(t),
      resting: false,
      vehicles: ridersAt(compiled, i, s, t),
    }
  }
  return next === -1 ? resting(compiled, i, t, lastTime) : resting(compiled, i - 1, t, lastTime)
}

/** How a vehicle is seen while it comes or goes. */
interface Showing {
  opacity: number
  scale: number
  isGoing?: boolean
}

const WHOLE: Showing = { opacity: 1, scale: 1 }

/** A vehicle of leg `i` at a length of its course, as a list that may be empty. */
function stateOn(
  leg: CompiledLeg,
  i: number,
  ride: Ride,
  s: number,
  t: number,
  { opacity, scale, isGoing = false }: Showing,
): VehicleState[] {
  const { course, patternZoom } = leg
  const { vehicle, stretch } = ride
  if (!vehicle || opacity <= 0 || scale <= 0) return []
  const { posture, size } = vehicle
  const share = course.length > 0 ? s / course.length : 0
  const lengths = (gu: number) => (gu * patternZoom) / size
  const lively = livelinessOf(vehicle, lengths(s), lengths(course.length - s), t)
  const pose = poseOf(posture, stretch.heading(t), stretch.left(t), stretch.lean(t))
  return [
    {
      leg: i,
      vehicle,
      ...lively,
      ...pose,
      rotation: pose.rotation + lively.roll,
      isGoing,
      opacity,
      scale,
      altitude: vehicle.kind === 'catalogue' && vehicle.medium === 'air' && share < 1 ? vehicle.altitude * Math.sin(Math.PI * share) : 0,
    },
  ]
}

/** The vehicles on leg `i`: one, or two while one gives way to the other. */
function ridersAt(compiled: CompiledTraveller, i: number, s: number, t: number): VehicleState[] {
  const leg = compiled.legs[i]!
  const { rides } = leg
  const now = rides.indexOf(rideAt(leg, s))
  const ride = rides[now]!
  const next = rides[now + 1]
  const before = rides[now - 1]
  const on = (which: Ride, showing: Showing) => stateOn(leg, i, which, s, t, showing)
  // A fade is half over at its mark.
  const coming = next?.seconds ?? USUAL_VEHICLE.fadesOnTheWay
  if (next?.how === 'fade' && t > next.at - coming / 2) {
    const u = smooth((t - (next.at - coming / 2)) / coming)
    return [...on(ride, { opacity: 1 - u, scale: 1, isGoing: true }), ...on(next, { opacity: u, scale: 1 })]
  }
  if (!before || ride.how === 'cut') return on(ride, WHOLE)
  if (ride.how === 'pop') return on(ride, popped((t - ride.at) / (ride.seconds ?? USUAL_VEHICLE.pops)))
  const fade = ride.seconds ?? USUAL_VEHICLE.fadesOnTheWay
  const u = smooth((t - (ride.at - fade / 2)) / fade)
  return u < 1 ? [...on(before, { opacity: 1 - u, scale: 1, isGoing: true }), ...on(ride, { opacity: u, scale: 1 })] : on(ride, WHOLE)
}

/** @param u the share of its coming, from 0 on */
const popped = (u: number): Showing => (u >= 1 ? WHOLE : { opacity: smooth(3 * u), scale: overshoot(Math.max(0, u)) })

/** At the stop after leg `i` (or, with -1, at the first stop before departure). */
function resting(compiled: CompiledTraveller, i: number, t: number, lastTime: number): Motion {
  const { legs, visits, traveller } = compiled
  const before = legs[i]
  const after = legs[i + 1]
  const { arrive, leave, stop } = visits[i + 1]!
  const base = {
    leg: Math.max(i, 0),
    s: before ? before.course.length : 0,
    travelled: legs.slice(0, i + 1).reduce((sum, l) => sum + l.course.length, 0),
    position: stop.at,
    resting: true,
  }
  const waiting = (showing: Showing): Motion => {
    const ride = after!.rides[0]!
    return { ...base, heading: ride.stretch.heading(t), vehicles: stateOn(after!, i + 1, ride, 0, t, showing) }
  }
  const staying = (showing: Showing): Motion => {
    const ride = before!.rides.at(-1)!
    return { ...base, heading: ride.stretch.heading(t), vehicles: stateOn(before!, i, ride, before!.course.length, t, showing) }
  }

  if (!before) return waiting(enteringAt(compiled, t))
  if (!after) {
    if (traveller.atEnd === 'stays' || traveller.leaves === 'none') return staying({ ...WHOLE, opacity: stays(compiled, t, lastTime) })
    const { leavesIn = USUAL_VEHICLE.leaves } = traveller
    const end = Math.min(arrive + REST + leavesIn, lastTime)
    const left = 1 - smooth(Math.max(0, t - (end - leavesIn)) / leavesIn)
    return staying(traveller.leaves === 'fade' ? { opacity: left, scale: 1 } : { opacity: smooth(3 * left), scale: left })
  }
  if (sameVehicle(before.rides.at(-1)!.vehicle, after.rides[0]!.vehicle)) return staying(WHOLE)
  const middle = (arrive + leave) / 2
  const isBefore = t < middle
  switch (traveller.changes) {
    case 'cut':
      return isBefore ? staying(WHOLE) : waiting(WHOLE)
    case 'pop': {
      const moment = Math.min(traveller.changesIn ?? USUAL_VEHICLE.pops, (leave - arrive) / 2)
      return isBefore ? staying(WHOLE) : waiting(moment > 0 ? popped((t - middle) / moment) : WHOLE)
    }
    case 'fade': {
      // One after the other, as they may face different ways.
      const swap = Math.min(traveller.changesIn ?? USUAL_VEHICLE.fades, (leave - arrive) / 2)
      return isBefore
        ? staying({ opacity: smooth((middle - t) / swap), scale: 1 })
        : waiting({ opacity: smooth((t - middle) / swap), scale: 1 })
    }
    default:
      return traveller.changes satisfies never
  }
}

/** Whether the last vehicle is still there: it is gone at once where it leaves without a fade. */
function stays({ traveller, visits }: CompiledTraveller, t: number, lastTime: number): number {
  return traveller.atEnd === 'stays' || t < Math.min(visits.at(-1)!.arrive + REST + (traveller.leavesIn ?? USUAL_VEHICLE.leaves), lastTime)
    ? 1
    : 0
}

/** How the first vehicle is seen before it departs. */
function enteringAt({ traveller, visits }: CompiledTraveller, t: number): Showing {
  const { arrive, leave } = visits[0]!
  const moment = Math.min(traveller.entersIn ?? USUAL_VEHICLE.enters, leave - arrive)
  const u = moment > 0 ? (t - arrive) / moment : 1
  switch (traveller.enters) {
    case 'none':
      return WHOLE
    case 'fade':
      return { opacity: smooth(u), scale: 1 }
    case 'pop':
      return popped(u)
    default:
      return traveller.enters satisfies never
  }
}
