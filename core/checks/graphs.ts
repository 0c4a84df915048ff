import { greatest } from '../geometry/extremes'
import { degrees } from '../geometry/angle'
import { frameTime } from '../pace/rate'
import type { CompiledJourney, CompiledTraveller, Stretch } from '../trips/compiled'
import { cameraMoments } from './camera-check'
import { lengthAt } from '../trips/compiled'
import { heightAt, METRES, metresAlong, rulerOf } from '../trips/metres'

/** How a film moves, as curves over its time: for the eye, and to find what is jerky. */

export interface Graphs {
  /** Seconds of the film at which the values hold. */
  times: number[]
  /** Of the traveller, in a second of film: in the journey's unit of distance where the map knows its size, else in ground units. */
  speed: number[]
  isMeasured: boolean
  /** Degrees by which the vehicle turns in a second. */
  turning: number[]
  /** The camera's zoom, in reference pixels to the ground unit. */
  zoom: number[]
  /** Frame widths by which the picture moves in a second, and degrees by which the camera turns. */
  pan: number[]
  cameraTurn: number[]
  /** Metres above the sea, where a track recorded them; null elsewhere. */
  height: (number | null)[]
  /** The moments at which the speed changes at once. */
  jumps: number[]
}

/** No more values than this: the eye tells no more apart. */
const MOST = 2400

/** A change of speed from frame to frame of more than this share of the greatest speed is a jump; of a soft start it is a fraction of that. */
const JUMP = 0.2

/** The curves of a traveller's trip. */
export function graphsOf(compiled: CompiledJourney, { legs }: CompiledTraveller): Graphs {
  const { frames, journey } = compiled
  const { rate } = journey.frame
  const ruler = rulerOf(journey)
  const step = Math.max(1, Math.ceil(frames / MOST))
  const all = Array.from({ length: frames }, (_, k) => frameTime(k, rate))
  const perFrame = frameTime(1, rate)
  /** How far the traveller has come: in earnest if that is known. */
  const far = all.map((t) => legs.reduce((sum, leg) => {
    const s = lengthAt(leg, t)
    return sum + (ruler ? metresAlong(leg.course, s, ruler) / METRES[journey.measures.unit] : s)
  }, 0)) // prettier-ignore
  const speeds = far.map((at, k) => (k > 0 ? (at - far[k - 1]!) / perFrame : 0))
  const turns = all.map((t, k) => (k > 0 ? turnedBetween(legs, all[k - 1]!, t) / perFrame : 0))
  const most = greatest(speeds)
  const jumps = all.filter((_, k) => k > 0 && Math.abs((speeds[k + 1] ?? speeds[k]!) - speeds[k]!) > JUMP * most)
  const picked = all.map((_, k) => k).filter((k) => k % step === 0)
  const camera = cameraMoments(compiled, step)
  return {
    times: picked.map((k) => all[k]!),
    speed: picked.map((k) => speeds[k]!),
    isMeasured: ruler !== undefined,
    turning: picked.map((k) => turns[k]!),
    zoom: camera.map(({ view }) => view.zoom),
    pan: camera.map(({ rates }) => rates.pan),
    cameraTurn: camera.map(({ rates }) => rates.turn),
    height: picked.map((k) => heightOn(legs, all[k]!)),
    jumps: withoutNeighbours(jumps, 3 * perFrame),
  }
}

/** The degrees by which the vehicle has turned between two moments; where another one takes over, nothing has turned. */
function turnedBetween(legs: CompiledTraveller['legs'], from: number, to: number): number {
  const stretch = stretchAt(legs, to)
  return stretch && stretch === stretchAt(legs, from) ? Math.abs(degrees(stretch.heading(to) - stretch.heading(from))) : 0
}

function stretchAt(legs: CompiledTraveller['legs'], t: number): Stretch | undefined {
  const leg = legs.find(({ arrive }) => t < arrive) ?? legs.at(-1)
  return (leg?.rides.findLast(({ at }) => at <= t) ?? leg?.rides[0])?.stretch
}

/** How high the traveller is, if the leg that it is on knows. */
function heightOn(legs: CompiledTraveller['legs'], t: number): number | null {
  const leg = legs.find(({ depart, arrive }) => t >= depart && t <= arrive)
  return (leg && heightAt(leg.leg, leg.course, lengthAt(leg, t))) ?? null
}

/** Of moments close to each other the first. */
const withoutNeighbours = (times: readonly number[], gap: number): number[] =>
  times.filter((time, i) => i === 0 || time - times[i - 1]! > gap)
