import { clamp } from '../geometry/clamp'
import type { Course } from '../geometry/course'
import { pointAt } from '../geometry/course'
import type { EasingFunction } from './easing'
import { cubicBezier, hermite } from './easing'

/**
 * How a leg is travelled. What slows it down on the way (bends, marks) is its *effort*: so much more of its time is spent on each length. The easing maps time to
 * the share of the whole effort, and `effort` that to the share of the length. Where the leg rests it is travelled in parts, each with the easing anew.
 */
export interface LegPace {
  easing: PaceEasing
  effort: Effort
  /** The shares of the length at which it rests, rising, with the seconds. */
  waits: readonly { at: number; seconds: number }[]
}

export type PaceEasing =
  | { kind: 'gentle' }
  | { kind: 'ramps'; accelerate: number; brake: number }
  | { kind: 'curve'; x1: number; y1: number; x2: number; y2: number }

/** The share of the effort that is behind one at a share of the length, and the other way round; both rise from 0 to 1. */
export interface Effort {
  atShare(share: number): number
  toShare(effort: number): number
  /** Effort to the share of the length at the beginning and at the end: 1 where it is even. */
  startRate: number
  endRate: number
}

export const EVEN: Effort = { atShare: (share) => share, toShare: (effort) => effort, startRate: 1, endRate: 1 }

/** At most this share of a leg's time is rested. */
const MOST_RESTING = 0.8

/** The fastest that a leg may begin or end at, in its mean speeds, for its way to rise all the time: see `hermite` and `ramps`. */
const MOST_END_SPEED = { gentle: 3, ramps: 2 } as const

/** Speeds as shares of the length a second. */
export interface EndSpeeds {
  /** At the beginning and at the end; undefined where it is free to take that of its neighbour. */
  start: number | undefined
  end: number | undefined
  /** The fastest that it can take, and its mean. */
  mostStart: number
  mostEnd: number
  mean: number
}

/** The speeds that a leg has at its ends, or can take there. @param seconds its travel time, above 0 */
export function endSpeeds({ easing, effort, waits }: LegPace, seconds: number): EndSpeeds {
  const moving = seconds - resting(waits, seconds).total
  // In shares of the effort a second: the parts between rests are as fast as each other.
  const mean = 1 / moving
  if (easing.kind === 'curve') {
    const { x1, y1, x2, y2 } = easing
    const slope = (dx: number, dy: number, fx: number, fy: number) => (dx > 0 ? dy / dx : dy === 0 && fx > 0 ? fy / fx : 0)
    const start = slope(x1, y1, x2, y2)
    const end = slope(1 - x2, 1 - y2, 1 - x1, 1 - y1)
    const [from, to] = [(Math.max(0, start) * mean) / effort.startRate, (Math.max(0, end) * mean) / effort.endRate]
    return { start: from, end: to, mostStart: from, mostEnd: to, mean }
  }
  const most = MOST_END_SPEED[easing.kind] * mean
  return { start: undefined, end: undefined, mostStart: most / effort.startRate, mostEnd: most / effort.endRate, mean }
}

/** The rests that there is time for, in seconds; all are shorter where there is not enough. */
function resting(waits: LegPace['waits'], seconds: number): { total: number; factor: number } {
  const asked = waits.reduce((sum, wait) => sum + wait.seconds, 0)
  const total = Math.min(asked, MOST_RESTING * seconds)
  return { total, factor: asked > 0 ? total / asked : 1 }
}

/**
 * The share of a leg's length that has been travelled, by the share of its time.
 * @param seconds its travel time, above 0
 * @param start its speed at the beginning, in shares of its length a second, at most what `endSpeeds` says; a curve has its own
 */
