import { z } from 'zod'
import { courseSchema } from './course-schema'
import { inkSchema } from './ink-schema'
import { easingSchema, paceMarkSchema } from './pace-schema'
import { colour, id, LIMITS, lasting, seconds } from './values'
import { CHANGES, vehicleChangeSchema, vehicleSchema } from './vehicle-schema'

/** Travellers: the stops that they visit, and the legs between them. */

/** How a traveller's first vehicle comes, and how the last one goes. */
const ENTERS = ['none', 'fade', 'pop'] as const
const LEAVES = ['fade', 'shrink', 'none'] as const

/** The most that a leg is moved aside, in rpx. */
export const MOST_ASIDE = 80

export const legSchema = z.strictObject({
  id,
  course: courseSchema.prefault({ kind: 'straight' }),
  /** Travel time in seconds; null for an automatic share of what is left of the total. */
  travel: z.number().min(0.1).max(LIMITS.seconds).nullable().default(null),
  easing: easingSchema.default('gentle'),
  /** Where it is travelled faster or slower, and where one rests on the way; a rest is part of the travel time. */
  paceMarks: z.array(paceMarkSchema).max(LIMITS.paceMarks).default([]),
  vehicle: vehicleSchema.nullable().default(null),
  /** Vehicles that take over on the way. */
  changes: z.array(vehicleChangeSchema).max(LIMITS.changes).default([]),
  /** How far to the right of its course the leg is travelled, in rpx, so that legs that share their way run side by side. */
  aside: z.number().min(-MOST_ASIDE).max(MOST_ASIDE).default(0),
  ink: inkSchema.prefault({}),
  /** Further lines over it, from the lowest to the uppermost, such as the centre line of a road. */
  over: z.array(inkSchema).max(LIMITS.inksOver).default([]),
})

/** A stop may be visited any number of times. */
export const visitSchema = z.strictObject({
  stop: id,
  /** Seconds spent there; null for automatic. */
  layover: seconds.nullable().default(null),
  /** The second of the film at which it is reached, and left; null where nothing holds it. Of the first visit only the end counts, of the last one only the beginning. */
  arriveAt: seconds.nullable().default(null),
  leaveAt: seconds.nullable().default(null),
  /** The day of arrival, as year-month-day. */
  date: z.iso.date().nullable().default(null),
})

export const travellerSchema = z.strictObject({
  id,
  name: z.string().trim().max(60).default(''),
  /** The default for its new legs and vehicles. */
  colour: colour.default('#d8412f'),
  /** Whether it is in the film. */
  shown: z.boolean().default(true),
  startDelay: seconds.default(0),
  visits: z.array(visitSchema).max(LIMITS.visits),
  legs: z.array(legSchema).max(LIMITS.visits),
  /** Whether the last vehicle stays in the picture or gives way to the pin. */
  atEnd: z.enum(['stays', 'leaves']).default('leaves'),
  /** How its first vehicle comes, how its vehicles change at stops, and how the last one leaves. */
  enters: z.enum(ENTERS).default('none'),
  changes: z.enum(CHANGES).default('fade'),
  leaves: z.enum(LEAVES).default('fade'),
  /** How long each of these takes, in seconds; of a change, how long one takes to fade out, and the next one then to fade in or pop up. */
  entersIn: lasting,
  changesIn: lasting,
  leavesIn: lasting,
})

export type Leg = z.output<typeof legSchema>
export type Traveller = z.output<typeof travellerSchema>
