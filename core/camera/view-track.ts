import { degrees, radians, turnBetween, wrapDegrees } from '../geometry/angle'
import type { Point } from '../geometry/point'
import type { EasingFunction } from '../pace/easing'
import { smooth } from '../pace/easing'
import { clamp } from '../geometry/clamp'
import { remembered } from '../remembered'
import { easedHold } from './eased-hold'
import { keptInView } from './fit'
import { flowThrough, goingOn } from './flow'
import type { Handheld } from './handheld'
import { swayed } from './handheld'
import type { Bend } from './globe'
import { projectionOf } from './projection'
import type { Size } from '../geometry/size'
import type { View } from './view'
import { zoomPath } from './zoom-path'

/** What the camera does during the film: shots, each of which gives a view at any time, and the ways from one to the next. */
export interface ViewTrack {
  opening: View
  /** By their starts. */
  shots: readonly PlacedShot[]
  reference: Size
  /** Keeps a view where the camera may be: gives the same object where it is there; null where it may be anywhere. */
  hold: ((view: View) => View) | null
  lastTime: number
  /** So many times a second, once a frame, a way that is held in is eased; null where each view is held in by itself. */
  easedAt: number | null
  /** How the camera sways that is held by hand; null on a stand. */
  handheld: Handheld | null
}

/** A shot in seconds of the film: the camera leaves for it at `start` and is there at `end`. */
export interface PlacedShot {
  start: number
  end: number
  /** The share of the way to it that is covered at a share of the time. */
  progress: EasingFunction
  look: Look
  /** Whether the camera goes on to the next one without a stop. */
  passes: boolean
}

/** What one shot looks at. */
export interface Look {
  /** The view at a time in seconds, at any time of the film: also before the camera has got there, and after it has left. The same object while it rests. */
  at(time: number): View
  /** Whether it is the same view at all times. */
  isStill: boolean
  /** What it never lets out of the safe area. */
  keeps: readonly Kept[]
}

/** Something that moves over the ground, and is the same object for all that look at it. */
export type Kept = (time: number) => Point

/** The part of the frame, upright and across, within which what is looked at stays: the safe area for titles (common practice, no source). */
export const SAFE = 0.8

/** Moments closer than this are one, in seconds. */
const SAME = 1e-9

/**
 * The camera's view at a time in seconds: the one owner of what the film looks at. The same time gives the same view, the same object while it rests.
 * On its way to a shot it goes from where it would be without it, so that nothing jumps whatever overlaps.
 */
export const viewAt = ({ views }: { views: ViewTrack }, time: number): View => wayOf(views)(time)

const wayOf = remembered((track: ViewTrack): ((time: number) => View) => {
  const { hold, lastTime, easedAt: perSecond, reference } = track
  // A view that does not move is held in by itself, so that the ways to and from it begin and end there.
  const shots = hold ? track.shots.map((shot) => (shot.look.isStill ? heldStill(shot, hold) : shot)) : track.shots
  const free = { ...track, shots }
  const viewAt = (time: number) => freeViewAt(free, lastIndexAt(free, time), time)
  if (!hold) return viewAt
  if (perSecond === null) return (time) => hold(viewAt(time))
  const cuts = cutsOf(track)
  const restsAt = (time: number) => !isMovingAt({ views: track }, time)
  const keptAt = (time: number) => seenAmong(shots, lastIndexAt(track, time), time).map((where) => where(time))
  return easedHold({ viewAt, restsAt, keptAt, cuts, lastTime, perSecond, reference }, hold)
})

/** When the camera is at once somewhere else, in seconds, in the order of the film. */
export const cutsOf = ({ shots }: ViewTrack): number[] => shots.filter(({ start, end }) => end - start <= SAME).map(({ start }) => start)

function heldStill(shot: PlacedShot, hold: (view: View) => View): PlacedShot {
  const view = hold(shot.look.at(shot.end))
  return { ...shot, look: { ...shot.look, at: () => view } }
}

const lastIndexAt = ({ shots }: ViewTrack, time: number): number => shots.findLastIndex(({ start }) => start <= time + SAME)

/** The view at a time at which the shots up to number i have begun, before it is held in. */
function freeViewAt(track: ViewTrack, i: number, time: number): View {
  const { opening, shots, reference } = track
  if (i < 0) return opening
  const { start, end, progress, look } = shots[i]!
  const passed = flowsOf(track)[i]?.(time)
  if (passed) return passed
  const to = look.at(time)
  if (time >= end - SAME) return to
  const way = viewWay(freeViewAt(track, i - 1, time), to, reference)(progress((time - start) / (end - start)))
  const kept = look.keeps.filter((seen) => shots[i - 1]?.look.keeps.includes(seen))
  return kept.length > 0 ? keptInView(way, kept.map((where) => where(time)), reference, SAFE) : way // prettier-ignore
}

/** What shot number i looks at, and on the way to it what the one before does, too. */
function seenAmong(shots: readonly PlacedShot[], i: number, time: number): readonly Kept[] {
  const [now, before] = [shots[i]?.look.keeps ?? [], shots[i - 1]?.look.keeps ?? []]
  return i < 0 || time >= shots[i]!.end - SAME ? now : [...now, ...before.filter((seen) => !now.includes(seen))]
}

