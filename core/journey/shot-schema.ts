import { TEMPERAMENTS } from '../camera/temperament'
import { z } from 'zod'
import { GREATEST_PITCH, GREATEST_ZOOM, LEAST_ZOOM } from '../camera/view'
import { NAMED_CURVES } from '../pace/easing'
import { id, LIMITS, momentSchema, unit, viewSchema } from './values'

/** How the camera films: what it looks at, and from when on. core/shots/shots.ts makes views of it. */

/** Names of the curves by which the camera moves from one shot to the next. */
export const MOTION_NAMES = Object.keys(NAMED_CURVES) as [keyof typeof NAMED_CURVES, ...(keyof typeof NAMED_CURVES)[]]

/** How the camera moves during a shot: away from the ground, down to it, or until it looks straight down where the traveller rests. */
const DOLLIES = ['rise', 'descend', 'level-out'] as const

const common = {
  id,
  /** When the camera leaves for it, and the seconds in which it gets there; none cut to it. */
  at: momentSchema,
  transition: z.number().min(0).max(60).default(2),
  easing: z.enum(MOTION_NAMES).default('ease-in-out'),
  /** Degrees a second by which it goes round what it looks at, clockwise as seen from above. */
  orbit: z.number().min(-90).max(90).default(0),
  /** The amount is 0 to 2: at 1 the zoom halves or doubles. */
  dolly: z
    .strictObject({ kind: z.enum(DOLLIES), amount: z.number().min(0).max(2).default(0.5) })
    .nullable()
    .default(null),
}

/** From where it looks at its subject, and where that is seen: the shift from the middle is in shares of the frame, to the right and down. */
const aimed = {
  bearing: z.number().min(-180).max(180).default(0),
  pitch: z.number().min(0).max(GREATEST_PITCH).default(0),
  shift: z.strictObject({ x: z.number().min(-0.5).max(0.5), y: z.number().min(-0.5).max(0.5) }).default({ x: 0, y: 0 }),
}

/** How much of the safe area its subject fills. */
const fill = z.number().min(0.1).max(4).default(1)
const zoom = z.number().min(LEAST_ZOOM).max(GREATEST_ZOOM)

export const shotSchema = z.discriminatedUnion('kind', [
  /** A view of one's own. */
  z.strictObject({ kind: z.literal('free'), ...common, view: viewSchema }),
  /** The trips of all travellers that are shown. */
  z.strictObject({ kind: z.literal('overview'), ...common, ...aimed, fill }),
  /** The Earth as a globe, which is flattened on the way to the next shot. Where the map does not know where it lies, it is an overview. */
  z.strictObject({
    kind: z.literal('globe'),
    ...common,
    ...aimed,
    fill,
    /** The stop that is in front; none is the middle of all trips. */
    stop: id.nullable().default(null),
    /** Degrees a second by which it turns eastwards, until the camera leaves. */
    spin: z.number().min(-90).max(90).default(6),
  }),
  /** A leg from its start to its end. */
  z.strictObject({ kind: z.literal('leg'), ...common, ...aimed, leg: id, fill }),
  /** A stop. */
  z.strictObject({ kind: z.literal('close-up'), ...common, ...aimed, stop: id, zoom }),
  /** Stays on one traveller or several. */
  z.strictObject({
    kind: z.literal('chase'),
    ...common,
    ...aimed,
    /** None are all that are shown. */
    travellers: z.array(id).max(LIMITS.travellers).default([]),
    zoom,
    /** How much it draws back where the traveller is fast, 0 to 1. */
    bySpeed: unit.default(0),
    /** How much room there is ahead of the traveller, 0 to 1. */
    lead: unit.default(0.3),
    /** Whether the way ahead is up; the bearing is added to it. */
    turns: z.boolean().default(false),
    /** Seconds over which the way is smoothed, as a standard deviation. */
    smoothing: z.number().min(0).max(4).default(0.8),
  }),
])

export const planSchema = z.strictObject({
  /** None leaves all to the shots. */
  temperament: z.enum(TEMPERAMENTS).nullable().default(null),
  /** Whether it begins with the Earth as a globe, where the map knows where it lies and the film is long enough to come down from it. */
  globe: z.boolean().default(false),
  /** The shots of the plan that were taken out. */
  without: z.array(id).max(LIMITS.shots).default([]),
})

export type Shot = z.output<typeof shotSchema>
export type ShotKind = Shot['kind']
export type ShotOf<K extends ShotKind> = Extract<Shot, { kind: K }>
export type AimedShot = Exclude<Shot, { kind: 'free' }>
export type ChaseShot = ShotOf<'chase'>
export type CameraPlan = z.output<typeof planSchema>
