import type { Point } from '../geometry/point'
import { distance } from '../geometry/point'
import { editStop, newPostcard } from './edits'
import { goOnTo } from './visit-edits'
import { travellerOf } from './lookup'
import type { Journey, Photo } from './schema'

/** A photo whose place is known. */
export interface PlacedPhoto {
  name: string
  at: Point
  /** When it was taken, in milliseconds since 1970 by whatever clock the camera had; null where that is not known. */
  time: number | null
  /** What is to be shown of it; null where it cannot be shown. */
  photo: Photo | null
}

/** Photos taken nearer to each other than this, in reference pixels, were taken at one stop. */
const SAME_STOP = 24

/** Photos in the order of time; those without one come last, by their names. */
export const inOrder = (photos: readonly PlacedPhoto[]): PlacedPhoto[] =>
  [...photos].sort((a, b) => (a.time ?? Infinity) - (b.time ?? Infinity) || a.name.localeCompare(b.name, 'en', { numeric: true }))

/**
 * Has a traveller's trip go on to where photos were taken, in the order of time, each stop with its photo as a postcard; those taken one after the
 * other at one place make one stop, with the first of them that can be shown.
 * @param ids new ids: a stop's and a leg's for each photo
 */
export function addPhotoStops(
  journey: Journey,
  photos: readonly PlacedPhoto[],
  who: string,
  ids: readonly { stop: string; leg: string }[],
): Journey {
  return inOrder(photos).reduce((j, { name, at, photo }, i) => {
    const last = travellerOf(j, who).visits.at(-1)?.stop
    const here = j.stops.find((stop) => stop.id === last)
    if (here && distance(here.at, at) < SAME_STOP / j.camera.zoom)
      return here.postcard || !photo ? j : editStop(j, here.id, { postcard: newPostcard(here, { photo }) })
    const { stop } = ids[i]!
    const next = editStop(goOnTo(j, at, ids[i]!, { traveller: who }), stop, { name: name.slice(0, 120) })
    const made = next.stops.find(({ id }) => id === stop)
    return made && photo ? editStop(next, stop, { postcard: newPostcard(made, { photo }) }) : next
  }, journey)
}
