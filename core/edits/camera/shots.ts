import { projectionOf } from '../../camera/projection'
import type { View } from '../../camera/view'
import { GREATEST_PITCH, GREATEST_ZOOM, LEAST_ZOOM } from '../../camera/view'
import { wrapDegrees } from '../../geometry/angle'
import { clamp } from '../../geometry/clamp'
import type { Size } from '../../geometry/size'
import type { ChaseShot, Journey, Moment, Shot } from '../../journey/schema'
import { LEAST_FILL, MOST_FILL } from '../../journey/schema'
import type { Temperament } from '../../camera/temperament'

/** Changes to the camera: pure functions, journey in, journey out, as in journey.ts. */

/** Changes the view with which the film begins where no shot does. */
export const setCamera = (journey: Journey, camera: View): Journey => ({ ...journey, camera })

/** Lets the camera film by itself, or not. What was set by hand stays. */
export const setPlan = (journey: Journey, temperament: Temperament | null): Journey => ({
  ...journey,
  plan: { ...journey.plan, temperament, without: [] },
})

/** Lets the plan begin with the globe, or not. */
export const setPlanGlobe = (journey: Journey, globe: boolean): Journey => ({ ...journey, plan: { ...journey.plan, globe } })

/** Takes out all that was set by hand. */
export const onlyPlan = (journey: Journey): Journey => ({ ...journey, plan: { ...journey.plan, without: [] }, shots: [] })

export const addShot = (journey: Journey, shot: Shot): Journey => ({ ...journey, shots: [...journey.shots, shot] })

/** Puts a shot into the document in place of the one with its id: a shot of the plan is one's own from then on. */
export const putShot = (journey: Journey, shot: Shot): Journey =>
  journey.shots.some(({ id }) => id === shot.id)
    ? { ...journey, shots: journey.shots.map((other) => (other.id === shot.id ? shot : other)) }
    : addShot(journey, shot)

/** Takes a shot out; the plan, too, does without it then. */
export const removeShot = (journey: Journey, id: string): Journey => ({
  ...backToPlan(journey, id),
  plan: journey.plan.temperament === null || !isOfPlan(id) ? journey.plan : { ...journey.plan, without: [...journey.plan.without, id] },
})

/** Whether an id is one that plans give. */
export const isOfPlan = (id: string): boolean => id.startsWith('plan-')

/** Leaves a shot that was changed by hand to the plan again. */
export const backToPlan = (journey: Journey, id: string): Journey => ({ ...journey, shots: journey.shots.filter((shot) => shot.id !== id) })

/** A shot to which the camera takes its time: so many times as long, begun earlier by half of that. */
export function longerTransition(shot: Shot, factor: number): Shot {
  const transition = clamp(Math.round(shot.transition * factor * 1100) / 1000, 0, 60)
  const earlier = Math.round((transition - shot.transition) * 500) / 1000
  return { ...shot, transition, at: { ...shot.at, offset: shot.at.offset - earlier } }
}

/**
 * A shot to which the camera takes so many seconds, and arrives when it did: it leaves earlier or later, at the film's start at the earliest.
 * @param start when it leaves now, in seconds
 */
export function takingSeconds(shot: Shot, seconds: number, start: number): Shot {
  const transition = Math.round(clamp(seconds, 0, Math.min(60, start + shot.transition)) * 1000) / 1000
  return { ...shot, transition, at: { ...shot.at, offset: Math.round((shot.at.offset + shot.transition - transition) * 1000) / 1000 } }
}

/** Exchanges what two shots film; when they do stays. */
export function swapShots(journey: Journey, a: Shot, b: Shot): Journey {
  const inPlaceOf = (shot: Shot, { id, at, transition, easing }: Shot): Shot => ({ ...shot, id, at, transition, easing })
  return putShot(putShot(journey, inPlaceOf(b, a)), inPlaceOf(a, b))
}