export function legProgress(pace: LegPace, seconds: number, start: number, end: number): EasingFunction {
  const { easing, effort, waits } = pace
  const rests = resting(waits, seconds)
  const moving = seconds - rests.total
  const bounds = [0, ...waits.map(({ at }) => effort.atShare(at)), 1]
  const parts: { from: number; to: number; effort: number; size: number; ease: EasingFunction }[] = []
  let now = 0
  for (let i = 0; i < bounds.length - 1; i++) {
    const size = bounds[i + 1]! - bounds[i]!
    const takes = moving * size
    const startSpeed = i === 0 ? start * effort.startRate * moving : 0
    const endSpeed = i === bounds.length - 2 ? end * effort.endRate * moving : 0
    parts.push({ from: now, to: now + takes, effort: bounds[i]!, size, ease: easingOf(easing, takes, startSpeed, endSpeed) })
    now += takes + (waits[i]?.seconds ?? 0) * rests.factor
  }
  return (u) => {
    const t = clamp(u, 0, 1) * seconds
    const part = parts.findLast(({ from }) => from <= t) ?? parts[0]!
    const share = part.to > part.from ? (t - part.from) / (part.to - part.from) : 1
    // An easing may swing beyond its ends; the traveller waits there.
    return effort.toShare(part.effort + part.size * clamp(part.ease(Math.min(1, share)), 0, 1))
  }
}

function easingOf(easing: PaceEasing, seconds: number, startSpeed: number, endSpeed: number): EasingFunction {
  switch (easing.kind) {
    case 'gentle':
      return hermite(Math.min(startSpeed, MOST_END_SPEED.gentle), Math.min(endSpeed, MOST_END_SPEED.gentle))
    case 'ramps':
      return ramps(
        seconds > 0 ? easing.accelerate / seconds : 0,
        seconds > 0 ? easing.brake / seconds : 0,
        Math.min(startSpeed, MOST_END_SPEED.ramps),
        Math.min(endSpeed, MOST_END_SPEED.ramps),
      )
    case 'curve':
      return cubicBezier(easing.x1, easing.y1, easing.x2, easing.y2)
    default:
      return easing satisfies never
  }
}

/**
 * Progress from 0 to 1 whose speed rises evenly, holds, and falls evenly.
 * @param accelerate share of the time in which the speed is reached, and `brake` in which it is lost; both are shorter where they overlap
 * @param start the speed at the beginning, in mean speeds, up to 2, so that there is some left between
 */
export function ramps(accelerate: number, brake: number, start: number, end: number): EasingFunction {
  const squeeze = Math.max(1, accelerate + brake)
  const [a, b] = [accelerate / squeeze, brake / squeeze]
  const cruise = (1 - (a * start) / 2 - (b * end) / 2) / (1 - a / 2 - b / 2)
  return (t) => {
    const u = clamp(t, 0, 1)
    if (u < a) return start * u + ((cruise - start) * u * u) / (2 * a)
    const reached = (a * (start + cruise)) / 2
    if (u <= 1 - b) return reached + cruise * (u - a)
    const left = 1 - u
    return 1 - end * left - ((cruise - end) * left * left) / (2 * b)
  }
}

/** An effort by a table of lengths and efforts, both rising from 0; linear between its entries. */
export function effortOf(lengths: Float64Array, efforts: Float64Array): Effort {
  const [length, whole] = [lengths.at(-1)!, efforts.at(-1)!]
  if (!(length > 0) || !(whole > 0)) return EVEN
  const rate = (from: number, to: number) =>
    lengths[to]! > lengths[from]! ? (efforts[to]! - efforts[from]!) / whole / ((lengths[to]! - lengths[from]!) / length) : 1
  const last = lengths.length - 1
  return {
    atShare: (share) => interpolate(lengths, efforts, clamp(share, 0, 1) * length) / whole,
    toShare: (effort) => interpolate(efforts, lengths, clamp(effort, 0, 1) * whole) / length,
    startRate: rate(0, 1),
    endRate: rate(last - 1, last),
  }
}

