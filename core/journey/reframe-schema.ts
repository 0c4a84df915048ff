import { z } from 'zod'
import { CORNERS } from './caption-schema'
import { labelSchema } from './label-schema'
import { postcardSchema } from './postcard-schema'
import { shotSchema } from './shot-schema'
import { evenSide, id, LIMITS, viewSchema } from './values'

/**
 * The same journey in a frame of another shape. What is not said here is as in the journey: the camera's shots, which are of what they are of in any frame,
 * and labels that look for their places themselves.
 */
export const reframeSchema = z.strictObject({
  width: evenSide,
  height: evenSide,
  /** The opening view. */
  camera: viewSchema.nullable().default(null),
  /** Shots that are aimed otherwise; when they are is as in the journey. */
  shots: z.array(shotSchema).max(LIMITS.shots).default([]),
  /** Where labels of stops and of marks beside the way are. */
  labels: z
    .array(z.strictObject({ of: id, place: labelSchema.shape.place }))
    .max(LIMITS.stops + LIMITS.landmarks)
    .default([]),
  /** Where postcards are, and how large. */
  cards: z
    .array(z.strictObject({ stop: id, card: id, place: postcardSchema.shape.place, size: postcardSchema.shape.size }))
    .max(LIMITS.stops * LIMITS.postcards)
    .default([]),
  /** Where titles and readouts stand. */
  captions: z
    .array(z.strictObject({ caption: id, corner: z.enum(CORNERS) }))
    .max(LIMITS.captions)
    .default([]),
})

export type Reframe = z.output<typeof reframeSchema>
