import { z } from 'zod'
import { labelSchema, SIDES } from './label-schema'
import { pinSchema } from './pin-schema'
import { colour, id, imageHash, LIMITS, lonLat, point } from './values'

/** An imported picture; its size in pixels, which are nominal for a drawing. */
export const photoSchema = z.strictObject({
  image: imageHash,
  width: z.int().min(1),
  height: z.int().min(1),
  vector: z.boolean().default(false),
})

/** Most degrees by which a postcard lies askew, to either side. */
export const MOST_TILT = 20

/** A photo, or a text alone, that is shown beside a stop for a while. */
export const postcardSchema = z.strictObject({
  photo: photoSchema.nullable().default(null),
  text: z.string().max(240).default(''),
  side: z.enum(SIDES).default('top'),
  /** Its longer side in rpx, without the text under a photo. */
  size: z.number().min(80).max(1600).default(420),
  /** Degrees, clockwise. */
  tilt: z.number().min(-MOST_TILT).max(MOST_TILT).default(-3),
  paper: colour.default('#fbf6ea'),
  colour: colour.default('#14233a'),
  /** How long it stays: while the traveller rests (and long enough to be taken in), to the film's end, or so many seconds. */
  stays: z.union([z.enum(['rest', 'end']), z.number().min(0.5).max(LIMITS.seconds)]).default('rest'),
})

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
  postcard: postcardSchema.nullable().default(null),
})

export type Stop = z.output<typeof stopSchema>
export type Photo = z.output<typeof photoSchema>
export type Postcard = z.output<typeof postcardSchema>
