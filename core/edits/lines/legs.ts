import { clamp } from '../../geometry/clamp'
import { produce } from 'immer'
import { bowThrough } from '../../geometry/bow'
import type { Point } from '../../geometry/point'
import { findLeg, inksOf, legEnds } from '../../journey/lookup'
import type { CourseShape, Ink, Journey, Leg } from '../../journey/schema'
import { LIMITS } from '../../journey/schema'

/** Changes to single legs, and of all legs after one: pure functions, journey in, journey out, as in journey.ts. */

export type LegPatch = Partial<Pick<Leg, 'course' | 'travel' | 'easing' | 'paceMarks' | 'vehicle' | 'changes' | 'aside' | 'over'>> & {
  ink?: Partial<Ink>
  /** Which of its lines `ink` is of; the lowest if left out. */
  layer?: number
}

/** Changes the given fields of a leg. */
export function editLeg(journey: Journey, id: string, patch: LegPatch): Journey {
  return produce(journey, (draft) => {
    const leg = findLeg(draft, id)?.leg
    if (!leg) return
    const { ink, layer = 0, ...rest } = patch
    Object.assign(leg, rest)
    const line = inksOf(leg)[layer]
    if (line) Object.assign(line, ink)
  })
}

/** Lays another line over those of a leg, as wide and as long as the uppermost and in another colour, so that both are seen. */
export function addInk(journey: Journey, id: string, colour: string): Journey {
  return produce(journey, (draft) => {
    const leg = findLeg(draft, id)?.leg
    if (!leg || leg.over.length >= LIMITS.inksOver) return
    const { width, line, ...look } = inksOf(leg).at(-1)!
    const isSeen = line.kind !== 'hidden'
    const plain = { casing: null, shadow: null, glow: null, planned: null, arrow: null, leader: null, particles: null, gradient: [] }
    leg.over.push({ ...look, ...plain, line: { kind: 'solid' }, width: isSeen ? Math.max(1, width * THINNER) : width, colour })
  })
}

/** A line that is laid over another is so much of its width, so that the other can be seen beside it. */
const THINNER = 0.4

/** Takes a line of a leg away; the last one stays. */
export const removeInk = (journey: Journey, id: string, layer: number): Journey =>
  withInks(journey, id, (inks) => (inks.length > 1 ? inks.filter((_, i) => i !== layer) : inks))

/** Moves a line of a leg over or under the others. */
export const moveInk = (journey: Journey, id: string, from: number, to: number): Journey =>
  withInks(journey, id, (inks) => {
    const moved = inks.slice()
    moved.splice(to, 0, ...moved.splice(from, 1))
    return moved
  })

function withInks(journey: Journey, id: string, change: (inks: readonly Ink[]) => readonly Ink[]): Journey {
  return produce(journey, (draft) => {
    const leg = findLeg(draft, id)?.leg
    if (leg) [leg.ink, ...leg.over] = change(inksOf(leg)) as [Ink, ...Ink[]]
  })
}

/** Gives all legs of a traveller the lines of one of them. */
export function inkLegsLike(journey: Journey, id: string): Journey {
  return produce(journey, (draft) => {
    const found = findLeg(draft, id)
    if (!found) return
    const [ink, ...over] = inksOf(found.leg)
    for (const leg of found.traveller.legs) Object.assign(leg, { ink, over })
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
