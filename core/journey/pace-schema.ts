import { z } from 'zod'
import { NAMED_CURVES } from '../pace/easing'
import { id, LIMITS, momentSchema, unit, fileHash } from './values'

/** When things happen: how travel times are shared out, how a leg is travelled, and notes at moments. */

const CURVE_NAMES = Object.keys(NAMED_CURVES) as (keyof typeof NAMED_CURVES)[]
const EASING_NAMES = ['gentle', 'recorded', ...CURVE_NAMES] as const

const curveHeight = z.number().min(-4).max(5)

/** The longest that a leg may take to reach its speed, or to lose it, in seconds. */
const MOST_RAMP = 60

/**
 * 'gentle' starts and stops softly; 'recorded' keeps the pace of a recorded track, where its times are known, and is gentle elsewhere; 'cruise' reaches its
 * speed and loses it in so many seconds, and is even between; 'natural' is slower in bends. These four pass at speed through stops without a layover.
 * The others are CSS easing functions, whose x lie from 0 to 1.
 */
export const easingSchema = z.union(
  [
    z.enum(EASING_NAMES),
    z.tuple([unit, curveHeight, unit, curveHeight]),
    z.strictObject({
      kind: z.literal('cruise'),
      accelerate: z.number().min(0).max(MOST_RAMP).default(1),
      brake: z.number().min(0).max(MOST_RAMP).default(1),
    }),
    /** `bends` is how much it slows down in them: 1 halves the speed in a bend whose radius is a twentieth of the leg. */
    z.strictObject({ kind: z.literal('natural'), bends: z.number().min(0).max(4).default(1) }),
  ],
  {
    error:
      'must be the name of an easing, four numbers x1, y1, x2, y2, the x from 0 to 1 and the y from -4 to 5, or a cruise or natural pace',
  },
)

const share = z.number().min(0.001).max(0.999)

/** A mark at a share of a leg's length: from there on it is travelled so many times as fast, or it is rested there. */
export const paceMarkSchema = z.discriminatedUnion('kind', [
  z.strictObject({ kind: z.literal('speed'), at: share, factor: z.number().min(0.1).max(10) }),
  z.strictObject({ kind: z.literal('wait'), at: share, seconds: z.number().min(0.1).max(60) }),
])

/** How automatic travel times share what the set ones leave. */
export const shareSchema = z.strictObject({
  /** By the length of the legs, by what their vehicles would take for it, or by the times that tracks recorded. */
  by: z.enum(['distance', 'speed', 'recorded']).default('distance'),
  /** By distance: 0 shares the time equally, 1 by length. */
  exponent: unit.default(0.5),
})

/** A note for oneself at a moment; it is not in the film. */
export const noteSchema = z.strictObject({ id, at: momentSchema, text: z.string().trim().min(1).max(200) })

/** The longest piece of sound, in seconds. */
export const MOST_AUDIO = 1200

/** The most beats in a bar. */
export const MOST_IN_BAR = 16

/** A piece of music or speech that is heard with the film. */
export const audioSchema = z
  .strictObject({
    id,
    /** The SHA-256 of its file, its name, and how long it is, in seconds. */
    file: fileHash,
    name: z.string().trim().min(1).max(120),
    seconds: z.number().min(0.01).max(MOST_AUDIO),
    /** The time of the film at which it begins to be heard, in seconds. */
    offset: z.number().min(0).max(LIMITS.seconds).default(0),
    /** What is heard of it, in its own seconds. */
    from: z.number().min(0).max(MOST_AUDIO).default(0),
    to: z.number().min(0).max(MOST_AUDIO),
    /** In decibels. */
    gain: z.number().min(-60).max(12).default(0),
    /** Seconds in which it comes and goes. */
    fadeIn: z.number().min(0).max(30).default(0),
    fadeOut: z.number().min(0).max(30).default(1),
    /** Its beats, in its own seconds, rising; null where they have not been looked for. */
    beats: z.array(z.number().min(0).max(MOST_AUDIO)).max(LIMITS.beats).nullable().default(null),
    /** Bars: how many beats each has, and the number of the first beat that begins one, from 0; null where none are known. */
    bars: z
      .strictObject({
        beats: z.number().int().min(2).max(MOST_IN_BAR),
        first: z
          .number()
          .int()
          .min(0)
          .max(MOST_IN_BAR - 1),
      })
      .nullable()
      .default(null),
  })
  .refine(({ bars }) => bars === null || bars.first < bars.beats, 'has a first bar that begins after a whole bar')
  .refine(({ from, to, seconds }) => from < to && to <= seconds + 1e-3, 'ends before it begins, or after its file')

/** Sounds that are made for a film, each at a level from 0, which is silent, to 1. */
export const SOUND_KINDS = ['pin', 'take-off', 'engine', 'oars', 'rails', 'bell'] as const
const level = unit.default(0)
export const soundsSchema = z.strictObject({
  pin: level,
  'take-off': level,
  engine: level,
  oars: level,
  rails: level,
  bell: level,
} satisfies Record<(typeof SOUND_KINDS)[number], typeof level>)

export type Easing = z.output<typeof easingSchema>
export type PaceMark = z.output<typeof paceMarkSchema>
export type Share = z.output<typeof shareSchema>
export type Note = z.output<typeof noteSchema>
export type Audio = z.output<typeof audioSchema>
export type SoundKind = (typeof SOUND_KINDS)[number]
