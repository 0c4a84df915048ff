import type { Projection } from '../camera/projection-type'
import { seenDirection } from '../camera/projection'
import { clamp } from '../geometry/clamp'
import { pointAt } from '../geometry/course'
import type { Ink } from '../journey/schema'
import { remembered } from '../remembered'
import type { LineValues } from '../trips/values'
import { smooth } from '../pace/easing'
import type { CompiledLeg, CompiledTraveller, CompiledVisit } from '../trips/compiled'
import { lengthAt, rideAt } from '../trips/compiled'
import type { InkItem, PlannedItem } from './frame'
import { inkBehindOf } from '../trips/heading'

/** How long it takes the ink to catch up with the vehicle that has arrived, in seconds. */
const SETTLE = 0.3

/** How long it takes the last pieces of a pattern to settle after arrival, in seconds. */
const COME_WITHIN = 0.8

/** How long it takes a wake to catch up with a traveller who rests, in seconds. */
const WAKE_SETTLES = 0.9

/** How long a line fades in that does not come with its traveller, in seconds, where nothing else is said. */
export const USUAL_FADING_IN = 0.8

/** What becomes of a line after its leg begins this long after it is complete, in seconds. */
const AFTER_LAG = 0.4

/** A breath of the light takes so many seconds, and dims it by at most this share. */
const BREATH = 2.8
const DEEPEST_BREATH = 0.45

/** The speed of a bright spot, in reference pixels a second, and the pause before it runs again, in seconds. */
const SPARK_SPEED = 700
const SPARK_PAUSE = 0.6

/** A line of a leg: its traveller, the number of the leg, which of its lines it is, and its look. */
export interface LineOfLeg {
  compiled: CompiledTraveller
  i: number
  layer: number
  ink: Ink
  values: LineValues
  /** The size of what travels it, as a share of what is set: a line ends under its vehicle. */
  vehicleSize: number
}

/** A line's look as it is at a moment. */
const changedInk = remembered((ink: Ink, width: number, colour: string): Ink => ({ ...ink, width: ink.width * width, colour }))

/**
 * A line of a leg at time t; undefined where there is nothing to be seen of it.
 * @param projection of the camera's view at that time
 */
export function inkAt(line: LineOfLeg, t: number, lastTime: number, projection: Projection): InkItem | undefined {
  const { compiled, i, layer, values } = line
  const { width, colour } = values
  const isChanged = width !== 1 || colour !== null
  const ink = isChanged ? changedInk(line.ink, width, (layer === 0 ? colour : null) ?? line.ink.colour) : line.ink
  const timed = compiled.legs[i]!
  const { leg, course, patternZoom, depart, arrive } = timed
  const full = course.length
  if (t < depart || full === 0 || ink.line.kind === 'hidden' || width <= 0) return undefined
  const settled = settledBy(compiled.legs, compiled.visits, i, lastTime)
  const rests = t >= settled && t >= arrive + COME_WITHIN && values.isLast && restsAfterwards(ink)
  const known = rests ? resting.get(timed)?.[layer] : undefined
  if (known) return known
  const drawn = drawnAt(line, t, lastTime, projection)
  const over = overAt(ink, t, settled, lastTime)
  const tail = Math.max(drawn.tail, full * over.runOut)
  const { head } = drawn
  const opacity = ink.opacity * drawn.opacity * over.opacity * values.opacity
  if (head <= tail || opacity <= 0) return undefined
  const item: InkItem = {
    kind: 'ink',
    leg: leg.id,
    layer,
    course,
    tail,
    head,
    front: t < arrive ? head : rests ? Infinity : frontAfter(t - arrive, full),
    patternZoom,
    phase: ink.march === 0 ? 0 : (ink.march * t) / patternZoom,
    opacity,
    light: values.light * (ink.glow?.breathes ? 1 - DEEPEST_BREATH * (0.5 - 0.5 * Math.cos((2 * Math.PI * t) / BREATH)) : 1),
    spark: ink.glow?.spark ? sparkAt(timed, t, tail, head) : null,
    leads: t < arrive,
    ink,
  }
  if (rests) {
    const items = resting.get(timed) ?? []
    items[layer] = item
    resting.set(timed, items)
  }
  return item
}

/** Lines that have come to rest are the same item from then on: a journey has many of them. */
const resting = new WeakMap<CompiledLeg, InkItem[]>()

const restsAfterwards = ({ after, wake, march, glow }: Ink): boolean =>
  after.kind === 'stays' && wake === null && march === 0 && !glow?.breathes && !glow?.spark

/** Up to where pieces have come so many seconds after arrival: on from the end of the course, and beyond all bounds within COME_WITHIN, so that all settle. */
const frontAfter = (seconds: number, full: number): number =>
  seconds >= COME_WITHIN ? Infinity : full * (1 + (0.2 * seconds) / (COME_WITHIN - seconds))

