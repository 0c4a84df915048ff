import { z } from 'zod'
import { labelSchema } from './label-schema'
import { pinSchema } from './pin-schema'
import { postcardSchema } from './postcard-schema'
import { id, LIMITS, lonLat, point } from './values'

export const stopSchema = z.strictObject({
  id,
  name: z.string().trim().max(120),
  at: point,
  /** Whether its place comes from the list of places, which must then be credited. */
  found: z.boolean().default(false),
  /** Where it lies on the Earth, if it was found by name or read from a file; null once it has been moved by hand. */
  place: z.strictObject(lonLat).nullable().default(null),
  pin: pinSchema.prefault({}),
  label: labelSchema.prefault({}),
  /** Its cards, which are shown one after the other. */
  postcards: z
    .array(postcardSchema)
    .max(LIMITS.postcards)
    .refine((cards) => new Set(cards.map((card) => card.id)).size === cards.length, 'have an id twice')
    .default([]),
})

export type Stop = z.output<typeof stopSchema>
