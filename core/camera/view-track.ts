import { degrees, radians, turnBetween, wrapDegrees } from '../geometry/angle'
import type { EasingFunction } from '../pace/easing'
import { projectionOf } from './projection'
import type { Size } from '../geometry/size'
import type { View } from './view'
import { zoomPath } from './zoom-path'

/** The camera's views over the whole film. */
export interface ViewTrack {
  opening: View
  /** By their starts. */
  moves: readonly ViewMove[]
  /** Keeps a view where the camera may be. */
  hold: (view: View) => View
}

/** A move of the camera to a view, in seconds of the film. */
export interface ViewMove {
  id: string
  start: number
  end: number
  to: View
  /** The view at a share of the time. */
  at: (share: number) => View
}

/** A view that the camera takes up from a time on, in seconds. */
export interface TimedView {
  id: string
  time: number
  transition: number
  progress: EasingFunction
  view: View
}

/**
 * Joins views to one track. A move begins where the camera is at that time, even if the move before it is not over, so that nothing jumps; of
 * views at one time the last one is taken up.
 */
export function viewTrack(opening: View, timed: readonly TimedView[], reference: Size, hold = (view: View): View => view): ViewTrack {
  const moves: ViewMove[] = []
  const track = { opening: hold(opening), moves, hold }
  for (const { id, time, transition, progress, view } of [...timed].sort((a, b) => a.time - b.time)) {
    const to = hold(view)
    const way = viewWay(viewAt({ views: track }, time), to, reference)
    moves.push({ id, start: time, end: time + transition, to, at: (share) => hold(way(progress(share))) })
  }
  return track
}

/** The camera's view at a time in seconds: the one owner of what the film looks at. The same time gives the same view, the same object while it rests. */
export function viewAt({ views: { opening, moves } }: { views: ViewTrack }, time: number): View {
  const move = moves.findLast(({ start }) => start <= time + 1e-9)
  if (!move) return opening
  return time >= move.end - 1e-9 ? move.to : move.at((time - move.start) / (move.end - move.start))
}

/** Whether the camera is on its way to another view at a time. */
export function isMovingAt({ views: { moves } }: { views: ViewTrack }, time: number): boolean {
  const move = moves.findLast(({ start }) => start <= time + 1e-9)
  return move !== undefined && time < move.end - 1e-9
}

/** The projection of the camera's view at a time. */
export const projectionAt = (compiled: { views: ViewTrack; reference: Size }, time: number) =>
  projectionOf(viewAt(compiled, time), compiled.reference)

/** The way between two views, by its share: middle and zoom along the smooth path, bearing (the shorter way round) and pitch along with them. */
export function viewWay(from: View, to: View, reference: Size): (share: number) => View {
  const path = zoomPath(
    { centre: from.centre, width: reference.width / from.zoom },
    { centre: to.centre, width: reference.width / to.zoom },
  )
  const turn = degrees(turnBetween(radians(from.bearing), radians(to.bearing)))
  return (share) => {
    const { centre, width } = path(share)
    return {
      centre,
      zoom: reference.width / width,
      bearing: wrapDegrees(from.bearing + turn * share),
      pitch: from.pitch + (to.pitch - from.pitch) * share,
    }
  }
}
