import type { Projection } from '../camera/projection'
import { seenDirection } from '../camera/projection'
import { pointAt } from '../geometry/course'
import type { Point } from '../geometry/point'
import { smooth } from '../pace/easing'
import { artworkOf } from '../vehicles/catalogue'
import type { CompiledLeg, CompiledTraveller, CompiledVisit } from './compiled'
import { lengthAt } from './compiled'
import type { Pose } from './heading'
import { inkGapOf, poseOf } from './heading'
import { sameVehicle } from './stretch'

/** How long it takes a vehicle to be replaced by another, or the ink to catch up with it, in seconds. */
const SWAP = 0.25
const SETTLE = 0.3
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
  /** 0..1 */
  opacity: number
  /** 0 on the ground, 1 at the top of a flight. */
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

function stateOn({ leg, course, stretch }: CompiledLeg, i: number, s: number, t: number, opacity: number): VehicleState | undefined {
  const choice = leg.vehicle
  if (!choice || opacity <= 0) return undefined
  const artwork = artworkOf(choice.artwork)
  const share = course.length > 0 ? s / course.length : 0
  return {
    leg: i,
    ...poseOf(artwork, stretch.heading(t), stretch.left(t), stretch.lean(t)),
    opacity,
    altitude: artwork.flies && share < 1 ? Math.sin(Math.PI * share) : 0,
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
  if (sameVehicle(before.leg.vehicle, after.leg.vehicle)) return staying(1)
  const middle = (arrive + leave) / 2
  const swap = Math.min(SWAP, (leave - arrive) / 2)
  return t < middle ? staying(smooth((middle - t) / swap)) : waiting(smooth((t - middle) / swap))
}

/**
 * Length of leg `i`'s ink at time t: 0 before departure, then up to a distance behind the vehicle, so that the line ends under it; after
 * arrival it catches up with the stop, within a moment where the traveller rests, and with the vehicle's going where it passes through.
 * @param projection of the camera's view at that time
 */
export function inkLengthAt({ legs, visits }: CompiledTraveller, i: number, t: number, lastTime: number, projection: Projection): number {
  const leg = legs[i]!
  const full = leg.course.length
  if (t < leg.depart) return 0
  if (t >= settledBy(legs, visits, i, lastTime)) return full
  const behind = behindAt(leg, Math.min(t, leg.arrive), projection)
  if (t < leg.arrive) return Math.max(0, lengthAt(leg, t) - behind)
  const next = legs[i + 1]
  const { arrive, leave } = visits[i + 1]!
  if (next && arrive === leave) return Math.min(full, full - behind + lengthAt(next, t))
  return full - behind * (1 - smooth((t - arrive) / Math.min(SETTLE, (next ? leave : lastTime) - arrive)))
}

/** When the ink of leg `i` has reached its stop: soon after arrival, or where the traveller passes through, at the end of the next leg at the latest. */
function settledBy(legs: readonly CompiledLeg[], visits: readonly CompiledVisit[], i: number, lastTime: number): number {
  const next = legs[i + 1]
  const { arrive, leave } = visits[i + 1]!
  return next && arrive === leave ? next.arrive : Math.min(arrive + SETTLE, next ? leave : lastTime)
}

/** Ground units between the vehicle and the head of the ink behind it at time t. */
function behindAt(timed: CompiledLeg, t: number, projection: Projection): number {
  const { leg, course, stretch } = timed
  if (!leg.vehicle) return 0
  const artwork = artworkOf(leg.vehicle.artwork)
  const onGround = leg.vehicle.size / projection.view.zoom
  if (artwork.view === 'above') return Math.min(course.length, artwork.inkGap * onGround)
  // An upright vehicle covers the more ground the flatter it is looked at.
  const at = pointAt(course, lengthAt(timed, t))
  const { direction, length } = seenDirection(projection, at, stretch.heading(t))
  const share = inkGapOf(artwork, direction, stretch.left(t), stretch.lean(t))
  return Math.min(course.length, (share * onGround * projection.depthScale(at)) / Math.max(length, LEAST_SEEN))
}

/** A direction that is shortened to less than this share counts as shortened to it. */
const LEAST_SEEN = 0.1
