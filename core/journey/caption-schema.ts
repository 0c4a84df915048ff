import { z } from 'zod'
import { appearsSchema, textStyleSchema } from './text-schema'
import { id, spanSchema } from './values'

/** Where captions stand: within the safe area, those of one place under each other. */
export const CORNERS = ['top-left', 'top', 'top-right', 'left', 'middle', 'right', 'bottom-left', 'bottom', 'bottom-right'] as const

const UNITS = ['km', 'mi', 'nmi'] as const

/** What a caption says: a title, or a figure that runs along with a traveller (the first one where none is named). */
const traveller = id.nullable().default(null)
const captionContentSchema = z.discriminatedUnion('kind', [
  z.strictObject({ kind: z.literal('title'), text: z.string().max(240), second: z.string().max(240).default('') }),
  /** How far one has come. */
  z.strictObject({ kind: z.literal('distance'), traveller }),
  /** The day of the year, out of the dates of visits. */
  z.strictObject({ kind: z.literal('date'), traveller }),
  /** The first, second … day of the trip, out of the dates of visits. */
  z.strictObject({ kind: z.literal('day'), traveller }),
  /** The height above the sea, of recorded tracks. */
  z.strictObject({ kind: z.literal('height'), traveller, unit: z.enum(['m', 'ft']).default('m') }),
  /** From which stop to which. */
  z.strictObject({ kind: z.literal('leg'), traveller }),
  /** The stop that was reached last. */
  z.strictObject({ kind: z.literal('place'), traveller }),
  z.strictObject({ kind: z.literal('scale-bar') }),
  z.strictObject({ kind: z.literal('north-arrow') }),
])

export const captionSchema = z.strictObject({
  id,
  content: captionContentSchema,
  /** A word over a figure, such as "Distance"; '' for none. */
  heading: z.string().max(60).default(''),
  corner: z.enum(CORNERS).default('bottom-left'),
  style: textStyleSchema.prefault({}),
  appears: appearsSchema.prefault({ style: 'fade' }),
  /** When it is seen; null for the whole film. */
  shown: spanSchema.nullable().default(null),
})

/** What distances are told in, and metres to the ground unit where the map does not know its place on the Earth. */
export const measuresSchema = z.strictObject({
  unit: z.enum(UNITS).default('km'),
  metresPerUnit: z.number().min(1e-6).max(1e6).nullable().default(null),
})

export type Caption = z.output<typeof captionSchema>
export type CaptionContent = Caption['content']
export type CaptionKind = CaptionContent['kind']
export type Corner = (typeof CORNERS)[number]
export type DistanceUnit = (typeof UNITS)[number]
export type Measures = z.output<typeof measuresSchema>
