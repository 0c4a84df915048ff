import { z } from 'zod'
import { parseJourney } from '#core/journey/parse'
import type { Journey } from '#core/journey/schema'
import { frameSchema } from '#core/journey/schema'

/** The server's routes, with what comes back checked. Every failure is an ApiError with a sentence for the person at the screen. */
export class ApiError extends Error {
  constructor(
    message: string,
    /** HTTP status; 0 when the server could not be reached. */
    readonly status: number,
  ) {
    super(message)
  }
}

const summarySchema = z.object({
  id: z.string(),
  name: z.string(),
  revision: z.number(),
  updatedAt: z.number(),
  seconds: z.number(),
  stops: z.number(),
  frame: frameSchema,
})
export type JourneySummary = z.infer<typeof summarySchema>

const recordSchema = z.object({ id: z.string(), revision: z.number(), journey: z.unknown().transform(parseJourney) })
const imageSchema = z.object({ hash: z.string(), width: z.number(), height: z.number() })

export const exportSchema = z.object({
  id: z.string(),
  name: z.string(),
  state: z.enum(['queued', 'running', 'done', 'failed', 'cancelled']),
  framesDone: z.number(),
  framesTotal: z.number(),
  bytes: z.number().nullable(),
  error: z.string().nullable(),
  createdAt: z.number(),
  finishedAt: z.number().nullable(),
})
export type ExportRecord = z.infer<typeof exportSchema>

const UNREACHABLE = 'The server does not answer: see whether Zephyrine is still running.'

async function request(path: string, options: RequestInit = {}): Promise<unknown> {
  let response: Response
  try {
    response = await fetch(path, options)
  } catch {
    throw new ApiError(UNREACHABLE, 0)
  }
  const text = await response.text()
  if (response.ok) return text === '' ? undefined : JSON.parse(text)
  throw new ApiError(messageIn(text), response.status)
}

function messageIn(text: string): string {
  try {
    return z.object({ message: z.string() }).parse(JSON.parse(text)).message
  } catch {
    return 'The server answered with something unexpected: try again.'
  }
}

const json = (method: string, body: unknown): RequestInit => ({
  method,
  headers: { 'content-type': 'application/json' },
  body: JSON.stringify(body),
})

export const listJourneys = async () => z.array(summarySchema).parse(await request('/api/journeys'))
export const readJourney = async (id: string) => recordSchema.parse(await request(`/api/journeys/${id}`))
export const createJourney = async (journey: Journey) => recordSchema.parse(await request('/api/journeys', json('POST', { journey })))
export const saveJourney = async (id: string, revision: number, journey: Journey) =>
  z.object({ revision: z.number() }).parse(await request(`/api/journeys/${id}`, json('PUT', { revision, journey })))
export const deleteJourney = (id: string) => request(`/api/journeys/${id}`, { method: 'DELETE' })
export const restoreJourney = (id: string) => request(`/api/journeys/${id}/restore`, { method: 'POST' })
export const duplicateJourney = async (id: string) => recordSchema.parse(await request(`/api/journeys/${id}/duplicate`, { method: 'POST' }))
export const posterAddress = ({ id, revision }: { id: string; revision: number }) => `/api/journeys/${id}/poster?revision=${revision}`

export const startExport = async (id: string) => exportSchema.parse(await request(`/api/journeys/${id}/exports`, { method: 'POST' }))
export const listExports = async (id: string) => z.array(exportSchema).parse(await request(`/api/journeys/${id}/exports`))
export const cancelExport = (id: string) => request(`/api/exports/${id}`, { method: 'DELETE' })
export const exportAddress = (id: string) => `/api/exports/${id}/file`

/** Calls back with an export's record at each change until it has ended; the returned function stops listening. */
export function watchExport(id: string, listener: (record: ExportRecord) => void): () => void {
  const source = new EventSource(`/api/exports/${id}/events`)
  source.onmessage = (event: MessageEvent<string>) => {
    const record = exportSchema.parse(JSON.parse(event.data))
    listener(record)
    if (record.state !== 'queued' && record.state !== 'running') source.close()
  }
  return () => source.close()
}

export const imageAddress = (hash: string, level: number) => `/api/images/${hash}/${level}`

/** Sends a picture to the server; `onProgress` hears the share of it that is there, 0..1. Aborting the signal stops it. */
export function uploadImage(file: File, onProgress: (share: number) => void, signal: AbortSignal) {
  return new Promise<z.infer<typeof imageSchema>>((resolve, reject) => {
    const upload = new XMLHttpRequest()
    upload.open('POST', `/api/images?name=${encodeURIComponent(file.name)}`)
    upload.upload.onprogress = ({ loaded, total }) => onProgress(total > 0 ? loaded / total : 0)
    upload.onerror = () => reject(new ApiError(UNREACHABLE, 0))
    upload.onabort = () => reject(new ApiError('The import was cancelled.', 0))
    upload.onload = () => {
      if (upload.status === 200) resolve(imageSchema.parse(JSON.parse(upload.responseText)))
      else reject(new ApiError(messageIn(upload.responseText), upload.status))
    }
    signal.addEventListener('abort', () => upload.abort())
    upload.send(file)
  })
}