/** The value at x of a table whose xs rise; where several xs are the same, the last of their values. */
function interpolate(xs: Float64Array, values: Float64Array, x: number): number {
  let [low, high] = [0, xs.length - 1]
  if (x >= xs[high]!) return values[high]!
  while (high - low > 1) {
    const middle = (low + high) >> 1
    if (xs[middle]! <= x) low = middle
    else high = middle
  }
  const span = xs[high]! - xs[low]!
  return values[low]! + (span > 0 ? (x - xs[low]!) / span : 1) * (values[high]! - values[low]!)
}

/** Into so many lengths a course is cut to find its bends. */
const CUTS = 1024

/** The curvature of a course is taken over this share of its length to both sides. */
const REACH = 1 / 96

/** A bend with a radius of this share of the leg's length takes twice the effort. */
const USUAL_BEND = 1 / 20

/** Within this share of the length one speed goes over into another. */
const BLEND = 0.04

/**
 * The effort of a course by its bends, and by marks from which on it is travelled so many times as fast.
 * @param bends how much bends slow down: 0 not at all, 1 to half the speed where the radius is a twentieth of the length
 * @param marks in rising order of `at`, a share of the length
 */
export function effortOver(course: Course, bends: number, marks: readonly { at: number; factor: number }[]): Effort {
  if (!(course.length > 0) || (bends === 0 && marks.length === 0)) return EVEN
  const slowness = Float64Array.from({ length: CUTS + 1 }, (_, i) => 1 / factorAt(marks, i / CUTS))
  if (bends > 0) {
    const curves = smoothed(curvatures(course))
    for (let i = 0; i <= CUTS; i++) slowness[i]! *= 1 + bends * curves[i]! * course.length * USUAL_BEND
  }
  const lengths = Float64Array.from({ length: CUTS + 1 }, (_, i) => (course.length * i) / CUTS)
  const efforts = new Float64Array(CUTS + 1)
  for (let i = 1; i <= CUTS; i++) efforts[i] = efforts[i - 1]! + (slowness[i - 1]! + slowness[i]!) / 2
  return effortOf(lengths, efforts)
}

/** How many times as fast as usual one is at a share of the length. */
function factorAt(marks: readonly { at: number; factor: number }[], share: number): number {
  let factor = 1
  for (const mark of marks) {
    const u = clamp((share - mark.at) / BLEND + 0.5, 0, 1)
    factor += (mark.factor - factor) * u * u * (3 - 2 * u)
  }
  return factor
}

/** The curvature at each cut of a course, of the circle through a point and those before and behind it (Menger curvature), in 1 / gu. */
function curvatures(course: Course): Float64Array {
  const reach = course.length * REACH
  const least = Math.ceil(REACH * CUTS)
  const at = Float64Array.from({ length: CUTS + 1 }, (_, i) => {
    const s = (course.length * clamp(i, least, CUTS - least)) / CUTS
    const [a, b, c] = [pointAt(course, s - reach), pointAt(course, s), pointAt(course, s + reach)]
    const [ab, bc, ca] = [Math.hypot(b.x - a.x, b.y - a.y), Math.hypot(c.x - b.x, c.y - b.y), Math.hypot(a.x - c.x, a.y - c.y)]
    const doubled = Math.abs((b.x - a.x) * (c.y - a.y) - (b.y - a.y) * (c.x - a.x))
    // Where the way turns back on itself the circle vanishes: it is taken as narrow as what can be told.
    return Math.min(1 / reach, ab * bc * ca > 1e-12 ? (2 * doubled) / (ab * bc * ca) : 2 / reach)
  })
  return at
}

/** Three means in a row over some cuts to both sides, which comes close to a Gaussian. */
function smoothed(values: Float64Array): Float64Array {
  const half = Math.round(CUTS / 120)
  let now = values
  for (let turn = 0; turn < 3; turn++) {
    const sums = new Float64Array(now.length + 1)
    for (let i = 0; i < now.length; i++) sums[i + 1] = sums[i]! + now[i]!
    now = now.map((_, i) => {
      const [from, to] = [Math.max(0, i - half), Math.min(now.length - 1, i + half)]
      return (sums[to + 1]! - sums[from]!) / (to - from + 1)
    })
  }
  return now
}
