import type { Kept } from '../camera/view-track'
import { clamp } from '../geometry/clamp'
import { pointAt } from '../geometry/course'
import type { Point } from '../geometry/point'
import type { FrameRate } from '../pace/rate'
import { framesPerSecond, frameTime } from '../pace/rate'
import type { TimedTrip } from './compile-traveller'
import { lengthAt } from './compiled'

/** Where a traveller is over the whole film, frame by frame, for cameras that follow it. */
export interface Path {
  trip: TimedTrip
  x: Float64Array
  y: Float64Array
  /** 1 where it rests at a stop, else 0. */
  rests: Float64Array
  /** Where it is at a time in seconds; at a frame's time exactly. */
  at: Kept
}

/** The value of samples at a place between them; beyond the ends that of the end. */
export function sampleAt(values: Float64Array, index: number): number {
  const i = clamp(index, 0, values.length - 1)
  const low = Math.min(Math.floor(i), Math.max(0, values.length - 2))
  const a = values[low]!
  return a + ((values[low + 1] ?? a) - a) * (i - low)
}

/** @param trip of a traveller that visits one stop at least */
export function pathOf(trip: TimedTrip, frames: number, rate: FrameRate): Path {
  const path = { trip, x: new Float64Array(frames), y: new Float64Array(frames), rests: new Float64Array(frames) }
  for (let k = 0; k < frames; k++) {
    const { point, rests } = placeAt(trip, frameTime(k, rate))
    path.x[k] = point.x
    path.y[k] = point.y
    path.rests[k] = rests ? 1 : 0
  }
  const perSecond = framesPerSecond(rate)
  return { ...path, at: (time) => ({ x: sampleAt(path.x, time * perSecond), y: sampleAt(path.y, time * perSecond) }) }
}

function placeAt({ visits, legs }: TimedTrip, time: number): { point: Point; rests: boolean } {
  const leg = legs.findLast(({ depart }) => depart <= time)
  if (!leg) return { point: visits[0]!.stop.at, rests: true }
  return { point: pointAt(leg.course, lengthAt(leg, time)), rests: time >= leg.arrive }
}
