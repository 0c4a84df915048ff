import { clamp } from '../../geometry/clamp'
import { produce } from 'immer'
import { bowThrough } from '../../geometry/bow'
import type { Point } from '../../geometry/point'
import { findLeg, legEnds } from '../../journey/lookup'
import type { CourseShape, Journey, Leg } from '../../journey/schema'

/** Changes to single legs, and of all legs after one: pure functions, journey in, journey out, as in journey.ts. */

export type LegPatch = Partial<Pick<Leg, 'course' | 'travel' | 'easing' | 'paceMarks' | 'vehicle' | 'changes' | 'aside'>> & {
  ink?: Partial<Leg['ink']>
}

/** Changes the given fields of a leg. */
export function editLeg(journey: Journey, id: string, patch: LegPatch): Journey {
  return produce(journey, (draft) => {
    const leg = findLeg(draft, id)?.leg
    if (!leg) return
    const { ink, ...rest } = patch
    Object.assign(leg, rest)
    Object.assign(leg.ink, ink)
  })
}

/** Gives all legs of a traveller the ink of one of them. */
export function inkLegsLike(journey: Journey, id: string): Journey {
  return produce(journey, (draft) => {
    const found = findLeg(draft, id)
    if (!found) return
    const { ink } = found.leg
    for (const leg of found.traveller.legs) leg.ink = { ...ink, glow: ink.glow && { ...ink.glow } }
  })
}

/** Gives all legs of a traveller the vehicle of one of them, or none if it has none. */
export function driveLegsLike(journey: Journey, id: string): Journey {
  return produce(journey, (draft) => {
    const found = findLeg(draft, id)
    if (!found) return
    const { vehicle } = found.leg
    for (const leg of found.traveller.legs) leg.vehicle = vehicle && { ...vehicle }
  })
}

/** Below this bow a pulled leg snaps to straight: half a hundredth of the chord. */
const STRAIGHT_BOW = 0.005

/** Bends a leg so that its middle lies as far off the chord as the given ground point. */
export function bendLeg(journey: Journey, id: string, through: Point): Journey {
  const ends = legEnds(journey, id)
  if (!ends) return journey
  const bow = clamp(bowThrough(...ends, through), -1, 1)
  const course: CourseShape = Math.abs(bow) < STRAIGHT_BOW ? { kind: 'straight' } : { kind: 'bowed', bow }
  return editLeg(journey, id, { course })
}