/** A shot whose motion runs the other way. */
export function reversedShot(shot: Shot): Shot {
  const { dolly, orbit } = shot
  return {
    ...shot,
    orbit: orbit === 0 ? 0 : -orbit,
    dolly: dolly && dolly.kind !== 'level-out' ? { ...dolly, kind: dolly.kind === 'rise' ? 'descend' : 'rise' } : dolly,
  }
}

/**
 * Cuts a shot in two at a moment, so that nothing of it changes but what is done to one part afterwards.
 * @param elapsed seconds from the shot's beginning @param id of the second part
 */
export function splitShot(journey: Journey, shot: Shot, at: Moment, elapsed: number, id: string): Journey {
  const half = shot.dolly && shot.dolly.kind !== 'level-out' ? { ...shot.dolly, amount: shot.dolly.amount / 2 } : shot.dolly
  const drawn = half && half.kind !== 'level-out' ? 2 ** -half.amount : 1
  const turned = turnedShot(shot, shot.orbit * elapsed)
  const first = { ...(half?.kind === 'descend' ? zoomedShot(shot, drawn) : shot), dolly: half }
  const second = { ...(half?.kind === 'rise' ? zoomedShot(turned, drawn) : turned), dolly: half, id, at, transition: 0 }
  return addShot(half === shot.dolly ? journey : putShot(journey, first), second)
}

const zoomWithin = (zoom: number): number => clamp(zoom, LEAST_ZOOM, GREATEST_ZOOM)

/** A shot so many times as near. */
export function zoomedShot(shot: Shot, factor: number): Shot {
  if ('view' in shot) return { ...shot, view: { ...shot.view, zoom: zoomWithin(shot.view.zoom * factor) } }
  return 'fill' in shot
    ? { ...shot, fill: clamp(shot.fill * factor, LEAST_FILL, MOST_FILL) }
    : { ...shot, zoom: zoomWithin(shot.zoom * factor) }
}

function turnedShot(shot: Shot, by: number): Shot {
  return 'view' in shot
    ? { ...shot, view: { ...shot.view, bearing: wrapDegrees(shot.view.bearing + by) } }
    : { ...shot, bearing: wrapDegrees(shot.bearing + by) }
}

/** Changes the zooms that are measured on the ground, of the opening view and of shots, as when the frame gets another shape. */
export const withZooms = (journey: Journey, factor: number): Journey => ({
  ...journey,
  camera: { ...journey.camera, zoom: journey.camera.zoom * factor },
  shots: journey.shots.map((shot) => ('fill' in shot ? shot : zoomedShot(shot, factor))),
})

/**
 * A shot changed as the view through it was: what was moved, zoomed, turned and tilted in the lens.
 * @param before what the shot shows at some time @param after what it is to show then
 */
export function reaimedShot(shot: Shot, before: View, after: View, reference: Size): Shot {
  const tilted = (pitch: number) => clamp(pitch + after.pitch - before.pitch, 0, GREATEST_PITCH)
  const nearer = turnedShot(zoomedShot(shot, after.zoom / before.zoom), after.bearing - before.bearing)
  if ('view' in nearer) {
    const { view } = nearer
    const centre = { x: view.centre.x + after.centre.x - before.centre.x, y: view.centre.y + after.centre.y - before.centre.y }
    return { ...nearer, view: { ...view, centre, pitch: tilted(view.pitch) } }
  }
  // Where the middle has gone, the subject has gone the same way.
  const bend = before.bend && { ...before.bend, spin: 0 }
  const seen = projectionOf({ ...after, pitch: 0, ...(bend && { bend }) }, reference).toScreen(before.centre)
  const part = (was: number, to: number, whole: number) => clamp(was + to / whole - 0.5, -0.5, 0.5)
  const shift = { x: part(nearer.shift.x, seen.x, reference.width), y: part(nearer.shift.y, seen.y, reference.height) }
  return { ...nearer, shift, pitch: tilted(nearer.pitch) }
}

/** A chase that looks straight down and does not turn: on a map from which it may not look away, that is what keeps the traveller in the frame the longest. */
export const straightDown = (shot: ChaseShot): ChaseShot => ({ ...shot, pitch: 0, bearing: 0, turns: false, orbit: 0, dolly: null })
