import type { Point } from '../../geometry/point'
import { distance } from '../../geometry/point'
import { legCourse } from '../lines/courses'
import { addPostcard, newPostcard } from './postcards'
import { editStop } from './stops'
import { JourneyError } from '../../error'
import { travellerOf } from '../../journey/lookup'
import { setLayover } from '../pace/pace'
import type { Journey, Leg, Photo, Stop } from '../../journey/schema'
import { LIMITS } from '../../journey/schema'
import { lengthAtTime } from '../../courses/track-course'
import { insertStop } from '../trips/trips'
import { goOnTo, visitsOf } from '../trips/visits'

/** A photo whose place is known. */
export interface PlacedPhoto {
  name: string
  at: Point
  /** When it was taken, in milliseconds since 1970 by the camera's clock; null if unknown. */
  time: number | null
  /** The image to show; null if it cannot be shown. */
  photo: Photo | null
}

/** A photo taken closer to a stop than this, in reference pixels, belongs to that stop. */
const SAME_STOP = 24

/** Photos sorted by time; those without one come last, sorted by name. */
export const inOrder = (photos: readonly PlacedPhoto[]): PlacedPhoto[] =>
  [...photos].sort((a, b) => (a.time ?? Infinity) - (b.time ?? Infinity) || a.name.localeCompare(b.name, 'en', { numeric: true }))

/**
 * Makes a stop where each photo was taken, in the order of time, with the photo as its postcard. A photo taken at a stop of the trip belongs to that stop,
 * which shows its photos one after the other; one taken while a leg was recorded becomes a stop on that leg; the others extend the trip.
 * @param ids new ids: a stop's and a leg's for each photo
 * @throws JourneyError that names the photo for which there is no room
 */
export function addPhotoStops(
  journey: Journey,
  photos: readonly PlacedPhoto[],
  who: string,
  ids: readonly { stop: string; leg: string }[],
): Journey {
  return inOrder(photos).reduce((j, photo, i) => {
    const here = stopNear(j, photo.at, who)
    if (here) return withPostcard(j, here, photo, ids[i]!.stop)
    if (j.stops.length >= LIMITS.stops)
      throw new JourneyError(
        `“${photo.name}” would be stop ${LIMITS.stops + 1}, and a journey has at most ${LIMITS.stops}: choose fewer photos.`,
      )
    const during = recordedDuring(j, photo.time, who)
    const named = { name: photo.name.slice(0, 120) }
    const next = during
      ? editStop(atRest(insertStop(j, during.leg.id, photo.at, ids[i]!, during.s), ids[i]!.stop, who), ids[i]!.stop, named)
      : goOnTo(j, photo.at, ids[i]!, { traveller: who, ...named })
    const made = next.stops.find(({ id }) => id === ids[i]!.stop)
    return made ? withPostcard(next, made, photo, ids[i]!.stop) : next
  }, journey)
}

/** Makes a trip rest at a stop that it would pass through, so that its photo can be seen. */
const atRest = (journey: Journey, stop: string, who: string): Journey =>
  visitsOf(travellerOf(journey, who), stop).reduce((j, visit) => setLayover(j, visit, null, who), journey)

/** The stop of a traveller's trip at which something lies, the nearest if there are several. */
function stopNear(journey: Journey, at: Point, who: string): Stop | undefined {
  const visited = new Set(travellerOf(journey, who).visits.map(({ stop }) => stop))
  const near = journey.stops.filter((stop) => visited.has(stop.id) && distance(stop.at, at) < SAME_STOP / journey.camera.zoom)
  return near.sort((a, b) => distance(a.at, at) - distance(b.at, at))[0]
}

const withPostcard = (journey: Journey, stop: Stop, { photo }: PlacedPhoto, id: string): Journey =>
  photo ? addPostcard(journey, stop.id, newPostcard(stop, id, { photo })) : journey

/** The leg that was being recorded at a time, and the length of its course that had been travelled then. */
function recordedDuring(journey: Journey, time: number | null, who: string): { leg: Leg; s: number } | undefined {
  if (time === null) return undefined
  for (const leg of travellerOf(journey, who).legs) {
    if (leg.course.kind !== 'track') continue
    const s = lengthAtTime(leg.course, legCourse(journey, leg.id)!, time / 1000)
    if (s !== undefined) return { leg, s }
  }
  return undefined
}
