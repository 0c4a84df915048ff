import { z } from 'zod'
import { TEMPERAMENTS } from '../camera/temperament'
import type { View } from '../camera/view'
import { GREATEST_PITCH, GREATEST_ZOOM, LEAST_ZOOM } from '../camera/view'
import { NAMED_CURVES } from '../pace/easing'
import { id, LIMITS, momentSchema, unit, viewSchema } from './values'

/**
 * How the camera films: what it looks at, and from when on. A kind of shot is described here once; core/shots/shots.ts makes views of it, and
 * app/components/camera/shot-fields.ts says how it is edited. Edits ask a shot what it has: a `view`, or how much it `fill`s, or a `zoom`.
 */

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

/** Degrees a second by which a new globe turns. */
const SPIN = 6

/** How much of the safe area its subject fills. */
export const LEAST_FILL = 0.02
export const MOST_FILL = 4
const fill = z.number().min(LEAST_FILL).max(MOST_FILL).default(1)
const zoom = z.number().min(LEAST_ZOOM).max(GREATEST_ZOOM)

export const shotSchema = z.discriminatedUnion('kind', [
  /** A view of one's own. */
  z.strictObject({
    kind: z.literal('free'),
    ...common,
    view: viewSchema,
    /** Whether the camera passes it at its time without a stop, on to the next shot, if that rests and is not cut to. */
    passes: z.boolean().default(false),
  }),
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
    spin: z.number().min(-90).max(90).default(SPIN),
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

/** What a shot is of. */
export interface ShotSubject {
  kind: 'stop' | 'leg' | 'traveller'
  id: string
  /** Where the shot names it. */
  path: PropertyKey[]
}

/** Whether a stop, a leg or a traveller has gone from the journey. */
type IsGone = (kind: ShotSubject['kind'], id: string) => boolean

/** What a new shot may be of: the leg and the stop at the play position. */
export interface ShotOccasion {
  seen: View
  leg?: string
  stop?: string
}

/** The fields of a kind that not every shot has. */
type OwnFields<S> = Omit<S, 'kind' | keyof typeof common>

interface ShotKindEntry<S extends Shot> {
  title: string
  /** What it is of, beside the stop that its moment is tied to. */
  subjects(shot: S): ShotSubject[]
  /** The shot without what has gone; null where nothing is left that it is of. */
  without(shot: S, isGone: IsGone): S | null
  /** A new one that looks much as what is seen; undefined where there is nothing that it could be of. */
  begin(at: ShotOccasion): OwnFields<S> | undefined
}

const ofNothing = { subjects: () => [], without: <S>(shot: S) => shot }
const aimedAt = ({ seen: { bearing, pitch } }: ShotOccasion) => ({ bearing, pitch, shift: { x: 0, y: 0 } })

export const SHOT_KINDS: { readonly [K in ShotKind]: ShotKindEntry<ShotOf<K>> } = {
  overview: { ...ofNothing, title: 'Overview', begin: (at) => ({ ...aimedAt(at), fill: 1 }) },
  globe: {
    title: 'Globe',
    subjects: ({ stop }) => (stop === null ? [] : [{ kind: 'stop', id: stop, path: ['stop'] }]),
    without: (shot, isGone) => (shot.stop !== null && isGone('stop', shot.stop) ? { ...shot, stop: null } : shot),
    begin: (at) => ({ ...aimedAt(at), bearing: 0, pitch: 0, fill: 1, stop: null, spin: SPIN }),
  },
  leg: {
    title: 'Leg view',
    subjects: ({ leg }) => [{ kind: 'leg', id: leg, path: ['leg'] }],
    without: (shot, isGone) => (isGone('leg', shot.leg) ? null : shot),
    begin: (at) => (at.leg === undefined ? undefined : { ...aimedAt(at), leg: at.leg, fill: 1 }),
  },
  chase: {
    title: 'Chase',
    subjects: ({ travellers }) => travellers.map((id, i) => ({ kind: 'traveller', id, path: ['travellers', i] })),
    without(shot, isGone) {
      const travellers = shot.travellers.filter((id) => !isGone('traveller', id))
      if (travellers.length === shot.travellers.length) return shot
      return travellers.length > 0 ? { ...shot, travellers } : null
    },
    begin: (at) => ({ ...aimedAt(at), travellers: [], zoom: at.seen.zoom, bySpeed: 0, lead: 0.3, turns: false, smoothing: 0.8 }),
  },
  'close-up': {
    title: 'Close-up',
    subjects: ({ stop }) => [{ kind: 'stop', id: stop, path: ['stop'] }],
    without: (shot, isGone) => (isGone('stop', shot.stop) ? null : shot),
    begin: (at) => (at.stop === undefined ? undefined : { ...aimedAt(at), stop: at.stop, zoom: at.seen.zoom }),
  },
  free: { ...ofNothing, title: 'Free', begin: ({ seen }) => ({ view: seen, passes: false }) },
}

const kindOf = (shot: Shot) => SHOT_KINDS[shot.kind] as ShotKindEntry<Shot>

export const subjectsOf = (shot: Shot): ShotSubject[] => kindOf(shot).subjects(shot)
export const shotWithout = (shot: Shot, isGone: IsGone): Shot | null => kindOf(shot).without(shot, isGone)

/** A shot of another kind at the same time, with the same motion; undefined where there is nothing that it could be of. */
export function shotOfKind({ id, at, transition, easing, orbit, dolly }: Shot, kind: ShotKind, occasion: ShotOccasion): Shot | undefined {
  const own = SHOT_KINDS[kind].begin(occasion)
  return own && ({ kind, id, at, transition, easing, orbit, dolly, ...own } as Shot)
}
