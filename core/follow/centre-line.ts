import type { Point } from '../geometry/point'
import { distance, subtract } from '../geometry/point'
import { radians, turnBetween } from '../geometry/angle'
import { append } from '../geometry/extremes'

/** How much the picture looks like the road at a spot, 0..255, in the same pixels as the line. */
export type Likeness = (x: number, y: number) => number

/** Points along a line at equal steps of about `step`; the ends stay. */
export function resampled(points: readonly Point[], step: number): Point[] {
  const samples: Point[] = [points[0]!]
  let due = step
  for (let i = 1; i < points.length; i++) {
    const [a, b] = [points[i - 1]!, points[i]!]
    const length = distance(a, b)
    while (due <= length) {
      samples.push({ x: a.x + ((b.x - a.x) * due) / length, y: a.y + ((b.y - a.y) * due) / length })
      due += step
    }
    due -= length
  }
  const last = points.at(-1)!
  if (samples.length > 1 && distance(samples.at(-1)!, last) < step / 2) samples.pop()
  samples.push(last)
  return samples
}

/** The line with each point in the middle of its neighbours up to `reach` points away; fewer near the ends, which stay. */
export function smoothedLine(points: readonly Point[], reach: number): Point[] {
  const n = points.length
  const sums = [{ x: 0, y: 0 }]
  for (const { x, y } of points) sums.push({ x: sums.at(-1)!.x + x, y: sums.at(-1)!.y + y })
  return points.map((p, i) => {
    const k = Math.min(reach, i, n - 1 - i)
    if (k === 0) return p
    const [low, high] = [sums[i - k]!, sums[i + k + 1]!]
    return { x: (high.x - low.x) / (2 * k + 1), y: (high.y - low.y) / (2 * k + 1) }
  })
}

/** The unit normal of a line at one of its points, from the neighbours some points away. */
function normalAt(points: readonly Point[], i: number, reach: number): Point {
  const [a, b] = [points[Math.max(0, i - reach)]!, points[Math.min(points.length - 1, i + reach)]!]
  const length = distance(a, b) || 1
  return { x: -(b.y - a.y) / length, y: (b.x - a.x) / length }
}

/** Anything wider than this is not a road, in pixels of the level. */
export const MOST_WIDTH = 64

/** A pixel at least this much like the road lies on it. */
export const ON_ROAD = 110

/** Width of the road across a line at one of its points, which is on it; no more than `most`. */
function widthAt(points: readonly Point[], i: number, like: Likeness, most: number): number {
  const [p, n] = [points[i]!, normalAt(points, i, 4)]
  let width = 1
  for (const side of [-1, 1]) for (let k = 1; k <= most / 2 && like(p.x + n.x * k * side, p.y + n.y * k * side) >= ON_ROAD; k++) width++
  return width
}

/** Width of the road under a line, in the line's pixels: the median over its points on the road; 0 if none is on it. */
export function roadWidth(points: readonly Point[], like: Likeness, most: number): number {
  const widths: number[] = []
  for (let i = 0; i < points.length; i += 2) if (like(points[i]!.x, points[i]!.y) >= ON_ROAD) widths.push(widthAt(points, i, like, most))
  return widths.sort((a, b) => a - b)[widths.length >> 1] ?? 0
}

/** Moves the points of a line across it to the middle of the road under them, by the centroid of what is like the road within `reach`. */
export function centred(points: readonly Point[], like: Likeness, reach: number): Point[] {
  const steps = Math.max(2, Math.ceil(reach * 2))
  return points.map((p, i) => {
    if (i === 0 || i === points.length - 1) return p
    const n = normalAt(points, i, Math.max(3, Math.round(reach)))
    let [weight, offset] = [0, 0]
    for (let k = -steps; k <= steps; k++) {
      const d = (k / steps) * reach
      const w = like(p.x + n.x * d, p.y + n.y * d) ** 2
      weight += w
      offset += w * d
    }
    // Leave the line where hardly any road is visible.
    if (weight < 128 ** 2) return p
    const by = offset / weight
    return { x: p.x + n.x * by, y: p.y + n.y * by }
  })
}

/** Where the road is so many times as wide as usual, another one joins it: its middle says nothing there. */
const JUNCTION = 1.3
/** How far before and after a junction the middle is drawn aside as well, and how much of the line beyond that tells where it comes from, in widths of the road. */
const BESIDE = 1
const RUN_UP = 4
/** What is longer is no junction, but a square or a road alongside, in widths of the road. */
const LONGEST_JUNCTION = 6
/** From this angle on the line turns at a junction, and does not go straight through, in radians. */
const TURNS = radians(25)

