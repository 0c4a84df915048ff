import { fileHash } from '../journey/values'
import { z } from 'zod'
import { point } from '../journey/values'
import type { WorkerCalls } from '../worker-calls'

const channel = z.number().min(0).max(255)
const rgb = z.tuple([channel, channel, channel]).readonly()
const side = z.int().min(1).max(2_000_000)
const cubic = z.tuple([point, point, point, point]).readonly()
const image = { image: fileHash, width: side, height: side }

/** What is asked of the worker for roads. Places are in pixels of the image. */
export const FOLLOW_CALLS = {
  way: {
    order: z.strictObject({ ...image, through: z.array(point).min(2).max(200), colour: rgb.nullable() }),
    reply: z.discriminatedUnion('found', [
      z.strictObject({
        found: z.literal(true),
        course: z.array(cubic).min(1),
        colour: rgb,
        onRoad: z.number(),
        width: z.number(),
        gap: z.number(),
        detour: z.number(),
        direct: z.strictObject({ course: z.array(cubic).min(1), onRoad: z.number() }).nullable(),
      }),
      z.strictObject({ found: z.literal(false), colour: rgb.nullable(), reason: z.string(), at: point.nullable() }),
    ]),
  },
  /** The colour of a spot. */
  colour: { order: z.strictObject({ ...image, at: point }), reply: rgb },
} satisfies WorkerCalls
