import { z } from 'zod'
import { colour } from './values'

/** The shapes of pins. Those with a face can have a number or letters in it; those that are round about their place can lie flat on the ground. */
export const PIN_SHAPES = [
  'lantern',
  'pennant',
  'bead',
  'drop',
  'stake',
  'disc',
  'ring',
  'star',
  'diamond',
  'tile',
  'flag',
  'signpost',
  'tower',
  'shield',
  'tent',
  'none',
] as const

export const pinSchema = z.strictObject({
  shape: z.enum(PIN_SHAPES).default('lantern'),
  colour: colour.default('#d8412f'),
  /** Height in rpx. */
  size: z.number().min(8).max(400).default(64),
  /** What is written in its face: its number in the order of arrival, or a few letters. */
  inside: z
    .discriminatedUnion('kind', [
      z.strictObject({ kind: z.literal('number') }),
      z.strictObject({ kind: z.literal('letters'), text: z.string().trim().min(1).max(3) }),
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
  /** Whether it can be seen before it is reached. */
  before: z.enum(['hidden', 'faint', 'shown']).default('hidden'),
  /** Seconds after arrival, or before where negative, by which pin and name appear later than usual. */
  delay: z.number().min(-30).max(30).default(0),
})

export type Pin = z.output<typeof pinSchema>
export type PinShape = Exclude<(typeof PIN_SHAPES)[number], 'none'>
export type PinCircle = NonNullable<Pin['circle']>
