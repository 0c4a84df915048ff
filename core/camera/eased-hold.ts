import { clamp } from '../geometry/clamp'
import type { Point } from '../geometry/point'
import type { Size } from '../geometry/size'
import { smooth } from '../pace/easing'
import { keptInView } from './fit'
import { projectionOf } from './projection'
import { leastWithin, smoothed, smoothingReach } from './smoothing'
import type { View } from './view'

/**
 * Keeps a moving camera where it may be without stopping it dead there. Views that are held in one by one come to a halt from one frame to the next where they
 * meet the limit. The whole way is known, so about such places it is replaced by means of its held views, before and after: for one bearing and pitch the views
 * that lie on a map are a convex set of middles and widths (1 / zoom), so that a mean of them lies on it, too.
 */

/** A way of the camera, as it would be without limits. */
export interface FreeWay {
  viewAt(time: number): View
  /** Whether the camera rests; then it is left as it is. */
  restsAt(time: number): boolean
  /** Points on the ground that it has in view at a time. */
  keptAt(time: number): readonly Point[]
  /** Times at which it goes elsewhere at once. */
  cuts: readonly number[]
  /** In seconds. */
  lastTime: number
  reference: Size
  /** Samples a second that are held and smoothed: one a frame, so that each frame is exact. */
  perSecond: number
}

/** Standard deviation of the means, in seconds: from full speed to a halt within about one second (by eye). */
const SOFTNESS = 0.25

/** For this share of what the means take in to one side the camera is slow after it has set out, and before it comes to rest (tried on random journeys). */
const SLOW = 0.8

/** How much of the easing is left where all of it would lose what is in view: the most that does not. */
const PARTS = [0.9, 0.75, 0.5, 0.25] as const

/** What is out of the frame by less, as a share of the way from its middle to its edge, is at the edge: half a pixel of 1080. */
const NEARLY = 0.001

/** Moments closer than this share of a sample are one. */
const SAME = 1e-6

/**
 * The way within limits, by the time in seconds.
 * @param hold the nearest view that is within them; the same object where a view is
 */
export function easedHold(free: FreeWay, hold: (view: View) => View): (time: number) => View {
  const { perSecond, lastTime, cuts } = free
  const last = Math.ceil(lastTime * perSecond - SAME)
  const moves = (k: number) => !free.restsAt(k / perSecond)
  const isCutBetween = (from: number, to: number) => cuts.some((cut) => cut * perSecond > from + SAME && cut * perSecond <= to + SAME)
  const known: Stretch[] = []
  /** The stretch in which the camera moves from sample k on; eased when it is first asked for. */
  const stretchFrom = (k: number): Stretch => {
    if (known[k]) return known[k]
    let [from, to] = [k, k]
    while (from > 0 && moves(from) && !isCutBetween(from - 1, from)) from--
    while (to < last && (to === k || moves(to)) && !isCutBetween(to, to + 1)) to++
    const times = Array.from({ length: to - from + 1 }, (_, i) => (from + i) / perSecond)
    const stretch = easedStretch(times, free, hold, { atStart: !moves(from), atEnd: !moves(to) })
    for (let i = from; i < to; i++) known[i] = stretch
    return (known[k] = stretch)
  }
  return (time) => {
    if (free.restsAt(time)) return hold(free.viewAt(time))
    const at = time * perSecond
    const before = Math.floor(at + SAME)
    return stretchFrom(Math.min(last, isCutBetween(before, at) ? before + 1 : before))(time)
  }
}

/** The views within limits of a stretch, by the time. */
type Stretch = (time: number) => View

/** What of a view is within limits: its middle, and the width of the ground that it shows in units of the frame's. */
const SIDES = ['x', 'y', 'width'] as const
type Sides = Record<(typeof SIDES)[number], number>
const STAYS: Sides = { x: 0, y: 0, width: 0 }
const sidesOf = ({ centre: { x, y }, zoom }: View): Sides => ({ x, y, width: 1 / zoom })
const minus = (a: Sides, b: Sides): Sides => ({ x: a.x - b.x, y: a.y - b.y, width: a.width - b.width })
const between = (a: Sides, b: Sides, part: number): Sides => ({
  x: a.x + (b.x - a.x) * part,
  y: a.y + (b.y - a.y) * part,
  width: a.width + (b.width - a.width) * part,
})
const moved = (view: View, { x, y, width }: Sides): View => ({
  ...view,
  centre: { x: view.centre.x + x, y: view.centre.y + y },
  zoom: 1 / (1 / view.zoom + width),
})

