import { GREATEST_ZOOM } from '../../camera/view'
import { checkCamera } from '../../checks/camera-check'
import { compile } from '../../frame/compile'
import type { ChaseShot, Journey } from '../../journey/schema'
import { NO_PLACES } from '../../labels/label-scene'
import { putShot } from './shots'

/** Ways to keep in the frame whom a chase follows on a map that the camera may not leave, with as little changed as will do. Each compiles a few journeys. */

/** Steps in which the tilt goes down, in degrees, and in which the camera comes closer. */
const TILT_STEP = 5
const NEARER = 1.15
/** As much closer as this is no longer the same shot. */
const MOST_NEARER = 4

/** Whether a chase has whom it follows out of the frame at some time. */
function loses(journey: Journey, shot: ChaseShot): boolean {
  const compiled = compile(putShot(journey, shot), NO_PLACES)
  return checkCamera(compiled).some(({ kind, shot: id }) => kind === 'lost' && id === shot.id)
}

/** The first of some shots, each less like what was asked than the one before, that loses nobody; undefined where even the last one does. */
function firstThatKeeps(journey: Journey, shots: readonly ChaseShot[]): ChaseShot | undefined {
  let [low, high] = [0, shots.length - 1]
  if (high < 0 || loses(journey, shots[high]!)) return undefined
  while (low < high) {
    const middle = (low + high) >> 1
    if (loses(journey, shots[middle]!)) low = middle + 1
    else high = middle
  }
  return shots[low]
}

/** The chase tilted as much as it can be. */
export const tiltedLess = (journey: Journey, shot: ChaseShot): ChaseShot | undefined =>
  firstThatKeeps(
    journey,
    Array.from({ length: Math.ceil(shot.pitch / TILT_STEP) }, (_, i) => ({
      ...shot,
      pitch: Math.max(0, shot.pitch - (i + 1) * TILT_STEP),
    })),
  )

/** The chase from as far away as it can be: the closer the camera is, the nearer to the map's edge it can go. */
export const comeCloser = (journey: Journey, shot: ChaseShot): ChaseShot | undefined =>
  firstThatKeeps(
    journey,
    Array.from({ length: Math.floor(Math.log(MOST_NEARER) / Math.log(NEARER)) }, (_, i) => shot.zoom * NEARER ** (i + 1))
      .filter((zoom) => zoom <= GREATEST_ZOOM)
      .map((zoom) => ({ ...shot, zoom })),
  )