/**
 * The line straight through junctions, where the middle of all that is like the road lies aside: from the road before to the road after, or round the corner
 * where the two meet.
 * @param points a pixel apart or so @param width of the road
 */
export function throughJunctions(points: readonly Point[], like: Likeness, width: number): Point[] {
  const out: Point[] = []
  let next = 0
  for (const [from, to] of junctions(points, like, width)) {
    const corner = cornerBetween(points, from, to, Math.ceil(RUN_UP * width))
    const way = [points[from]!, ...(corner ? [corner] : []), points[to]!]
    // What would leave the road, as over a roundabout's middle, stays as it is.
    if (from < next || !resampled(way, 1).every((p) => isOn(like, p))) continue
    append(out, points.slice(next, from))
    append(out, way.slice(0, -1))
    next = to
  }
  append(out, points.slice(next))
  return resampled(out, 1)
}

/** The stretches of a line that junctions may draw aside, as indexes of the points before and after. */
function junctions(points: readonly Point[], like: Likeness, width: number): [from: number, to: number][] {
  const beside = Math.max(2, Math.round(BESIDE * width))
  const last = points.length - 1
  const found: [number, number][] = []
  points.forEach((p, i) => {
    if (like(p.x, p.y) < ON_ROAD || widthAt(points, i, like, 4 * width) <= JUNCTION * width + 1) return
    const before = found.at(-1)
    // Joints so close that nothing between them is sure are one.
    if (before && i - beside <= before[1]) before[1] = Math.min(last, i + beside)
    else found.push([Math.max(0, i - beside), Math.min(last, i + beside)])
  })
  return found.filter(([from, to]) => to - from <= LONGEST_JUNCTION * width + 2 * beside)
}

/** Where the line before a junction and that after it meet, if it turns there; nothing if it goes straight on. */
function cornerBetween(points: readonly Point[], from: number, to: number, runUp: number): Point | undefined {
  const [a, b] = [points[from]!, points[to]!]
  // Near an end of the line there is nothing that tells a direction.
  const [before, after] = [points[from - runUp], points[to + runUp]]
  if (!before || !after) return undefined
  const [into, out] = [subtract(a, before), subtract(after, b)]
  const turn = Math.abs(turnBetween(Math.atan2(into.y, into.x), Math.atan2(out.y, out.x)))
  if (turn < TURNS) return undefined
  const cross = into.x * out.y - into.y * out.x
  const u = ((b.x - a.x) * out.y - (b.y - a.y) * out.x) / cross
  const corner = { x: a.x + u * into.x, y: a.y + u * into.y }
  const most = to - from
  return Number.isFinite(u) && distance(corner, a) < most && distance(corner, b) < most ? corner : undefined
}

/** Whether a spot lies on the road, or beside it by less than a pixel. */
export const isOn = (like: Likeness, { x, y }: Point): boolean =>
  Math.max(like(x, y), like(x - 1, y), like(x + 1, y), like(x, y - 1), like(x, y + 1)) >= ON_ROAD

/** How far before and after an interruption the line's middle can be trusted, in widths of the road. */
const HOLD = 0.75

/**
 * The line as one would draw it: straight over what interrupts the road, such as the gaps of a dashed one, and from each of its ends, which may lie
 * beside the road or on a mark over it, slantwise onto the road instead of straight at it and then round a corner.
 * @param points a pixel apart or so
 */
export function tidied(points: readonly Point[], like: Likeness, width: number): Point[] {
  const on = points.map((p) => isOn(like, p))
  const hold = Math.max(1, Math.round(HOLD * width))
  const first = on.indexOf(true)
  const last = on.lastIndexOf(true)
  if (first === -1) return [...points]
  const kept = points.map(() => true)
  const drop = (from: number, to: number) => {
    for (let i = Math.max(1, from); i < Math.min(points.length - 1, to); i++) kept[i] = false
  }
  for (let i = first, from = first; i <= last; i++) {
    if (!on[i]) continue
    if (i - from > 1) drop(from - hold, i + hold + 1)
    from = i
  }
  // Join the road a little further on than the end lies beside it; one line leads there from the end.
  drop(1, first + Math.max(hold, 2 * first))
  drop(last + 1 - Math.max(hold, 2 * (points.length - 1 - last)), points.length - 1)
  return resampled(
    points.filter((_, i) => kept[i]),
    1,
  )
}