/** Eases a stretch, sampled at some times. @param rests whether the camera rests at its ends, which stay as they are */
function easedStretch(
  times: readonly number[],
  free: FreeWay,
  hold: (view: View) => View,
  rests: { atStart: boolean; atEnd: boolean },
): Stretch {
  const views = times.map(free.viewAt)
  const held = views.map(hold)
  const moves = views.some((view, i) => view !== held[i]) ? movesOf(times, views, held, free, hold, rests) : undefined
  /** At sample i: where nothing was moved, the view is within limits. */
  const made: View[] = []
  const sample = (i: number): View => {
    const move = moves?.(i) ?? STAYS
    if (move === STAYS) return views[i]!
    return (made[i] ??= views[i]!.bend ? moved(views[i]!, move) : hold(moved(views[i]!, move)))
  }
  const [first, last] = [times[0]! * free.perSecond, times.length - 1]
  return (time) => {
    const at = clamp(time * free.perSecond - first, 0, last)
    const i = Math.floor(at + SAME)
    if (at - i <= SAME) return sample(i)
    const view = free.viewAt(time)
    const [a, b] = [moves?.(i) ?? STAYS, moves?.(i + 1) ?? STAYS]
    if (a === STAYS && b === STAYS) return hold(view)
    const now = moved(view, between(a, b, at - i))
    return view.bend ? now : hold(now)
  }
}

/** By how much the views of a stretch are moved, by their numbers; STAYS for those that are far from where one meets a limit. */
function movesOf(
  times: readonly number[],
  views: readonly View[],
  held: readonly View[],
  { keptAt, perSecond, reference }: FreeWay,
  hold: (view: View) => View,
  rests: { atStart: boolean; atEnd: boolean },
): (i: number) => Sides {
  const sigma = SOFTNESS * perSecond
  const reach = smoothingReach(sigma)
  const mean = (values: Float64Array) => smoothed(values, sigma, 'nearer')
  const most = (values: Float64Array, within: number) => leastWithin(values.map((value) => -value), within).map((value) => -value) // prettier-ignore
  // Where it sets out and comes to rest it is slow, so that no limit stops it: there its own way is the softest.
  const slow = SLOW * reach
  const last = views.length - 1
  const ends = Float64Array.from(views, (_, i) => smooth(Math.min(rests.atStart ? i / slow : 1, rests.atEnd ? (last - i) / slow : 1)))
  // There are means alone as far as a view that meets a limit reaches into them, and then ever less of them.
  const meets = Float64Array.from(held, (view, i) => (view === views[i] ? 0 : 1))
  const share = mean(most(meets, 2 * reach))
  const [own, within] = [views.map(sidesOf), held.map(sidesOf)]
  const heldAt = (i: number): Sides => minus(within[i]!, own[i]!)
  const eased = (side: keyof Sides) => {
    const values = Float64Array.from(within, (of) => of[side])
    const means = mean(values)
    return values.map((value, i) => (value + (means[i]! - value) * ends[i]! - own[i]![side]) * share[i]!)
  }
  const moves = { x: eased('x'), y: eased('y'), width: eased('width') }
  const moveAt = (i: number): Sides => (share[i] === 0 ? STAYS : { x: moves.x[i]!, y: moves.y[i]!, width: moves.width[i]! })
  // Bearing and pitch change meanwhile, and with them the limits, and what is kept in view comes closer to the frame's edge. On bent ground a view that is held
  // in is held in further the next time: there nothing is missing.
  const missing = (): Sides[] =>
    views.map((view, i) => {
      if (share[i] === 0 || view.bend) return STAYS
      const at = moved(view, moveAt(i))
      const kept = hold(keptInFrame(at, held[i]!, keptAt(times[i]!), reference))
      return kept === at ? STAYS : minus(sidesOf(kept), sidesOf(at))
    })
  // By what is missing the way is moved on, evenly; and once more by what is missing then.
  for (let round = 0; round < 2; round++) {
    const by = missing()
    for (const side of SIDES)
      for (const sign of [1, -1]) {
        const needed = Float64Array.from(by, (of) => Math.max(0, sign * of[side]))
        const push = mean(most(needed, reach))
        moves[side].forEach((value, i, all) => (all[i] = value + sign * push[i]! * ends[i]!))
      }
  }
  const partAt = (i: number, part: number): Sides => between(heldAt(i), moveAt(i), part)
  // Where it would lose what it has in view, as that goes to and fro, it is eased as little as is needed.
  const parts = views.map((view, i) => {
    const points = share[i] === 0 || view.bend ? [] : keptAt(times[i]!)
    const loses = (part: number) => reachOf(hold(moved(view, partAt(i, part))), points, reference) > 1 + NEARLY
    if (points.length === 0 || !loses(1) || loses(0)) return 1
    return PARTS.find((part) => !loses(part)) ?? 0
  })
  const eases = mean(leastWithin(Float64Array.from(parts), reach))
  return (i) => (share[i] === 0 ? STAYS : partAt(i, eases[i]!))
}

/** How far from the middle of the frame points reach, as shares of the way to its edges; above 1 one is out of it. */
function reachOf(view: View, points: readonly Point[], { width, height }: Size): number {
  const { toScreen } = projectionOf(view, { width, height })
  return points.reduce((most, point) => {
    const { x, y } = toScreen(point)
    return Math.max(most, Math.abs(x / width - 0.5) * 2, Math.abs(y / height - 0.5) * 2)
  }, 0)
}

/** A view that has points in it where a held view has them, and not further out than half of what that leaves of the way to the edge. */
function keptInFrame(view: View, held: View, points: readonly Point[], reference: Size): View {
  if (points.length === 0) return view
  const reach = reachOf(held, points, reference)
  return reach <= 1 ? keptInView(view, points, reference, (1 + reach) / 2) : view
}
