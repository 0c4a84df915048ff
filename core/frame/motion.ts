import { pointAt } from '../geometry/course'
import type { Point } from '../geometry/point'
import { smooth } from '../pace/easing'
import type { Vehicle } from '../vehicles/vehicle'
import { sameVehicle } from '../vehicles/vehicle'
import type { CompiledLeg, CompiledTraveller } from './compiled'
import { lengthAt } from './compiled'
import type { Pose } from './heading'
import { poseOf } from './heading'

/** How long it takes a vehicle to be replaced by another, or to leave at the end of its trip, in seconds. */
const SWAP = 0.25
const LEAVE = 0.4

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
  vehicle: VehicleState | undefined
}

export interface VehicleState extends Pose {
  leg: number
  vehicle: Vehicle
  /** 0..1 */
  opacity: number
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
      heading: leg.stretch.heading(t),
      resting: false,
      vehicle: stateOn(leg, i, s, t, 1),
    }
  }
  return next === -1 ? resting(compiled, i, t, lastTime) : resting(compiled, i - 1, t, lastTime)
}

function stateOn({ vehicle, course, stretch }: CompiledLeg, i: number, s: number, t: number, opacity: number): VehicleState | undefined {
  if (!vehicle || opacity <= 0) return undefined
  const { posture } = vehicle
  const share = course.length > 0 ? s / course.length : 0
  return {
    leg: i,
    vehicle,
    ...poseOf(posture, stretch.heading(t), stretch.left(t), stretch.lean(t)),
    opacity,
    altitude: vehicle.kind === 'catalogue' && posture.flies && share < 1 ? vehicle.altitude * Math.sin(Math.PI * share) : 0,
  }
}

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
  const waiting = (opacity: number) => ({ ...base, heading: after!.stretch.heading(t), vehicle: stateOn(after!, i + 1, 0, t, opacity) })
  const staying = (opacity: number) => ({
    ...base,
    heading: before!.stretch.heading(t),
    vehicle: stateOn(before!, i, before!.course.length, t, opacity),
  })

  if (!before) return waiting(1)
  if (!after) {
    if (traveller.atEnd === 'stays') return staying(1)
    const end = Math.min(arrive + SWAP + LEAVE, lastTime)
    return staying(1 - smooth(Math.max(0, t - (end - LEAVE)) / LEAVE))
  }
  if (sameVehicle(before.vehicle, after.vehicle)) return staying(1)
  const middle = (arrive + leave) / 2
  const swap = Math.min(SWAP, (leave - arrive) / 2)
  return t < middle ? staying(smooth((middle - t) / swap)) : waiting(smooth((t - middle) / swap))
}
