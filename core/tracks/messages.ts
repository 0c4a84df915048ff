import { z } from 'zod'
import { courseSchema } from '../journey/schema'
import { georeferenceSchema, placeSchema } from '../journey/sheet-schema'
import { lonLat, point } from '../journey/values'

const side = z.number().min(1)
const sizeSchema = z.object({ width: side, height: side })

const optionsSchema = z.strictObject({
  segment: z.int().min(0).nullable(),
  from: z.number().min(0).max(1),
  to: z.number().min(0).max(1),
  reversed: z.boolean(),
  metres: z.number().min(0).max(1e6),
  stops: z.array(z.object({ ...lonLat, name: z.string() })).max(200),
})

/** Requests to the track worker: first the file, which it keeps, then counting or laying it any number of times. */
export const trackOrderSchema = z.discriminatedUnion('kind', [
  z.strictObject({ kind: z.literal('read'), name: z.string(), bytes: z.instanceof(Uint8Array), swap: z.boolean() }),
  z.strictObject({ kind: z.literal('count'), options: optionsSchema }),
  z.strictObject({
    kind: z.literal('lay'),
    options: optionsSchema,
    georeference: georeferenceSchema,
    size: sizeSchema.optional(),
    place: placeSchema,
  }),
])

const span = z.array(z.number())

/** What it answers; `progress` any number of times before the end of reading. */
export const trackReplySchema = z.discriminatedUnion('kind', [
  z.strictObject({ kind: z.literal('progress'), share: z.number() }),
  z.strictObject({
    kind: z.literal('read'),
    overview: z.strictObject({
      points: z.number(),
      segments: span,
      lengthMetres: z.number(),
      hasTimes: z.boolean(),
      badTimes: z.number(),
      hasHeights: z.boolean(),
      start: z.number().nullable(),
      end: z.number().nullable(),
      movingSeconds: z.number().nullable(),
      bounds: z.tuple([z.number(), z.number(), z.number(), z.number()]),
      places: z.array(z.strictObject({ ...lonLat, name: z.string(), seconds: z.number() })),
      outline: z.custom<Float64Array>((value) => value instanceof Float64Array),
      match: z.array(z.strictObject({ ...lonLat, x: z.number(), y: z.number() })).length(3),
    }),
  }),
  z.strictObject({ kind: z.literal('count'), kept: z.number() }),
  z.strictObject({
    kind: z.literal('laid'),
    stops: z.array(z.strictObject({ name: z.string(), at: point, place: z.object(lonLat) })).min(2),
    courses: z.array(courseSchema),
    /** How long each leg took, in seconds; null where that is not known. */
    seconds: z.array(z.number()).nullable(),
  }),
  z.strictObject({ kind: z.literal('failed'), message: z.string(), isSwapped: z.boolean() }),
])

export type TrackOrder = z.output<typeof trackOrderSchema>
export type TrackReply = z.output<typeof trackReplySchema>
