import type { Course } from '../../geometry/course'
import { nearestOnCourse, passesBy, pointAt } from '../../geometry/course'
import type { Point } from '../../geometry/point'
import { distance } from '../../geometry/point'
import { legCourse } from '../lines/courses'
import { addPostcard, newPostcard } from './postcards'
import { editStop } from './stops'
import { JourneyError } from '../../error'
import { travellerOf } from '../../journey/lookup'
import { setLayover } from '../pace/pace'
import type { Journey, Photo, Stop, TrackCourse } from '../../journey/schema'
import { LIMITS } from '../../journey/schema'
import { lengthAtTime, timeAtLength } from '../../courses/track-course'
import { insertStop } from '../trips/trips'
import type { NewStop } from '../trips/visits'
import { goOnTo, visitsOf } from '../trips/visits'

/** A photo of the trip. */
export interface TripPhoto {
  name: string
  /** Where it was taken; null if it does not say. */
  at: Point | null
  /** When it was taken, in milliseconds since 1970; null if unknown. */
  time: number | null
  /** Whether that is exact, and not by a camera's clock, which may be set to any time zone. */
  isExact: boolean
  /** The image to show; null if it cannot be shown. */
  photo: Photo | null
}

/** A photo taken closer to a stop than this, in reference pixels, belongs to that stop; one as close to a recorded line was taken on it. */
const SAME_STOP = 24
const ON_LINE = 48

/** Photos sorted by time; those without one come last, sorted by name. */
export const inOrder = (photos: readonly TripPhoto[]): TripPhoto[] =>
  [...photos].sort((a, b) => (a.time ?? Infinity) - (b.time ?? Infinity) || a.name.localeCompare(b.name, 'en', { numeric: true }))

/** How far a camera's clock is behind the track's, by the photos that know both where and when they were taken. */
export interface ClockOffset {
  /** To be added to the camera's times. */
  seconds: number
  /** The number of photos that it is known by. */
  photos: number
}

/** What two photos say of the clock is the same within so many seconds. */
const SAME_OFFSET = 120

/**
 * The offset between the camera's clock and the recorded times, by the photos that were taken on a recorded line: what most of them agree on, as a line that
 * comes by a place twice leaves two times to choose from. Undefined where none was taken on one.
 */
export function clockOffset(journey: Journey, photos: readonly TripPhoto[], who: string): ClockOffset | undefined {
  const legs = recordedLegs(journey, who)
  const said = photos.flatMap(({ at, time, isExact }) => {
    if (!at || time === null || isExact) return []
    const passes = legs.flatMap(({ track, course }) =>
      passesBy(course, at, ON_LINE / journey.camera.zoom).flatMap(({ s }) => timeAtLength(track, course, s) ?? []),
    )
    return passes.length > 0 ? [passes.map((recorded) => recorded - time / 1000)] : []
  })
  const agreeing = (offset: number) =>
    said.flatMap((offsets) => offsets.find((other) => Math.abs(other - offset) <= SAME_OFFSET) ?? []).sort((a, b) => a - b)
  const best = said
    .flat()
    .map(agreeing)
    .reduce<number[]>((most, each) => (each.length > most.length ? each : most), [])
  return best.length === 0 ? undefined : { seconds: Math.round(best[best.length >> 1]!), photos: best.length }
}

/** Whether there is anything to place a photo by: where it was taken, or a leg that was being recorded then. */
export const isPlaceable = (journey: Journey, photo: TripPhoto, who: string, offset: number): boolean =>
  photo.at !== null || recordedDuring(journey, trackTime(photo, offset), who) !== undefined

/** When a photo was taken by the track's clock, in seconds since 1970. */
const trackTime = ({ time, isExact }: TripPhoto, offset: number): number | null =>
  time === null ? null : time / 1000 + (isExact ? 0 : offset)

