import { fileHash } from '../journey/values'
import { z } from 'zod'
import { point } from '../journey/values'

const channel = z.number().min(0).max(255)
const rgb = z.tuple([channel, channel, channel]).readonly()
const side = z.int().min(1).max(2_000_000)
/** A request to the road worker: a way, or the colour of a spot. Places are in pixels of the image. */
export const followOrderSchema = z.strictObject({
  image: fileHash,
  width: side,
  height: side,
  ask: z.discriminatedUnion('kind', [
    z.strictObject({ kind: z.literal('way'), through: z.array(point).min(2).max(200), colour: rgb.nullable() }),
    z.strictObject({ kind: z.literal('colour'), at: point }),
  ]),
})

const cubic = z.tuple([point, point, point, point]).readonly()

/** The worker's answers; `progress` comes any number of times before the last one. */
export const followReplySchema = z.discriminatedUnion('kind', [
  z.strictObject({ kind: z.literal('progress'), share: z.number().min(0).max(1) }),
  z.strictObject({ kind: z.literal('colour'), colour: rgb }),
  z.strictObject({
    kind: z.literal('way'),
    followed: z.discriminatedUnion('found', [
      z.strictObject({
        found: z.literal(true),
        course: z.array(cubic).min(1),
        colour: rgb,
        onRoad: z.number(),
        width: z.number(),
      }),
      z.strictObject({ found: z.literal(false), colour: rgb.nullable(), reason: z.string(), at: point.nullable() }),
    ]),
  }),
  z.strictObject({ kind: z.literal('failed'), message: z.string() }),
])

export type FollowOrder = z.output<typeof followOrderSchema>
export type FollowReply = z.output<typeof followReplySchema>
