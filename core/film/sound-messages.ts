import { z } from 'zod'
import { MOST_AUDIO } from '../journey/pace-schema'
import { SOUND_RATE } from '../sound/pcm'

/** What is asked of the worker for sound, and what it answers. Samples are two channels in turn, at `SOUND_RATE`. */

const MOST_SAMPLES = 2 * SOUND_RATE * (MOST_AUDIO + 2)
const samples = z.custom<Int16Array<ArrayBuffer>>((value) => value instanceof Int16Array && value.length <= MOST_SAMPLES, 'must be samples')
const floats = z.instanceof(Float32Array) as z.ZodType<Float32Array<ArrayBuffer>>

export const soundOrderSchema = z.discriminatedUnion('do', [
  /** Keeps a piece, and answers with its peaks. */
  z.strictObject({ do: z.literal('keep'), order: z.int(), file: z.string(), samples }),
  z.strictObject({ do: z.literal('beats'), order: z.int(), file: z.string(), from: z.number(), to: z.number() }),
  /** The journey is checked as one; its pieces have been kept before. */
  z.strictObject({ do: z.literal('mix'), order: z.int(), journey: z.unknown() }),
])

export const soundReplySchema = z.discriminatedUnion('is', [
  z.strictObject({ is: z.literal('peaks'), order: z.int(), rate: z.number(), values: floats }),
  /** Null where nothing repeats. */
  z.strictObject({
    is: z.literal('beats'),
    order: z.int(),
    beats: z.strictObject({ tempo: z.number(), times: z.array(z.number()) }).nullable(),
  }),
  /** Null where the film is silent. */
  z.strictObject({ is: z.literal('mix'), order: z.int(), channels: z.tuple([floats, floats]).nullable() }),
  z.strictObject({ is: z.literal('failed'), order: z.int(), message: z.string() }),
])

export type SoundOrder = z.output<typeof soundOrderSchema>
export type SoundReply = z.output<typeof soundReplySchema>
