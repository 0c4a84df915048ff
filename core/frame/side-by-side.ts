import type { Projection } from '../camera/projection-type'
import { greatest } from '../geometry/extremes'
import type { Point } from '../geometry/point'
import { distance } from '../geometry/point'
import { smooth } from '../pace/easing'
import type { CompiledTraveller } from '../trips/compiled'
import type { Motion } from '../trips/motion'

/** Travellers that rest at the same stop stand side by side, and not on top of one another. */

/** How long a vehicle takes to step aside when another comes, and to come back before it leaves, in seconds. */
const STEP_ASIDE = 0.5
/** From the middle of one vehicle to that of the next, in lengths of the longest: a little air is left between them. */
const SPACING = 1.1
/** Resting places closer than this are one, in reference pixels. */
const SAME_PLACE = 1

interface Resting {
  index: number
  at: Point
  /** Its length in reference pixels, and how much it has come to rest, 0..1. */
  size: number
  share: number
}

/** Where the vehicles of travellers are seen: the places of their motions, apart where several rest. */
export function besideOthers(
  travellers: readonly CompiledTraveller[],
  motions: readonly (Motion | undefined)[],
  time: number,
  { toScreen, toGround }: Projection,
): (Point | undefined)[] {
  const places = motions.map((motion) => motion?.position)
  const resting = motions.flatMap((motion, index): Resting[] => {
    if (!motion?.resting || motion.vehicles.length === 0) return []
    const { visits } = travellers[index]!
    const visit = Math.max(
      0,
      visits.findLastIndex(({ arrive }) => arrive <= time),
    )
    // Where a trip begins or ends nobody comes from elsewhere, or goes on.
    const since = visit === 0 ? Infinity : time - visits[visit]!.arrive
    const left = visit === visits.length - 1 ? Infinity : visits[visit]!.leave - time
    const size = greatest(motion.vehicles.map(({ vehicle }) => vehicle.size))
    return [{ index, at: toScreen(motion.position), size, share: smooth(Math.min(1, since / STEP_ASIDE, left / STEP_ASIDE)) }]
  })
  for (const group of groups(resting)) {
    const step = SPACING * greatest(group.map(({ size }) => size))
    const whole = group.reduce((sum, { share }) => sum + share, 0)
    let before = 0
    for (const { index, at, share } of group) {
      const aside = (before + share / 2 - whole / 2) * step * share
      before += share
      if (aside !== 0) places[index] = toGround({ x: at.x + aside, y: at.y }) ?? places[index]
    }
  }
  return places
}

/** Those that rest at one place, where there are several; in the order of the travellers. */
function groups(resting: readonly Resting[]): Resting[][] {
  const found: Resting[][] = []
  for (const each of resting) {
    const group = found.find(([first]) => distance(first!.at, each.at) < SAME_PLACE)
    if (group) group.push(each)
    else found.push([each])
  }
  return found.filter(({ length }) => length > 1)
}
