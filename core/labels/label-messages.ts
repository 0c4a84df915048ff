import { z } from 'zod'
import type { WorkerCalls } from '../worker-calls'
import type { LabelScene } from './label-solver'

/** What is asked of the worker that looks for the places of labels, and what it answers. */
const number = z.number()
const box = z.strictObject({ left: number, right: number, top: number, bottom: number })
const size = z.strictObject({ width: number, height: number })

const sceneSchema: z.ZodType<LabelScene> = z.strictObject({
  frame: size,
  labels: z
    .array(
      z.strictObject({
        stop: z.string(),
        appears: number,
        leads: z.strictObject({ pin: box, size: number }).nullable(),
        candidates: z
          .array(z.strictObject({ box, play: box, cost: number }))
          .min(1)
          .max(64),
      }),
    )
    .max(1000),
  samples: z
    .array(
      z.strictObject({
        from: number,
        to: number,
        places: z.array(z.strictObject({ x: number, y: number, scale: number }).nullable()),
        obstacles: z.array(z.strictObject({ box, own: z.int().nullable(), to: number.or(z.literal(Infinity)) })),
        lines: z.array(
          z.strictObject({
            points: z.array(number),
            shares: z.array(number),
            depart: number,
            arrive: number,
            ink: number,
            vehicle: box.nullable(),
          }),
        ),
      }),
    )
    .max(10_000),
})

export const LABEL_CALLS = {
  place: { order: sceneSchema, reply: z.strictObject({ chosen: z.array(z.int().min(0)), crowded: z.array(z.string()) }) },
} satisfies WorkerCalls
