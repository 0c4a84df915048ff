import type { H3Event } from 'h3'
import { createError, getQuery, getRouterParam } from 'h3'
import { z } from 'zod'
import { JourneyError } from '#core/error'
import { pastSchema } from '#core/journey/history'
import { describeIssue, parseJourney } from '#core/journey/parse'
import { filesOf } from '#core/journey/files'
import type { Journey } from '#core/journey/schema'
import { MOST_WEIGHT } from '#core/journey/weight'
import { database, dataFolder } from '../storage/database'
import { hasFile } from '../storage/has-file'

/** An error response whose message is one sentence for the person at the screen. */
export const refusal = (statusCode: number, message: string, data?: unknown) => createError({ statusCode, message, data })

/** A route parameter that must look like an id. */
export function idParameter(event: H3Event, name = 'id'): string {
  const value = getRouterParam(event, name) ?? ''
  if (!/^[\w-]{1,64}$/.test(value)) throw refusal(404, 'There is nothing at this address.')
  return value
}

/** The largest request with a journey, in bytes: beside its lines it has stops and undo steps, which are small. */
const MOST_BODY = MOST_WEIGHT + 16 * 1024 ** 2

/** The body of a request. Anything beyond the limit is drained: closing the connection would keep the answer from the client. */
async function boundedBody(event: H3Event, most: number, tooLarge: string): Promise<Buffer> {
  const { req } = event.node
  const chunks: Buffer[] = []
  let bytes = 0
  await new Promise<void>((resolve, reject) => {
    req.on('data', (chunk: Buffer) => {
      bytes += chunk.length
      if (bytes <= most) chunks.push(chunk)
    })
    req.on('end', resolve)
    req.on('error', reject)
  })
  if (bytes > most) throw refusal(413, tooLarge)
  return Buffer.concat(chunks)
}

/** The JSON body of a request, checked against a schema. */
export async function jsonBody<T>(event: H3Event, schema: z.ZodType<T>): Promise<T> {
  let data: unknown
  const text = (await boundedBody(event, MOST_BODY, 'The request is too large for a journey.')).toString('utf8')
  try {
    data = JSON.parse(text)
  } catch {
    throw refusal(400, 'The request is not JSON.')
  }
  const result = schema.safeParse(data)
  if (!result.success) throw refusal(422, `Invalid request: ${describeIssue(result.error)}.`)
  return result.data
}

const named = z.object({ name: z.string().min(1).max(255) })

/** The file name that a request is sent with, as `name`. */
export function fileNameIn(event: H3Event): string {
  const { success, data } = named.safeParse(getQuery(event))
  if (!success) throw refusal(400, 'The file came without a name.')
  return data.name
}

/** A file in the body of a request that is sent with its name. @param most bytes @param what it is, in a word */
export async function namedFile(event: H3Event, most: number, what: string): Promise<{ name: string; file: Buffer }> {
  const name = fileNameIn(event)
  return { name, file: await boundedBody(event, most, `“${name}” is larger than ${most / 1024 ** 2} MiB: choose a smaller ${what}.`) }
}

/** A journey from a request, valid and with all the files that it names. */
export function checkedJourney(data: unknown): Journey {
  const journey = orRefuse(() => parseJourney(data))
  for (const { kind, hash, missing } of filesOf(journey)) if (!hasFile(database(), dataFolder(), kind, hash)) throw refusal(422, missing)
  return journey
}

/** Aborts when nobody waits for the answer any more. */
export function signalOf(event: H3Event): AbortSignal {
  const left = new AbortController()
  // Nobody reads this, and it is no error of ours that would have to be logged.
  event.node.res.on('close', () => left.abort(refusal(409, 'Nobody waits for the answer.')))
  return left.signal
}

/** Runs something that may throw a JourneyError, and turns that into a response. */
export function orRefuse<T>(run: () => T): T {
  try {
    return run()
  } catch (error) {
    throw error instanceof JourneyError ? refusal(422, error.message) : error
  }
}

/** The same of something that takes a while. */
export async function orRefuseLater<T>(result: Promise<T>): Promise<T> {
  try {
    return await result
  } catch (error) {
    throw error instanceof JourneyError ? refusal(422, error.message) : error
  }
}

export const journeyBody = z.object({ journey: z.unknown() })
export const saveBody = z.object({ revision: z.int().min(1), journey: z.unknown(), past: pastSchema.default([]) })

export const noJourney = () => refusal(404, 'This journey is not here: it may have been deleted.')
export const noVersion = () => refusal(404, 'This version is not here: it may have been deleted.')
export const noPoster = () => refusal(404, 'There is no picture of this journey yet.')
export const noExport = () => refusal(404, 'This export is not here.')
export const noImport = () => refusal(404, 'This import is not here: it ended a while ago.')
