import { smooth } from '../pace/easing'
import { GREATEST_PITCH } from '../camera/view'
import { clamp } from '../geometry/clamp'
import type { Shot } from '../journey/schema'

/** How the camera moves about its subject at a time: from where it looks, and by which factor the zoom is less than the shot's own. */
interface ShotMotion {
  bearing: number
  pitch: number
  /** Above 0, at most 1. */
  zoomBy: number
}

/** @param resting how much what it looks at is at rest, 0 to 1 */
export type Motions = (time: number, resting?: number) => ShotMotion

/**
 * Orbit and dolly of a shot that lasts from one time to another, in seconds. Before and after it is still. A camera that levels out does so where its subject
 * rests, or over the shot where that has no rest.
 */
export function motionsOf(
  { orbit, dolly }: Pick<Shot, 'orbit' | 'dolly'>,
  { bearing, pitch }: { bearing: number; pitch: number },
  from: number,
  to: number,
): Motions {
  return (time, resting) => {
    const turned = bearing + orbit * (clamp(time, from, to) - from)
    const share = to > from ? smooth((time - from) / (to - from)) : 1
    const tilted = (by: number) => clamp(pitch * (1 - by), 0, GREATEST_PITCH)
    switch (dolly?.kind) {
      case undefined:
        return { bearing: turned, pitch, zoomBy: 1 }
      case 'rise':
        return { bearing: turned, pitch: tilted(dolly.amount * share), zoomBy: 2 ** (-dolly.amount * share) }
      case 'descend':
        return { bearing: turned, pitch: tilted(dolly.amount * (1 - share)), zoomBy: 2 ** (-dolly.amount * (1 - share)) }
      case 'level-out':
        return { bearing: turned, pitch: tilted(Math.min(1, 2 * dolly.amount) * (resting ?? share)), zoomBy: 1 }
      default:
        return dolly!.kind satisfies never
    }
  }
}
