import { degrees, radians, turnBetween, wrapDegrees } from '../geometry/angle'
import { clamp } from '../geometry/clamp'
import { least } from '../geometry/extremes'
import type { Point } from '../geometry/point'
import type { Size } from '../geometry/size'
import type { View } from './view'
import { zoomPath } from './zoom-path'

/** A view, and the second of the film at which it is seen. */
export interface KeyView {
  time: number
  view: View
}

/** A view as numbers that can be added: middle, zoom in octaves, bearing without a jump at the full turn, pitch. */
type Numbers = readonly [x: number, y: number, octaves: number, bearing: number, pitch: number]

/** The way is smoothed over so many seconds before and after, or over half of the least time between views where that is less. */
const REACH = 0.6
/** So many places of the way are looked at in a second: several in a frame. */
const PER_SECOND = 120
/** Rounds in which views are moved until the mean goes through them; after each it misses them by a fraction of what it did. */
const ROUNDS = 12

const plus = (a: Numbers, b: Numbers, times = 1) => a.map((value, i) => value + times * b[i]!) as unknown as Numbers
const numbersOf = ({ centre, zoom, bearing, pitch }: View, near: number): Numbers => [
  centre.x,
  centre.y,
  Math.log2(zoom),
  near + degrees(turnBetween(radians(near), radians(bearing))),
  pitch,
]
const viewOf = ([x, y, octaves, bearing, pitch]: Numbers): View => ({
  centre: { x, y },
  zoom: 2 ** octaves,
  bearing: wrapDegrees(bearing),
  pitch,
})

/**
 * One smooth way of the camera through several views: it rests in the first one until its time, comes to rest in the last one, and passes each of the others at its
 * time without a stop. Place, zoom (in octaves), bearing (the shorter way round) and pitch are continuous with their first and second derivatives; zoom, bearing and
 * pitch go no further than from view to view. Where the next view is far away the camera draws back on the way to it, as `zoomPath` does.
 *
 * @param keys two at least, in the order of their times, none of which may be the same; on flat ground
 * @returns the view at a time in seconds, before, during and after the way
 */
export function flowThrough(keys: readonly KeyView[], reference: Size): (time: number) => View {
  const [first, last] = [keys[0]!, keys.at(-1)!]
  const times = keys.map(({ time }) => time)
  const reach = Math.min(REACH, least(times.slice(1).map((time, i) => (time - times[i]!) / 2)))
  const wanted: Numbers[] = []
  for (const { view } of keys) wanted.push(numbersOf(view, wanted.at(-1)?.[3] ?? view.bearing))
  const [octavesAt, bearingAt, pitchAt] = [2, 3, 4].map((k) => throughAll(times, wanted.map((of) => of[k]!))) as [Curve, Curve, Curve] // prettier-ignore
  const { placeAt, drawnBackAt } = placesThrough(wanted, times, reach, reference)
  return (time) => {
    if (time <= first.time) return first.view
    if (time >= last.time) return last.view
    const { x, y } = placeAt(time)
    // At a view itself it is not drawn back at all.
    const apart = smoothest(clamp(least(times.map((key) => Math.abs(time - key))) / reach, 0, 1))
    return viewOf([x, y, octavesAt(time) - apart * drawnBackAt(time), bearingAt(time), pitchAt(time)])
  }
}

type Curve = (time: number) => number

/** Smooth to the second derivative at both ends (Perlin, Improving noise, 2002). @param u 0 to 1 */
const smoothest = (u: number): number => u * u * u * (u * (6 * u - 15) + 10)

/**
 * A curve through values that is continuous with its first and second derivatives, comes from rest and to rest, and goes no further than from value to value: of
 * fifth degree between them, with the slopes of a monotone cubic (Fritsch and Butland, A method for constructing local monotone piecewise cubic interpolants,
 * 1984, from memory) and no curvature there.
 */
function throughAll(times: readonly number[], values: readonly number[]): Curve {
  const rises = times.slice(1).map((time, i) => (values[i + 1]! - values[i]!) / (time - times[i]!))
  const slopes = times.map((_, i) => {
    const [a, b] = [rises[i - 1] ?? 0, rises[i] ?? 0]
    return a * b > 0 ? (2 * a * b) / (a + b) : 0
  })
  return (time) => {
    const i = clamp(
      times.findLastIndex((key) => key <= time),
      0,
      rises.length - 1,
    )
    const span = times[i + 1]! - times[i]!
    const u = clamp((time - times[i]!) / span, 0, 1)
    const [u3, u4, u5] = [u ** 3, u ** 4, u ** 5]
    const begins = u - 6 * u3 + 8 * u4 - 3 * u5
    const ends = -4 * u3 + 7 * u4 - 3 * u5
    return values[i]! + (values[i + 1]! - values[i]!) * smoothest(u) + span * (slopes[i]! * begins + slopes[i + 1]! * ends)
  }
}

