import type { Projection } from '../camera/projection-type'
import { projectionAt } from '../camera/view-track'
import { clamp } from '../geometry/clamp'
import { movedBox, scaledBox } from '../geometry/box'
import type { Point } from '../geometry/point'
import { isWhole, labelBox, movedIn } from '../marks/label-layout'
import { remembered } from '../remembered'
import type { CompiledJourney, CompiledLabel, CompiledMark } from '../trips/compiled'
import { numberAt } from '../trips/values'

/** A name in a moving picture is whole or gone: it stays within the frame as far as it can beside its pin, fades before it would be cut, and goes with its pin. */

/** So long before it would be cut a label begins to fade, in seconds; and so often it is looked whether it would. */
const FADE = 0.25
const STEP = 0.1

interface Placed {
  /** By how much it is moved to stay in the frame, in reference pixels at its own size. */
  by: Point
  /** Whether it and the place of its pin are in the frame. */
  isWhole: boolean
}

/** Where a label of a mark is in a view. @param size of the name, as a share of what is set */
export function labelIn(mark: CompiledMark, label: CompiledLabel, projection: Projection, size: number): Placed {
  const { at, label: look } = mark.stop
  const { reference } = projection
  // Behind the camera, or the edge of the globe.
  if (projection.clearance(at) < 0) return { by: { x: 0, y: 0 }, isWhole: false }
  const { x, y } = projection.toScreen(at)
  const k = size * Math.sqrt(projection.depthScale(at))
  const box = movedBox(scaledBox(labelBox(label, look.style), k), x, y)
  const by = movedIn(box, scaledBox(label.play, k), reference)
  const isSeen = x >= 0 && y >= 0 && x <= reference.width && y <= reference.height
  return { by: k > 0 ? { x: by.x / k, y: by.y / k } : by, isWhole: isSeen && isWhole(movedBox(box, by.x, by.y), reference) }
}

/** How much of each label is seen at some time by where it is in the frame, 0 to 1. */
export interface LabelFit {
  /** @param isNow whether it is whole at the time */
  shareAt(mark: CompiledMark, time: number, isNow: boolean): number
}

/** The fit of the labels of a film; looked for where it is asked for. */
export const labelFit = remembered((compiled: CompiledJourney): LabelFit => {
  const { marks, views, values, lastTime } = compiled
  if (views.shots.length === 0) return { shareAt: (_, __, isNow) => (isNow ? 1 : 0) }
  const cuts = views.shots.filter(({ start, end }) => start === end).map(({ start }) => start)
  const numbers = new Map(marks.map((mark, i) => [mark, i]))
  const known: boolean[][] = []
  const areWhole = (k: number): boolean[] => {
    if (known[k]) return known[k]
    const projection = projectionAt(compiled, k * STEP)
    return (known[k] = marks.map(
      (mark) =>
        mark.label === undefined || labelIn(mark, mark.label, projection, numberAt(values, 'name-size', k * STEP, mark.stop.id)).isWhole,
    ))
  }
  return {
    shareAt(mark, time, isNow) {
      if (!isNow) return 0
      const [i, appears] = [numbers.get(mark)!, mark.label!.from]
      const [first, last] = [Math.ceil((time - FADE - STEP / 2) / STEP), Math.floor(Math.min(time + FADE + STEP / 2, lastTime) / STEP)]
      let share = 1
      for (let k = Math.max(0, first); k <= last; k++) {
        const at = k * STEP
        if (at < appears || areWhole(k)[i]! || cuts.some((cut) => cut <= time !== cut <= at)) continue
        share = Math.min(share, clamp((Math.abs(at - time) - STEP / 2) / FADE, 0, 1))
      }
      return share
    },
  }
})
