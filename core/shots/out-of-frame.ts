import { greatest } from '../geometry/extremes'
import { projectionOf } from '../camera/projection'
import type { View } from '../camera/view'
import type { Kept } from '../camera/view-track'
import type { Size } from '../geometry/size'

/** How far the farthest of what is followed is out of the frame at a time, in reference pixels; 0 where all of it is in it. */
export function outOfFrame(followed: readonly Kept[], time: number, view: View, reference: Size): number {
  const { toScreen } = projectionOf(view, reference)
  const beyond = followed.map((where) => {
    const { x, y } = toScreen(where(time))
    return Math.max(-x, -y, x - reference.width, y - reference.height)
  })
  return Math.max(0, greatest(beyond))
}
