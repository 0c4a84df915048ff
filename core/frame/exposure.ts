import { radians, turnBetween } from '../geometry/angle'
import { clamp } from '../geometry/clamp'
import { pointAt } from '../geometry/course'
import type { Point } from '../geometry/point'
import { distance } from '../geometry/point'
import type { Projection } from '../camera/projection-type'
import { projectionOf } from '../camera/projection'
import { cutsOf } from '../camera/view-track'
import { framesPerSecond } from '../pace/rate'
import type { CompiledJourney } from '../trips/compiled'
import type { Frame, FrameItem } from './frame'
import { itemName } from './frame'
import { frameAt } from './frame-at'

/** The most pictures that one of the film is the mean of. */
const MOST = 16

/** By how many reference pixels what moves fastest is further on from one of these pictures to the next, if that takes no more of them: more can be told apart (by eye). */
const STEP = 3

/**
 * What is seen while the shutter is open about a time: frames at even steps, whose mean in linear light is the film's picture then. It is a single one where
 * the shutter is off, or nothing moves by more than can be seen. What stands in the frame and not on the ground, such as a running figure, is that of the time
 * itself in all of them.
 *
 * @param seconds held within the film
 */
export function exposureAt(compiled: CompiledJourney, seconds: number): Frame[] {
  const { journey, lastTime, views } = compiled
  const time = clamp(seconds, 0, lastTime)
  const frame = frameAt(compiled, time)
  if (journey.shutter === 0) return [frame]
  const open = journey.shutter / 360 / framesPerSecond(journey.frame.rate)
  const cuts = cutsOf(views)
  // What is seen after a cut is never mixed with what was before it.
  const from = Math.max(0, time - open / 2, cuts.findLast((cut) => cut <= time) ?? 0)
  const to = Math.min(lastTime, time + open / 2, (cuts.find((cut) => cut > time) ?? Infinity) - BEFORE)
  const [first, last] = [frameAt(compiled, from), frameAt(compiled, to)]
  const count = Math.min(MOST, Math.ceil((travel(first, frame) + travel(frame, last)) / STEP))
  if (count <= 1) return [frame]
  const inFrame = frame.items.filter(isInFrame)
  return Array.from({ length: count }, (_, i) => {
    const exposed = frameAt(compiled, from + ((i + 0.5) / count) * (to - from))
    return { ...exposed, items: [...exposed.items.filter((item) => !isInFrame(item)), ...inFrame] }
  })
}

/** So many seconds before a cut it has not been made yet. */
const BEFORE = 1e-6

/** What stands in the frame is over everything else: a frame's last items. */
const isInFrame = ({ kind }: FrameItem): boolean => kind === 'caption' || kind === 'credit'

/** Shares of the frame's width and height at which it is looked how far the ground moves. */
const LOOKED = [0.02, 0.5, 0.98]

/** How far what moves fastest is from where it was, in reference pixels. */
function travel(a: Frame, b: Frame): number {
  const [from, to] = [projectionOf(a.view, a.reference), projectionOf(b.view, b.reference)]
  const before = new Map(a.items.map((item) => [itemName(item), item]))
  let most = a.view === b.view ? 0 : groundTravel(from, to)
  for (const item of b.items) {
    const was = before.get(itemName(item))
    if (was) most = Math.max(most, itemTravel(was, item, from, to))
  }
  return most
}

function groundTravel(from: Projection, to: Projection): number {
  const { width, height } = from.reference
  let most = 0
  for (const x of LOOKED)
    for (const y of LOOKED) {
      const screen = { x: x * width, y: y * height }
      const ground = from.toGround(screen)
      if (ground) most = Math.max(most, distance(to.toScreen(ground), screen))
    }
  return most
}

/** How far something that moves on its own is from where it was. */
function itemTravel(was: FrameItem, item: FrameItem, from: Projection, to: Projection): number {
  const moved = (a: Point, b: Point) => distance(from.toScreen(a), to.toScreen(b))
  if (was.kind === 'vehicle' && item.kind === 'vehicle') {
    const { size } = item.vehicle
    const turned = Math.abs(turnBetween(was.rotation, item.rotation)) / 2
    return moved(was.at, item.at) + size * (turned + Math.abs(item.rise - was.rise) + Math.abs(item.scale - was.scale))
  }
  if (was.kind === 'ink' && item.kind === 'ink')
    return Math.max(
      moved(pointAt(was.course, was.head), pointAt(item.course, item.head)),
      moved(pointAt(was.course, was.tail), pointAt(item.course, item.tail)),
    )
  if (was.kind === 'postcard' && item.kind === 'postcard') {
    const turned = radians(Math.abs(item.turn - was.turn)) / 2
    return item.postcard.size * (turned + Math.abs(item.shift - was.shift) + Math.abs(item.scale - was.scale) / 2)
  }
  return 0
}