/**
 * Where the middle of the frame is on a way through views, and by how many octaves the camera is drawn back. From view to view it follows `zoomPath` at one speed; that
 * way has corners, and is replaced by its mean with a kernel that is twice differentiable, after the views have been moved so that the mean goes through them.
 */
function placesThrough(wanted: readonly Numbers[], times: readonly number[], reach: number, reference: Size) {
  const last = times.length - 1
  /** The ends are drawn in, so that the mean begins and ends in time. */
  const passed = times.map((time, i) => (i === 0 ? time + reach : i === last ? time - reach : time))
  const step = 1 / PER_SECOND
  const from = times[0]! - reach
  const count = Math.ceil((times[last]! + reach - from) * PER_SECOND) + 1

  /** The way at even times: x, y, and octaves by which it is drawn back. */
  function sampled(through: readonly Numbers[]): Float64Array {
    const ways = through.slice(1).map((to, i) => segment(through[i]!, to, reference))
    const samples = new Float64Array(3 * count)
    for (let i = 0, k = 0; i < count; i++) {
      const time = from + i * step
      while (k < last - 1 && time > passed[k + 1]!) k++
      const span = passed[k + 1]! - passed[k]!
      samples.set(ways[k]!(span > 0 ? clamp((time - passed[k]!) / span, 0, 1) : time > passed[k]! ? 1 : 0), 3 * i)
    }
    return samples
  }

  function meanAt(samples: Float64Array, time: number): [x: number, y: number, drawnBack: number] {
    const low = Math.max(0, Math.ceil((time - reach - from) / step))
    const high = Math.min(count - 1, Math.floor((time + reach - from) / step))
    let [x, y, drawnBack, weights] = [0, 0, 0, 0]
    for (let i = low; i <= high; i++) {
      const u = (from + i * step - time) / reach
      // Zero at its ends, with its first and second derivatives.
      const weight = (1 - u * u) ** 3
      weights += weight
      x += weight * samples[3 * i]!
      y += weight * samples[3 * i + 1]!
      drawnBack += weight * samples[3 * i + 2]!
    }
    return [x / weights, y / weights, drawnBack / weights]
  }

  let moved: readonly Numbers[] = wanted
  let samples = sampled(moved)
  for (let round = 0; round < ROUNDS; round++) {
    moved = moved.map((own, i) => {
      if (i === 0 || i === last) return own
      const [x, y] = meanAt(samples, times[i]!)
      return [own[0] + wanted[i]![0] - x, own[1] + wanted[i]![1] - y, own[2], own[3], own[4]]
    })
    samples = sampled(moved)
  }
  return {
    placeAt(time: number): Point {
      const [x, y] = meanAt(samples, time)
      return { x, y }
    },
    drawnBackAt: (time: number): number => meanAt(samples, time)[2],
  }
}

/** The way from one view to another by its share, as `zoomPath` goes: its middle, and how much further back it is than evenly from zoom to zoom, in octaves. */
function segment(a: Numbers, b: Numbers, reference: Size): (share: number) => [x: number, y: number, drawnBack: number] {
  const sight = ([x, y, octaves]: Numbers) => ({ centre: { x, y }, width: reference.width / 2 ** octaves })
  const path = zoomPath(sight(a), sight(b))
  return (share) => {
    const { centre, width } = path(share)
    return [centre.x, centre.y, a[2] + (b[2] - a[2]) * share - Math.log2(reference.width / width)]
  }
}

/**
 * A way that goes on from one that moves: at first it is what the other is, and when `until` has come it is a flow alone.
 * @param before the other way; `flow` begins where that is at `start`
 */
export function goingOn(
  before: (time: number) => View,
  flow: (time: number) => View,
  start: number,
  until: number,
): (time: number) => View {
  const began = before(start)
  const at = numbersOf(began, began.bearing)
  return (time) => {
    const u = clamp((time - start) / (until - start), 0, 1)
    if (u === 1) return flow(time)
    const moved = plus(numbersOf(before(time), at[3]), at, -1)
    const own = flow(time)
    return viewOf(plus(numbersOf(own, own.bearing), moved, 1 - smoothest(u)))
  }
}
