import type { View } from '../camera/view'
import type { Journey, Moment, ViewAtMoment } from '../journey/schema'

/** Changes to the camera's views: pure functions, journey in, journey out, as in journey.ts. */

/** Changes the view with which the film begins. */
export const setCamera = (journey: Journey, camera: View): Journey => ({ ...journey, camera })

/** Changes all views, the first and those at moments. */
export const withViews = (journey: Journey, change: (view: View) => View): Journey => ({
  ...journey,
  camera: change(journey.camera),
  views: journey.views.map((entry) => ({ ...entry, view: change(entry.view) })),
})

/** Adds a view that the camera takes up from a moment on. */
export const addView = (journey: Journey, entry: ViewAtMoment): Journey => ({ ...journey, views: [...journey.views, entry] })

/** Changes the given fields of a view at a moment. */
export const editView = (journey: Journey, id: string, patch: Partial<Omit<ViewAtMoment, 'id'>>): Journey => ({
  ...journey,
  views: journey.views.map((entry) => (entry.id === id ? { ...entry, ...patch } : entry)),
})

export const removeView = (journey: Journey, id: string): Journey => ({
  ...journey,
  views: journey.views.filter((entry) => entry.id !== id),
})

/** When a stop is first reached and left, in seconds. */
interface StopTimes {
  stop: string
  arrive: number
  leave: number
}

/**
 * The moment that ties a time to the journey: to the last arrival or departure before it, so that it moves along when the pace changes; to the start
 * where there was none. Offsets are in thousandths of a second.
 */
export function momentAt(time: number, stops: readonly StopTimes[]): Moment {
  const anchors = stops.flatMap(({ stop, arrive, leave }) => [
    { at: 'arrival' as const, stop, time: arrive },
    { at: 'departure' as const, stop, time: leave },
  ])
  const before = anchors.filter((anchor) => anchor.time <= time + 1e-9).sort((a, b) => a.time - b.time)
  const last = before.at(-1)
  const offset = (from: number) => Math.round((time - from) * 1000) / 1000
  return last ? { at: last.at, stop: last.stop, offset: offset(last.time) } : { at: 'start', offset: offset(0) }
}
