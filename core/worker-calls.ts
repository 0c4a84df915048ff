import { z } from 'zod'

/** How the page and its workers speak with each other: one protocol for all of them. app/services/call-worker.ts asks, app/workers/serve.ts answers. */

/** What may be asked of a worker, by name: what goes there and what comes back. Both sides check what they get. */
export type WorkerCalls = Readonly<Record<string, { order: z.ZodType; reply: z.ZodType }>>
export type OrderOf<Calls extends WorkerCalls, Name extends keyof Calls> = z.output<Calls[Name]['order']>
export type ReplyOf<Calls extends WorkerCalls, Name extends keyof Calls> = z.output<Calls[Name]['reply']>

const call = z.int().min(0)

export const requestSchema = z.strictObject({ call, name: z.string(), order: z.unknown() })

/** Any number of times how far a call is, then what came of it, or the name and the message of an error. */
export const answerSchema = z.discriminatedUnion('is', [
  z.strictObject({ is: z.literal('progress'), call, share: z.number().min(0).max(1) }),
  z.strictObject({ is: z.literal('done'), call, reply: z.unknown() }),
  z.strictObject({ is: z.literal('failed'), call, name: z.string(), message: z.string() }),
])

export type Request = z.output<typeof requestSchema>
export type Answer = z.output<typeof answerSchema>
