import { z } from 'zod'
import { appearsSchema, textStyleSchema } from './text-schema'

/** Clockwise, so that opposite ones are four apart. */
export const SIDES = ['top', 'top-right', 'right', 'bottom-right', 'bottom', 'bottom-left', 'left', 'top-left'] as const

export const labelSchema = z.strictObject({
  shown: z.boolean().default(true),
  /** Where it lies: where nothing is in its way, on a side of its pin, or with its middle so many reference pixels from the stop. */
  place: z
    .discriminatedUnion('kind', [
      z.strictObject({ kind: z.literal('automatic') }),
      z.strictObject({ kind: z.literal('side'), side: z.enum(SIDES) }),
      z.strictObject({ kind: z.literal('free'), x: z.number().min(-4000).max(4000), y: z.number().min(-4000).max(4000) }),
    ])
    .prefault({ kind: 'automatic' }),
  style: textStyleSchema.prefault({}),
  /** A smaller line under the name: a note, the date of arrival, or how far it is from the start. */
  second: z
    .discriminatedUnion('kind', [
      z.strictObject({ kind: z.literal('note'), text: z.string().max(120) }),
      z.strictObject({ kind: z.literal('date') }),
      z.strictObject({ kind: z.literal('distance') }),
    ])
    .nullable()
    .default(null),
  /** Whether a fine line leads to a label that lies away from its pin. */
  leader: z.boolean().default(true),
  appears: appearsSchema.prefault({}),
  /** Seconds by which it appears later than with its pin, or earlier where negative. */
  delay: z.number().min(-30).max(30).default(0),
})

export type Label = z.output<typeof labelSchema>
export type LabelPlaceChoice = Label['place']
export type Side = (typeof SIDES)[number]