/**
 * Makes a stop where each photo was taken, in the order of time, with the photo as its postcard. A photo taken at a stop of the trip belongs to that stop,
 * which shows its photos one after the other; one taken on a recorded line becomes a stop on that leg; the others extend the trip. The clock serves those
 * that do not know where they were taken, and tells which way a line was gone where it comes by twice.
 * @param ids new ids: a stop's and a leg's for each photo
 * @param options.offset seconds by which the camera's clock is behind the recorded times @param options.dress of the first leg of a trip
 * @throws JourneyError that names the photo for which there is no room
 */
export function addPhotoStops(
  journey: Journey,
  photos: readonly TripPhoto[],
  who: string,
  ids: readonly { stop: string; leg: string }[],
  { offset = 0, dress }: { offset?: number; dress?: NewStop['dress'] } = {},
): Journey {
  return inOrder(photos).reduce((j, photo, i) => {
    const spot = spotOf(j, photo, who, offset)
    const at = photo.at ?? (spot && pointAt(spot.course, spot.s))
    if (!at) return j
    const here = stopNear(j, at, who)
    if (here) return withPostcard(j, here, photo, ids[i]!.stop)
    if (j.stops.length >= LIMITS.stops)
      throw new JourneyError(
        `“${photo.name}” would be stop ${LIMITS.stops + 1}, and a journey has at most ${LIMITS.stops}: choose fewer photos.`,
      )
    const named = { name: photo.name.slice(0, 120) }
    const next = spot
      ? editStop(atRest(insertStop(j, spot.leg, at, ids[i]!, spot.s), ids[i]!.stop, who), ids[i]!.stop, named)
      : goOnTo(j, at, ids[i]!, { traveller: who, dress, ...named })
    const made = next.stops.find(({ id }) => id === ids[i]!.stop)
    return made ? withPostcard(next, made, photo, ids[i]!.stop) : next
  }, journey)
}

/** Where on a recorded line a photo was taken: by its place, and by the clock where it does not know that, or where the clock agrees with it. */
function spotOf(journey: Journey, photo: TripPhoto, who: string, offset: number): RecordedSpot | undefined {
  const byClock = recordedDuring(journey, trackTime(photo, offset), who)
  if (!photo.at) return byClock
  const agrees = byClock && distance(pointAt(byClock.course, byClock.s), photo.at) < ON_LINE / journey.camera.zoom
  return agrees ? byClock : onRecordedLine(journey, photo.at, who)
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

const withPostcard = (journey: Journey, stop: Stop, { photo }: TripPhoto, id: string): Journey =>
  photo ? addPostcard(journey, stop.id, newPostcard(stop, id, { photo })) : journey

/** A spot on the course of a recorded leg, at a length of it. */
interface RecordedSpot {
  leg: string
  track: TrackCourse
  course: Course
  s: number
}

const recordedLegs = (journey: Journey, who: string): Omit<RecordedSpot, 's'>[] =>
  travellerOf(journey, who).legs.flatMap(({ id, course }) =>
    course.kind === 'track' ? [{ leg: id, track: course, course: legCourse(journey, id)! }] : [],
  )

/** Where the recorder was at a time, in seconds since 1970. */
function recordedDuring(journey: Journey, time: number | null, who: string): RecordedSpot | undefined {
  if (time === null) return undefined
  for (const leg of recordedLegs(journey, who)) {
    const s = lengthAtTime(leg.track, leg.course, time)
    if (s !== undefined) return { ...leg, s }
  }
  return undefined
}

/** The spot of the recorded lines that is nearest to a point, if it is on one. */
function onRecordedLine(journey: Journey, at: Point, who: string): RecordedSpot | undefined {
  const near = recordedLegs(journey, who)
    .map((leg) => ({ ...leg, ...nearestOnCourse(leg.course, at) }))
    .sort((a, b) => a.distance - b.distance)[0]
  return near && near.distance < ON_LINE / journey.camera.zoom ? near : undefined
}
