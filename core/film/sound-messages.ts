import { z } from 'zod'
import { MOST_AUDIO } from '../journey/pace-schema'
import type { WorkerCalls } from '../worker-calls'
import { SOUND_RATE } from '../sound/pcm'

/** What is asked of the worker for sound, and what it answers. Samples are two channels in turn, at `SOUND_RATE`. */

const MOST_SAMPLES = 2 * SOUND_RATE * (MOST_AUDIO + 2)
const samples = z.custom<Int16Array<ArrayBuffer>>((value) => value instanceof Int16Array && value.length <= MOST_SAMPLES, 'must be samples')
const floats = z.instanceof(Float32Array) as z.ZodType<Float32Array<ArrayBuffer>>

export const SOUND_CALLS = {
  /** Keeps a piece, and answers with its peaks. */
  keep: { order: z.strictObject({ file: z.string(), samples }), reply: z.strictObject({ rate: z.number(), values: floats }) },
  /** The beats in a part of a piece, in seconds; null where nothing repeats. */
  beats: {
    order: z.strictObject({ file: z.string(), from: z.number(), to: z.number() }),
    reply: z
      .strictObject({
        tempo: z.number(),
        times: z.array(z.number()),
        bars: z.strictObject({ beats: z.number(), first: z.number() }).optional(),
      })
      .nullable(),
  },
  /** What is heard with a film, whose journey is checked as one; null where it is silent. Its pieces have been kept before. */
  mix: { order: z.strictObject({ journey: z.unknown() }), reply: z.tuple([floats, floats]).nullable() },
} satisfies WorkerCalls