/** Whether the camera moves at a time. */
export function isMovingAt({ views }: { views: ViewTrack }, time: number): boolean {
  const i = lastIndexAt(views, time)
  if (i < 0) return false
  const { end, look } = views.shots[i]!
  const run = runsOf(views.shots)[i]
  return time < (run ? views.shots[run.last]!.end : end) - SAME || !look.isStill
}

/** Shots in a row that the camera passes, by their numbers; it comes to rest in the last one. */
interface Run {
  first: number
  last: number
}

/** For each shot the run that it belongs to. What moves by itself, is cut to, shows the globe, or is over before the one ahead of it is not passed. */
const runsOf = remembered((shots: readonly PlacedShot[]): (Run | undefined)[] => {
  const runs: (Run | undefined)[] = []
  const canBePassed = ({ start, end, look }: PlacedShot) => look.isStill && !look.at(end).bend && end - start > SAME
  for (let first = 0; first < shots.length; first++) {
    let last = first
    for (let next = shots[last + 1]; next && shots[last]!.passes && canBePassed(shots[last]!) && canBePassed(next) && next.end > shots[last]!.end + SAME; next = shots[last + 1]) last++ // prettier-ignore
    if (last === first) continue
    for (let i = first; i <= last; i++) runs[i] = { first, last }
    first = last
  }
  return runs
})

/** The shots of the way that a shot, by its number, belongs to, by theirs; undefined where the camera does not pass it, and has not passed the one before. */
export const runAt = ({ shots }: ViewTrack, i: number): Readonly<Run> | undefined => runsOf(shots)[i]

/** For each shot of a run the view of the smooth way through all of it, until it comes to rest; undefined from then on, and where the way begins on bent ground. */
const flowsOf = remembered((track: ViewTrack): (((time: number) => View | undefined) | undefined)[] => {
  const { shots, reference } = track
  const flows: (((time: number) => View | undefined) | undefined)[] = []
  runsOf(shots).forEach((run, i) => {
    if (!run) return
    if (i > run.first) return void (flows[i] = flows[run.first])
    const passed = shots.slice(run.first, run.last + 1)
    const { start, end } = passed[0]!
    const before = (time: number) => freeViewAt(track, run.first - 1, time)
    // What is before it may have a flow of its own, so that this one is made when it is asked for.
    let way: ((time: number) => View) | undefined
    const make = () => {
      const flow = flowThrough([{ time: start, view: before(start) }, ...passed.map((shot) => ({ time: shot.end, view: shot.look.at(shot.end) }))], reference) // prettier-ignore
      const ahead = shots[run.first - 1]
      return !ahead || (ahead.look.isStill && ahead.end <= start + SAME) ? flow : goingOn(before, flow, start, end)
    }
    const restsAt = passed.at(-1)!.end
    flows[i] = (time) => (time >= restsAt - SAME || before(start).bend ? undefined : (way ??= make())(time))
  })
  return flows
})

/** The view that is filmed at a time: the camera's, as it sways where it is held by hand. What is edited is the camera's own view. */
export function filmedAt({ views }: { views: ViewTrack }, time: number): View {
  const view = viewAt({ views }, time)
  return views.handheld ? swayed(view, views.handheld, time, views.reference) : view
}

/** The projection of the view that is filmed at a time. */
export const projectionAt = (compiled: { views: ViewTrack; reference: Size }, time: number) =>
  projectionOf(filmedAt(compiled, time), compiled.reference)

/** The way between two views, by its share: middle and zoom along the smooth path, bearing (the shorter way round) and pitch along with them. */
function viewWay(from: View, to: View, reference: Size): (share: number) => View {
  const path = zoomPath(
    { centre: from.centre, width: reference.width / from.zoom },
    { centre: to.centre, width: reference.width / to.zoom },
  )
  const turn = degrees(turnBetween(radians(from.bearing), radians(to.bearing)))
  const bend = bendWay(from.bend, to.bend)
  return (share) => {
    const { centre, width } = path(share)
    const bent = bend?.(share)
    return {
      centre,
      zoom: reference.width / width,
      bearing: wrapDegrees(from.bearing + turn * share),
      pitch: from.pitch + (to.pitch - from.pitch) * share,
      ...(bent && { bend: bent }),
    }
  }
}

/** The globe is flattened over the last part of the way down from it, and bent over the first part of the way up: the closer the camera, the less one sees of it. */
const BENDING = 0.65

/** The way between two bends of the ground; none where both are flat. */
function bendWay(from: Bend | undefined, to: Bend | undefined): ((share: number) => Bend) | undefined {
  const globe = to?.globe ?? from?.globe
  if (!globe) return undefined
  const [a, b] = [from?.share ?? 0, to?.share ?? 0]
  const [turned, turns] = [from?.spin ?? 0, to?.spin ?? 0]
  return (share) => {
    const u = clamp(b < a ? (share - (1 - BENDING)) / BENDING : share / BENDING, 0, 1)
    return { globe, share: a + (b - a) * smooth(u), spin: turned + (turns - turned) * share }
  }
}
