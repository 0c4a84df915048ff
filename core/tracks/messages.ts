import { z } from 'zod'
import type { WorkerCalls } from '../worker-calls'
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

const overviewSchema = z.strictObject({
  points: z.number(),
  segments: z.array(z.number()),
  lengthMetres: z.number(),
  hasTimes: z.boolean(),
  badTimes: z.number(),
  hasHeights: z.boolean(),
  start: z.number().nullable(),
  end: z.number().nullable(),
  movingSeconds: z.number().nullable(),
  bounds: z.tuple([z.number(), z.number(), z.number(), z.number()]),
  places: z.array(z.strictObject({ ...lonLat, name: z.string(), isMarked: z.boolean(), seconds: z.number() })),
  outline: z.custom<Float64Array>((value) => value instanceof Float64Array),
  match: z.array(z.strictObject({ ...lonLat, x: z.number(), y: z.number() })).length(3),
})

const laidSchema = z.strictObject({
  stops: z.array(z.strictObject({ name: z.string(), at: point, place: z.object(lonLat), time: z.number().nullable() })).min(2),
  courses: z.array(courseSchema),
  /** How long each leg took, in seconds; null where that is not known. */
  seconds: z.array(z.number()).nullable(),
})

/** What is asked of the worker for tracks: first to read a file, which it keeps, then to count its points or to lay it any number of times. */
export const TRACK_CALLS = {
  read: {
    order: z.strictObject({ name: z.string(), bytes: z.instanceof(Uint8Array), swap: z.boolean() }),
    reply: overviewSchema,
  },
  /** The number of points that are left when it is simplified, and how long their line is. */
  count: { order: optionsSchema, reply: z.strictObject({ points: z.int(), metres: z.number() }) },
  lay: {
    order: z.strictObject({
      options: optionsSchema,
      georeference: georeferenceSchema,
      size: sizeSchema.optional(),
      place: placeSchema,
    }),
    reply: laidSchema,
  },
} satisfies WorkerCalls

export type TrackOptions = z.output<typeof optionsSchema>
export type TrackOverview = z.output<typeof overviewSchema>
