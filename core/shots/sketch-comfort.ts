import type { RateKind, Rates } from '../camera/comfort'
import { COMFORT, ratesBetween, worstOf } from '../camera/comfort'
import type { ViewTrack } from '../camera/view-track'
import { viewAt } from '../camera/view-track'
import type { Moment } from '../journey/schema'
import { outOfFrame } from './out-of-frame'
import type { Scene } from './shots'
import { placeShots, seenTrips } from './shots'
import type { TimedSketch } from './manner'
import { shotOf } from './manner'

/** What is too fast, and how many times as fast as it may be. */
interface Excess {
  excess: number
  kind: RateKind
}

export interface Excesses {
  onWays: ReadonlyMap<string, Excess>
  elsewhere: Excess
  /** The shots in which a traveller is out of the frame at some moment, as the camera is kept on the map there. */
  lost: ReadonlySet<string>
}

/** Whether nothing is beyond a share of what may be. */
export const isPleasant = ({ onWays, elsewhere }: Excesses, margin: number): boolean =>
  elsewhere.excess <= margin && [...onWays.values()].every(({ excess }) => excess <= margin)

/** No shot that is looked at here has its moment yet. */
const START: Moment = { at: 'start', offset: 0 }

/**
 * How far some shots are beyond how fast the picture may move, as multiples of it: at the worst moment of the way to each, by the keys of the shots, and at the
 * worst moment between the ways. The way down from a globe, which is many doublings of the zoom, only stays within what is pleasant at all.
 * @param step seconds from one look to the next
 */
export function excessesOf(sketches: readonly TimedSketch[], scene: Scene, hold: ViewTrack['hold'], limits: Rates, step: number): Excesses {
  const { lastTime, reference, opening } = scene
  const onWays = new Map<string, Excess>()
  const lost = new Set<string>()
  const followed = seenTrips(scene).map((trip) => scene.pathOf(trip).at)
  let elsewhere: Excess = { excess: 0, kind: 'pan' }
  const last = sketches.at(-1)!
  // What is not over when the film ends is not seen to its end.
  if (last.time + last.transition > lastTime) return { onWays, elsewhere: { excess: Infinity, kind: 'zoom' }, lost }
  const shots = placeShots(sketches.map((sketch) => ({ shot: shotOf(sketch, sketch.key, START), time: sketch.time })), scene) // prettier-ignore
  const count = Math.max(1, Math.round(lastTime / step))
  // What eases the way makes nothing faster, and keeps in view what is seen: it would take longer than all the rest.
  const views: ViewTrack = { opening, shots, reference, hold, lastTime, easedAt: null, handheld: null }
  let before = viewAt({ views }, 0)
  let current = 0
  for (let i = 1; i <= count; i++) {
    const now = viewAt({ views }, (lastTime * i) / count)
    const middle = (lastTime * (i - 0.5)) / count
    while (current + 1 < sketches.length && sketches[current + 1]!.time <= middle) current++
    const { key, time, transition } = sketches[current]!
    const isOnWay = middle <= time + transition
    const isFromGlobe = isOnWay ? sketches[current - 1]?.shot.kind === 'globe' : sketches[current]!.shot.kind === 'globe'
    const { kind, excess } = worstOf(ratesBetween(before, now, lastTime / count, reference), isFromGlobe ? COMFORT : limits)
    const isIn = now.bend || outOfFrame(followed, (lastTime * i) / count, now, reference) === 0
    if (!isIn || (i === 1 && !before.bend && outOfFrame(followed, 0, before, reference) > 0)) {
      lost.add(key)
      // It may be the shot that the camera comes from.
      if (isOnWay && current > 0) lost.add(sketches[current - 1]!.key)
    }
    if (isOnWay) {
      if (excess > (onWays.get(key)?.excess ?? 0)) onWays.set(key, { excess, kind })
    } else if (excess > elsewhere.excess) elsewhere = { excess, kind }
    before = now
  }
  return { onWays, elsewhere, lost }
}
