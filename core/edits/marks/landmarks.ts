import type { Point } from '../../geometry/point'
import { JourneyError } from '../../error'
import type { Journey, Landmark, LandmarkMark, Photo } from '../../journey/schema'
import { labelSchema, landmarkSchema, LIMITS, ownerOf, pinSchema } from '../../journey/schema'
import { labelLike } from '../trips/visits'

/** Changes to what is seen beside the way: pure functions, journey in, journey out, as in journey.ts. */

type Fields<L> = L extends Landmark ? Partial<Omit<L, 'kind' | 'id'>> : never

/** Fields of a landmark, of whichever kind it is. */
export type LandmarkPatch = Fields<Landmark>

/** A pin with a name beside the way, or a name alone, in the letters of the journey's last stop. */
export function newMark(journey: Journey, id: string, at: Point, name: string, hasPin: boolean): Landmark {
  const model = journey.stops.at(-1)
  const pin = { ...pinSchema.parse({ shape: hasPin ? 'disc' : 'none', size: 48 }), ...(model ? { colour: model.pin.colour } : {}) }
  const label = model ? labelLike(model.label) : labelSchema.parse({})
  const style = { ...label.style, size: Math.round(label.style.size * 0.8) }
  // A name alone is where it is put.
  const place: LandmarkMark['label']['place'] = hasPin ? { kind: 'automatic' } : { kind: 'free', x: 0, y: 0 }
  return { kind: 'mark', id, name, at, shown: null, pin, label: { ...label, shown: true, style, place } }
}

/** How long the longer side of a new picture is, in reference pixels at the zoom at which it is put on the map. */
const NEW_SIDE = 240

export const newPicture = (id: string, at: Point, name: string, picture: Photo, zoom: number): Landmark =>
  landmarkSchema.parse({ kind: 'standing', id, at, name, picture, width: (NEW_SIDE / zoom) * Math.min(1, picture.width / picture.height) })

/** @throws JourneyError if there are too many */
export function addLandmark(journey: Journey, landmark: Landmark): Journey {
  if (journey.landmarks.length >= LIMITS.landmarks)
    throw new JourneyError(`A journey has at most ${LIMITS.landmarks} landmarks: take one away first.`)
  return { ...journey, landmarks: [...journey.landmarks, landmark] }
}

/** Changes the given fields of a landmark; those that its kind does not have are the caller's mistake. */
export const editLandmark = (journey: Journey, id: string, patch: LandmarkPatch): Journey =>
  change(journey, id, (landmark) => ({ ...landmark, ...patch }) as Landmark)

/** Lays a standing picture down, or stands a lying one up. */
export const turnPicture = (journey: Journey, id: string, kind: 'standing' | 'lying'): Journey =>
  change(journey, id, (landmark) => {
    if (landmark.kind === 'mark' || landmark.kind === kind) return landmark
    const { name, at, shown, picture, width, opacity } = landmark
    return landmarkSchema.parse({ kind, id, name, at, shown, picture, width, opacity })
  })

export const removeLandmark = (journey: Journey, id: string): Journey => ({
  ...journey,
  landmarks: journey.landmarks.filter((landmark) => landmark.id !== id),
  valueMarks: journey.valueMarks.filter((mark) => ownerOf(mark)?.id !== id),
})

/** Moves a landmark to another place in the order: later ones are over earlier ones. */
export function moveLandmark(journey: Journey, from: number, to: number): Journey {
  const moved = journey.landmarks[from]
  if (!moved || to < 0 || to >= journey.landmarks.length) return journey
  return { ...journey, landmarks: journey.landmarks.toSpliced(from, 1).toSpliced(to, 0, moved) }
}

const change = (journey: Journey, id: string, to: (landmark: Landmark) => Landmark): Journey => ({
  ...journey,
  landmarks: journey.landmarks.map((landmark) => (landmark.id === id ? to(landmark) : landmark)),
})