/** The part of a leg's course that is still to be travelled at time t, if it is shown before. */
export function plannedAt(
  { compiled, i, layer, ink: { planned }, vehicleSize }: LineOfLeg,
  t: number,
  lastTime: number,
  projection: Projection,
): PlannedItem | undefined {
  const { leg, course, patternZoom } = compiled.legs[i]!
  if (!planned || course.length === 0) return undefined
  const from = inkLengthAt(compiled, i, t, lastTime, projection, vehicleSize)
  return from < course.length ? { kind: 'planned', leg: leg.id, layer, course, from, patternZoom, planned } : undefined
}

/** Which part of its course a line covers while it comes in, and how opaque it is. */
function drawnAt(line: LineOfLeg, t: number, lastTime: number, projection: Projection): { tail: number; head: number; opacity: number } {
  const { compiled, i, ink, vehicleSize } = line
  const timed = compiled.legs[i]!
  const { course, depart, arrive } = timed
  const full = course.length
  const { comes, comesIn = USUAL_FADING_IN } = ink
  switch (comes) {
    case 'faded':
      return { tail: 0, head: full, opacity: smooth((t - depart) / Math.min(comesIn, Math.max(arrive - depart, 1e-6))) }
    case 'from-middle': {
      const half = lengthAt(timed, t) / 2
      return { tail: full / 2 - half, head: full / 2 + half, opacity: 1 }
    }
    case 'drawn':
    case 'piece-by-piece':
    case 'popping': {
      const head = inkLengthAt(compiled, i, t, lastTime, projection, vehicleSize)
      return { tail: Math.min(head, Math.max(0, wakeTail(line, t))), head, opacity: 1 }
    }
    default:
      return comes satisfies never
  }
}

/**
 * Where the tail of a line is at time t if only a wake stays behind the traveller, which goes on over the next legs, and catches up where the traveller
 * rests; below 0 at first.
 */
function wakeTail({ compiled: { legs, visits }, i, ink: { wake } }: LineOfLeg, t: number): number {
  if (wake === null) return 0
  let travelled = 0
  let left = 1
  for (let k = i; k < legs.length && t > legs[k]!.depart; k++) {
    travelled += lengthAt(legs[k]!, t)
    const { arrive, leave } = visits[k + 1]!
    const rests = k === legs.length - 1 || leave > arrive
    if (rests) left = Math.min(left, 1 - smooth(clamp((t - arrive) / WAKE_SETTLES, 0, 1)))
  }
  return travelled - (left * wake) / legs[i]!.patternZoom
}

/** What has become of a line by time t, after it was complete: how opaque it still is, and which share has run out at its tail. */
function overAt({ after }: Ink, t: number, settled: number, lastTime: number): { opacity: number; runOut: number } {
  if (after.kind === 'stays') return { opacity: 1, runOut: 0 }
  const from = settled + AFTER_LAG
  // What there is no time for does not begin.
  const lasts = Math.min(after.seconds, lastTime - from)
  const u = lasts > 0 ? smooth(clamp((t - from) / lasts, 0, 1)) : 0
  switch (after.kind) {
    case 'dims':
      return { opacity: 1 - (1 - after.opacity) * u, runOut: 0 }
    case 'fades':
      return { opacity: 1 - u, runOut: 0 }
    case 'runs-out':
      return { opacity: 1, runOut: u }
    default:
      return after satisfies never
  }
}

/** Where the bright spot is; null while it is not on the line. */
function sparkAt({ course, depart, patternZoom }: CompiledLeg, t: number, tail: number, head: number): number | null {
  const speed = SPARK_SPEED / patternZoom
  const round = course.length / speed + SPARK_PAUSE
  const s = ((t - depart) % round) * speed
  return s >= tail && s <= head ? s : null
}

/**
 * Length of leg `i`'s ink at time t: 0 before departure, then up to a distance behind the vehicle, so that the line ends under it; after
 * arrival it catches up with the stop, within a moment where the traveller rests, and with the vehicle's going where it passes through.
 * @param projection of the camera's view at that time
 * @param vehicleSize the size of the vehicle then, as a share of what is set
 */
export function inkLengthAt(
  { legs, visits }: CompiledTraveller,
  i: number,
  t: number,
  lastTime: number,
  projection: Projection,
  vehicleSize = 1,
): number {
  const leg = legs[i]!
  const full = leg.course.length
  if (t < leg.depart) return 0
  if (t >= settledBy(legs, visits, i, lastTime)) return full
  const behind = Math.min(full, vehicleSize * behindAt(leg, Math.min(t, leg.arrive), projection))
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
  const { course } = timed
  const s = lengthAt(timed, t)
  const { vehicle, stretch } = rideAt(timed, s)
  if (!vehicle) return 0
  const { posture } = vehicle
  const onGround = vehicle.size / projection.view.zoom
  if (posture.view === 'above') return Math.min(course.length, posture.inkBehind * onGround)
  // An upright vehicle covers the more ground the flatter it is looked at.
  const at = pointAt(course, s)
  const { direction, length } = seenDirection(projection, at, stretch.heading(t))
  const share = inkBehindOf(posture, direction, stretch.left(t), stretch.lean(t))
  return Math.min(course.length, (share * onGround * projection.depthScale(at)) / Math.max(length, LEAST_SEEN))
}

/** A direction that is shortened to less than this share counts as shortened to it. */
const LEAST_SEEN = 0.1
