import { produce } from 'immer'
import type { Point } from '../../geometry/point'
import { distance } from '../../geometry/point'
import type { LonLat } from '../../geo/lon-lat'
import { editLeg } from './legs'
import type { NewStop } from '../trips/visits'
import { addStop, visitStop } from '../trips/visits'
import { travellerOf } from '../../journey/lookup'
import type { CourseShape, Journey, Traveller } from '../../journey/schema'
import { usualLayover } from '../../pace/layovers'
import { addTraveller } from '../trips/travellers'

/** A recorded track as it comes to lie on the ground. */
export interface TrackOnGround {
  /** One more than the courses; `found` where the list of places gave the name. */
  stops: readonly { name: string; found?: boolean; at: Point; place?: LonLat }[]
  courses: readonly CourseShape[]
  /** How the first leg of a trip that it begins looks. */
  dress?: (traveller: Pick<Traveller, 'colour'>) => NewStop['dress']
  /** How long each leg took, in seconds, if the film is to keep to that. */
  seconds: readonly number[] | null
}

/** What a track becomes: the course of a leg, the continuation of the trip, or the trip of a new traveller. */
export type TrackUse = { use: 'leg'; leg: string } | { use: 'go-on'; traveller: string } | { use: 'own'; traveller: string }

/** An existing stop closer to a stop of the track than this, in reference pixels, is used for it. */
const MEETS = 24

/**
 * Adds a track to a journey. A leg whose course it becomes takes it whole, from stop to stop.
 * @param ids new ids: a stop's and a leg's for each stop of the track
 */
export function addTrack(journey: Journey, track: TrackOnGround, target: TrackUse, ids: readonly { stop: string; leg: string }[]): Journey {
  const easing = track.seconds ? ({ easing: 'recorded' } as const) : {}
  if (target.use === 'leg') return editLeg(journey, target.leg, { course: track.courses[0]!, ...easing })
  const begun = target.use === 'own' ? addTraveller(journey, target.traveller) : journey
  const who = { traveller: target.traveller, dress: track.dress?.(travellerOf(begun, target.traveller)) }
  const legs: string[] = []
  const laid = track.stops.reduce((j, { name, found, at, place }, i) => {
    const visits = travellerOf(j, target.traveller).visits.map((visit) => visit.stop)
    const met = j.stops
      .filter((stop) => distance(stop.at, at) < MEETS / j.camera.zoom)
      .sort((a, b) => distance(a.at, at) - distance(b.at, at))
    // The trip has come to where the track begins.
    if (i === 0 && met[0] && met[0].id === visits.at(-1)) return j
    const { stop, leg } = ids[i]!
    if (i > 0 || visits.length > 0) legs.push(leg)
    if (met[0]) return visitStop(j, met[0].id, leg, target.traveller, who.dress)
    return addStop(j, at, { stop, leg }, { ...who, place, name, found })
  }, begun)
  const own = legs.slice(-track.courses.length)
  const dressed = own.reduce((j, leg, i) => editLeg(j, leg, { course: track.courses[i]!, ...easing }), laid)
  return track.seconds ? atRecordedPace(dressed, target.traveller, own, track.seconds) : dressed
}

/** The shortest leg in the film, in seconds. */
const LEAST = 0.3

/** Gives legs travel times in proportion to the recorded ones, out of the time that the film has left. */
function atRecordedPace(journey: Journey, who: string, legs: readonly string[], seconds: readonly number[]): Journey {
  const traveller = travellerOf(journey, who)
  const others = traveller.legs.filter(({ id }) => !legs.includes(id))
  const rests =
    traveller.startDelay +
    traveller.visits.reduce((sum, { layover }, i, all) => sum + (layover ?? usualLayover(i, all.length, journey.seconds)), 0)
  const taken = others.reduce((sum, leg) => sum + (leg.travel ?? LEAST), 0)
  const left = journey.seconds - rests - taken
  const total = seconds.reduce((sum, value) => sum + value, 0)
  // Without enough time for that the legs share what there is.
  if (total <= 0 || left < legs.length * LEAST) return journey
  const parts = seconds.map((value) => Math.max(LEAST, (value / total) * left))
  const fit = left / parts.reduce((sum, part) => sum + part, 0)
  return produce(journey, (draft) => {
    for (const leg of travellerOf(draft, who).legs) {
      const i = legs.indexOf(leg.id)
      if (i >= 0) leg.travel = Math.max(0.1, Math.floor(parts[i]! * fit * 1000) / 1000)
    }
  })
}
