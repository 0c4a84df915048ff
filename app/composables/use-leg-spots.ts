import { clamp } from '#core/geometry/clamp'
import { nearestOnCourse } from '#core/geometry/course'
import type { Point } from '#core/geometry/point'
import type { CompiledLeg } from '#core/trips/compiled'
import { lengthAt } from '#core/trips/compiled'
import { useEditor } from '~/stores/editor'
import { useStage } from '~/stores/stage'

/** Marks lie between these shares of a leg, as the document has it. */
const [LEAST, MOST] = [0.001, 0.999]

/** Spots of a leg: as shares of its length, by when its traveller is there, and by a click on the map. */
export function useLegSpots(leg: () => string) {
  const editor = useEditor()
  const stage = useStage()

  const compiled = (): CompiledLeg | undefined =>
    editor.compiled?.travellers.flatMap(({ legs }) => legs).find((entry) => entry.leg.id === leg())
  const held = (share: number) => Math.round(clamp(share, LEAST, MOST) * 1000) / 1000

  /** The share at which its traveller is at a time of the film, in seconds. */
  function shareAt(time: number): number {
    const timed = compiled()
    return held(timed && timed.course.length > 0 ? lengthAt(timed, time) / timed.course.length : 0.5)
  }

  /** When its traveller first gets to a share of it, in seconds of the film. */
  function timeAt(share: number): number {
    const timed = compiled()
    if (!timed) return 0
    let [before, after] = [timed.depart, timed.arrive]
    // It never goes back, so that halving finds the moment, to less than a millisecond.
    while (after - before > 5e-4) {
      const middle = (before + after) / 2
      if (lengthAt(timed, middle) < share * timed.course.length) before = middle
      else after = middle
    }
    return after
  }

  /** Lets people click a spot on the map, or ends that; the nearest one of the leg is taken. */
  function pick(use: (share: number) => void) {
    if (stage.legSpot?.leg === leg()) return stage.setTool('select')
    stage.pickLegSpot(leg(), (at: Point) => {
      const course = compiled()?.course
      if (course && course.length > 0) use(held(nearestOnCourse(course, at).s / course.length))
    })
  }

  return { shareAt, timeAt, pick, isPicking: () => stage.legSpot?.leg === leg() }
}
