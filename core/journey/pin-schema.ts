import { z } from 'zod'
import { anchorSchema, photoSchema } from './picture-schema'
import { PIN_IDS } from '../pins/catalogue'
import { colour, lasting, unit } from './values'

/** The shapes of pins: those that ship, a picture of one's own, and none. */
export const PIN_SHAPES = [...PIN_IDS, 'own', 'none'] as const

/** The pictures that can be in a pin, small and of one colour. */
export const PIN_ICONS = [
  'bed',
  'meal',
  'coffee',
  'camera',
  'view',
  'beach',
  'mountain',
  'tree',
  'tent',
  'fire',
  'fish',
  'anchor',
  'ferry',
  'train',
  'bus',
  'car',
  'bicycle',
  'walk',
  'plane',
  'home',
  'castle',
  'star',
  'heart',
  'flag',
] as const

const PIN_COMINGS = ['pop', 'grow', 'fade', 'drop', 'none'] as const

export const pinSchema = z
  .strictObject({
    shape: z.enum(PIN_SHAPES).default('lantern'),
    /** The picture of a pin of one's own, and the spot of it that is at its place. */
    picture: photoSchema
      .extend({ anchor: anchorSchema.default({ x: 0.5, y: 1 }) })
      .nullable()
      .default(null),
    colour: colour.default('#d8412f'),
    /** Height in rpx. */
    size: z.number().min(8).max(400).default(64),
    /** What is in its face: its number in the order of arrival, a few letters, or a small picture. */
    inside: z
      .discriminatedUnion('kind', [
        z.strictObject({ kind: z.literal('number') }),
        z.strictObject({ kind: z.literal('letters'), text: z.string().trim().min(1).max(3) }),
        z.strictObject({ kind: z.literal('icon'), icon: z.enum(PIN_ICONS) }),
      ])
      .nullable()
      .default(null),
    /** A circle on the ground round it: one that runs outwards at arrival, one that comes too large and settles, or one drawn by hand. */
    circle: z
      .strictObject({
        kind: z.enum(['pulse', 'settling', 'by-hand']).default('pulse'),
        colour: colour.default('#d8412f'),
        /** Its radius, in heights of the pin. */
        radius: z.number().min(0.3).max(4).default(0.8),
      })
      .nullable()
      .default(null),
    /** Whether it lies flat on the ground. */
    lies: z.boolean().default(false),
    /** How high over its place it floats, in its heights, if it does not lie; and whether a stem leads down from it. */
    lift: z.number().min(0).max(12).default(0),
    stem: z.boolean().default(true),
    /** How dark its shadow is; as dark as usual, or as the sun makes it, where nothing is said. */
    shadow: unit.optional(),
    /** How it comes, and how long that takes, in seconds. */
    comes: z.enum(PIN_COMINGS).default('pop'),
    comesIn: lasting,
    /** Whether it can be seen before it is reached. */
    before: z.enum(['hidden', 'faint', 'shown']).default('hidden'),
    /** Seconds after arrival, or before where negative, by which pin and name appear later than usual. */
    delay: z.number().min(-30).max(30).default(0),
  })
  .refine(({ shape, picture }) => shape !== 'own' || picture !== null, 'has no picture, though it is one of its own')

export type Pin = z.output<typeof pinSchema>
/** The shapes that are drawn by the application. */
export type PinIcon = (typeof PIN_ICONS)[number]
export type PinCircle = NonNullable<Pin['circle']>
