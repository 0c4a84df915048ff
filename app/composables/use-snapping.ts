import { nearestOnCourse } from '#core/geometry/course'
import type { Point } from '#core/geometry/point'
import { distance } from '#core/geometry/point'
import type { StageSpace } from '~/components/stage/stage-space'
import { perPixel } from '~/components/stage/stage-space'
import { useEditor } from '~/stores/editor'

/** The snapping distance in CSS pixels. */
export const SNAP = 12

/** The angle step of lines from the last node with Shift. */
const STEP = Math.PI / 12

/** What a spot was snapped to. */
export interface Snapped {
  at: Point
  stop?: string
}

/** Snaps spots on the ground to stops and to the courses of other legs; Ctrl suspends that, Shift keeps to 15-degree steps from the last node. */
export function useSnapping(space: () => StageSpace) {
  const editor = useEditor()
  /** CSS pixels in ground units, at a spot or at the middle of the view. */
  const gu = (css: number, at?: Point) => css * perPixel(space(), at)

  function snap(p: Point, keys: { ctrlKey: boolean; shiftKey: boolean }, from?: Point, exceptLeg?: string): Snapped {
    if (keys.shiftKey && from) {
      const angle = STEP * Math.round(Math.atan2(p.y - from.y, p.x - from.x) / STEP)
      const along = (p.x - from.x) * Math.cos(angle) + (p.y - from.y) * Math.sin(angle)
      return { at: { x: from.x + along * Math.cos(angle), y: from.y + along * Math.sin(angle) } }
    }
    if (keys.ctrlKey) return { at: p }
    const stop = editor.journey!.stops.find(({ at }) => distance(at, p) < gu(SNAP, p))
    if (stop) return { at: stop.at, stop: stop.id }
    for (const { leg, course } of editor.compiled?.travellers.flatMap(({ legs }) => legs) ?? []) {
      if (leg.id === exceptLeg) continue
      const near = nearestOnCourse(course, p)
      if (near.distance < gu(SNAP, p) * 0.6) return { at: near.at }
    }
    return { at: p }
  }

  return { snap, gu }
}
