import { z } from 'zod'
import type { NewStyle } from '#core/dress/own-styles'
import { newStyleSchema } from '#core/dress/own-styles'
import { FILM_FORMAT_IDS } from '#core/film/formats'
import type { FilmCost, FilmSettings } from '#core/film/settings'
import { filmCostSchema, filmPaceSchema } from '#core/film/settings'
import type { LonLat } from '#core/geo/lon-lat'
import { FILE_KINDS } from '#core/journey/files'
import type { Past } from '#core/journey/history'
import { pastSchema } from '#core/journey/history'
import { parseJourney } from '#core/journey/parse'
import type { DrawnMap, Journey, OwnFont, Plane, Sheet } from '#core/journey/schema'
import { fontSchema, frameSchema, georeferenceSchema, planeSchema } from '#core/journey/schema'
import type { WrittenPlace } from '#core/writing/written-trip'
import type { SheetFormat } from '#core/sheet/limits'
import { SHEET_FORMATS } from '#core/sheet/limits'
import { ApiError, checked, json, messageIn, request, UNREACHABLE } from './request'

export { ApiError }

const summarySchema = z.object({
  id: z.string(),
  name: z.string(),
  revision: z.number(),
  updatedAt: z.number(),
  seconds: z.number(),
  stops: z.number(),
  frame: frameSchema,
  /** The revision that its poster shows; null where there is none yet. */
  poster: z.number().nullable(),
  posterIsComing: z.boolean(),
})
export type JourneySummary = z.infer<typeof summarySchema>

const recordSchema = z.object({ id: z.string(), revision: z.number(), journey: z.unknown().transform(parseJourney), past: pastSchema })
export type JourneyRecord = z.output<typeof recordSchema>

const imageSchema = z.object({
  hash: z.string(),
  width: z.number(),
  height: z.number(),
  vector: z.boolean(),
  georeference: georeferenceSchema.nullable(),
  /** Why it has none although its file means to say where it lies. */
  note: z.string().nullable(),
  /** Of tiles of a service, how many did not come. */
  missing: z.int().optional(),
})
/** An image that can be laid as a sheet. */
export type ImageRecord = z.infer<typeof imageSchema>

const importSchema = z.discriminatedUnion('state', [
  z.object({ state: z.literal('running'), share: z.number() }),
  z.object({ state: z.literal('done'), result: z.unknown() }),
  z.object({ state: z.literal('failed'), error: z.string() }),
  z.object({ state: z.literal('cancelled') }),
])

const openedSchema = z.object({
  id: z.string(),
  name: z.string(),
  /** The journey of the list that it was saved from, if it is there still. */
  sameAs: z.object({ id: z.string(), name: z.string() }).nullable(),
  /** A sentence for each file that it does without, as it was missing. */
  missing: z.array(z.string()),
})
/** A journey that came out of a file. */
export type OpenedJourney = z.infer<typeof openedSchema>

const exportSchema = z.object({
  id: z.string(),
  name: z.string(),
  format: z.enum(FILM_FORMAT_IDS),
  state: z.enum(['queued', 'running', 'done', 'failed', 'cancelled']),
  framesDone: z.number(),
  framesTotal: z.number(),
  bytes: z.number().nullable(),
  error: z.string().nullable(),
  createdAt: z.number(),
  finishedAt: z.number().nullable(),
})
export type ExportRecord = z.infer<typeof exportSchema>

export const listJourneys = async () => z.array(summarySchema).parse(await request('/api/journeys'))
export const readJourney = async (id: string) => recordSchema.parse(await request(`/api/journeys/${id}`))
export const createJourney = async (journey: Journey) => recordSchema.parse(await request('/api/journeys', json('POST', { journey })))
export const saveJourney = async (id: string, revision: number, journey: Journey, past: Past = []) =>
  checked(z.object({ revision: z.number() }), await request(`/api/journeys/${id}`, json('PUT', { revision, journey, past })))
export const deleteJourney = (id: string) => request(`/api/journeys/${id}`, { method: 'DELETE' })
export const restoreJourney = (id: string) => request(`/api/journeys/${id}/restore`, { method: 'POST' })
export const duplicateJourney = async (id: string) => recordSchema.parse(await request(`/api/journeys/${id}/duplicate`, { method: 'POST' }))

const versionSchema = z.object({ id: z.string(), name: z.string(), createdAt: z.number() })
export type Version = z.infer<typeof versionSchema>
const versionsOf = (id: string) => `/api/journeys/${id}/versions`
export const listVersions = async (id: string) => checked(z.array(versionSchema), await request(versionsOf(id)))
export const keepVersion = async (id: string, name: string, journey: Journey) =>
  checked(versionSchema, await request(versionsOf(id), json('POST', { name, journey })))
export const readVersion = async (id: string, version: string) =>
  z.object({ journey: z.unknown().transform(parseJourney) }).parse(await request(`${versionsOf(id)}/${version}`)).journey
export const deleteVersion = (id: string, version: string) => request(`${versionsOf(id)}/${version}`, { method: 'DELETE' })

export const posterAddress = (id: string, revision: number) => `/api/journeys/${id}/poster?revision=${revision}`

const ownStyleSchema = z.looseObject({ id: z.string() }).transform(({ id, ...style }): OwnStyle => ({ ...newStyleSchema.parse(style), id }))
/** A look that was kept under a name. */
export type OwnStyle = NewStyle & { id: string }
export const listStyles = async (): Promise<OwnStyle[]> => checked(z.array(ownStyleSchema), await request('/api/styles'))
export const keepStyle = async (style: NewStyle): Promise<OwnStyle> =>
  checked(ownStyleSchema, await request('/api/styles', json('POST', style)))
export const deleteStyle = (id: string) => request(`/api/styles/${id}`, { method: 'DELETE' })

/** Keeps a font file on the server. @returns what is needed to lay letters out in it */
export const uploadFont = async (file: File): Promise<OwnFont> =>
  checked(fontSchema, await request(`/api/fonts?name=${encodeURIComponent(file.name)}`, { method: 'POST', body: file }))

const lutAdded = z.object({ file: z.string(), name: z.string() })

/** Keeps a .cube file on the server. */
export const uploadLut = async (file: File): Promise<z.output<typeof lutAdded>> =>
  checked(lutAdded, await request(`/api/luts?name=${encodeURIComponent(file.name)}`, { method: 'POST', body: file }))

/** The text of a .cube file. */
export async function readLut(hash: string): Promise<string> {
  const answer = await fetch(`/api/luts/${hash}`).catch(() => undefined)
  if (!answer?.ok) throw new ApiError('The LUT of the colour grade is missing: add its file again.', answer?.status ?? 0)
  return answer.text()
}

const audioAdded = z.object({ file: z.string(), name: z.string(), seconds: z.number() })

/** Takes in a file of music or speech. Aborting the signal cancels it. */
export const uploadAudio = async (file: File, signal: AbortSignal): Promise<z.output<typeof audioAdded>> =>
  checked(audioAdded, await request(`/api/audio?name=${encodeURIComponent(file.name)}`, { method: 'POST', body: file, signal }))

/** A piece of sound: two channels in turn of 16-bit integers, at 48 000 samples a second. */
export async function readAudio(hash: string): Promise<Int16Array<ArrayBuffer>> {
  const answer = await fetch(`/api/audio/${hash}`).catch(() => undefined)
  if (!answer?.ok) throw new ApiError('A sound file is missing: add it again.', answer?.status ?? 0)
  return new Int16Array(await answer.arrayBuffer())
}

const filedSchema = z.array(z.object({ hash: z.string(), bytes: z.number(), name: z.string().nullable(), isUsed: z.boolean() }))
const storageSchema = z.object({
  deleted: z.array(z.object({ id: z.string(), name: z.string(), deletedAt: z.number() })),
  films: z.array(z.object({ id: z.string(), name: z.string(), createdAt: z.number(), bytes: z.number() })),
  pictures: z.array(
    z.object({
      hash: z.string(),
      format: z.enum(Object.keys(SHEET_FORMATS) as [SheetFormat, ...SheetFormat[]]),
      width: z.number(),
      height: z.number(),
      bytes: z.number(),
      isUsed: z.boolean(),
    }),
  ),
  audio: filedSchema,
  fonts: filedSchema,
  luts: filedSchema,
})
/** What takes up room in the data folder. */
export type Storage = z.infer<typeof storageSchema>
export const readStorage = async () => checked(storageSchema, await request('/api/storage'))
/** Deletes a file that nothing uses, by its content hash. */
export const deleteKept = (kind: 'images' | 'audio' | 'fonts' | 'luts', hash: string) =>
  request(`/api/${kind}/${hash}`, { method: 'DELETE' })

/** @param name the title of the file */
export const startExport = async (id: string, settings: FilmSettings, name: string) =>
  exportSchema.parse(await request(`/api/journeys/${id}/exports`, { method: 'POST', body: JSON.stringify({ settings, name }) }))
export const listExports = async (id: string) => z.array(exportSchema).parse(await request(`/api/journeys/${id}/exports`))
/** What an export would take, by a few frames of it; undefined while films are being made. */
export async function measureExport(id: string, settings: FilmSettings, signal: AbortSignal): Promise<FilmCost | undefined> {
  const answer = await request(`/api/journeys/${id}/estimate`, { method: 'POST', body: JSON.stringify({ settings }), signal })
  return answer ? checked(filmCostSchema, answer) : undefined
}
/** What the last films took that were made on this machine, the newest first. */
export const listPaces = async () => checked(z.array(filmPaceSchema), await request('/api/exports/paces'))
/** Cancels an export that is under way; deletes one that has ended, with its film. */
export const removeExport = (id: string) => request(`/api/exports/${id}`, { method: 'DELETE' })
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

const importId = z.object({ id: z.string() })
const CANCELLED = 'The import was cancelled.'

/** Uploads a map or a photo; `onProgress` gets the share uploaded, 0..1. @returns the id of the import that follows */
export const uploadImage = (file: File, onProgress: (share: number) => void, signal: AbortSignal): Promise<string> =>
  upload('/api/images', file, onProgress, signal)

/** Opens a journey file as a new journey; `onProgress` gets the share done, 0..1. */
export async function openJourneyFile(file: File, onProgress: (share: number) => void, signal: AbortSignal): Promise<OpenedJourney> {
  const id = await upload('/api/journeys/files', file, (share) => onProgress(share / 2), signal)
  return follow(id, openedSchema, (share) => onProgress((1 + share) / 2), signal)
}

/** Puts a journey that was opened from a file in the place of the one that it was saved from. */
export const replaceJourney = (id: string, by: string) => request(`/api/journeys/${id}/replace`, json('POST', { by }))

const contentSchema = z.object({
  kinds: z.array(z.object({ kind: z.enum(FILE_KINDS), count: z.int(), bytes: z.number() })),
  versions: z.int(),
  missing: z.array(z.string()),
})
const contentsSchema = z.object({ plain: contentSchema, whole: contentSchema })
/** What would be in a journey's file, without and with its versions. */
export type JourneyFileContents = z.infer<typeof contentsSchema>
export const journeyFileContents = async (id: string): Promise<JourneyFileContents> =>
  checked(contentsSchema, await request(`/api/journeys/${id}/file/contents`))
export const journeyFileAddress = (id: string, withVersions: boolean) => `/api/journeys/${id}/file${withVersions ? '?versions=1' : ''}`

function upload(to: string, file: File, onProgress: (share: number) => void, signal: AbortSignal): Promise<string> {
  return new Promise((resolve, reject) => {
    const sending = new XMLHttpRequest()
    sending.open('POST', `${to}?name=${encodeURIComponent(file.name)}`)
    sending.upload.onprogress = ({ loaded, total }) => onProgress(total > 0 ? loaded / total : 0)
    sending.onerror = () => reject(new ApiError(UNREACHABLE, 0))
    sending.onabort = () => reject(new ApiError(CANCELLED, 0))
    sending.onload = () => {
      if (sending.status === 202) resolve(importId.parse(JSON.parse(sending.responseText)).id)
      else reject(new ApiError(messageIn(sending.responseText), sending.status))
    }
    signal.addEventListener('abort', () => sending.abort())
    sending.send(file)
  })
}

/** Waits for an import to end; `onProgress` gets the share of the work done, 0..1. Aborting the signal cancels it. */
export const followImport = (id: string, onProgress: (share: number) => void, signal: AbortSignal): Promise<ImageRecord> =>
  follow(id, imageSchema, onProgress, signal)

function follow<T>(id: string, schema: z.ZodType<T>, onProgress: (share: number) => void, signal: AbortSignal): Promise<T> {
  return new Promise((resolve, reject) => {
    const source = new EventSource(`/api/imports/${id}/events`)
    const end = (settle: () => void) => {
      source.close()
      settle()
    }
    source.onerror = () => end(() => reject(new ApiError(UNREACHABLE, 0)))
    source.onmessage = (event: MessageEvent<string>) => {
      const record = importSchema.parse(JSON.parse(event.data))
      if (record.state === 'running') onProgress(record.share)
      else if (record.state === 'done') end(() => resolve(schema.parse(record.result)))
      else end(() => reject(new ApiError(record.state === 'failed' ? record.error : CANCELLED, 0)))
    }
    signal.addEventListener('abort', () => {
      void request(`/api/imports/${id}`, { method: 'DELETE' }).catch(() => {})
      end(() => reject(new ApiError(CANCELLED, 0)))
    })
  })
}

const placeSchema = z.object({
  id: z.number(),
  name: z.string(),
  known: z.string(),
  region: z.string(),
  country: z.string(),
  countryCode: z.string(),
  population: z.number(),
  lon: z.number(),
  lat: z.number(),
  zone: z.string(),
  isExact: z.boolean(),
})
export type Place = z.infer<typeof placeSchema>

/** The best matches for a place name; of equally good ones those near the view come first. */
export async function searchPlaces(text: string, near: LonLat | undefined, signal: AbortSignal): Promise<Place[]> {
  const query = new URLSearchParams({ q: text, ...(near && { lon: String(near.lon), lat: String(near.lat) }) })
  return z.array(placeSchema).parse(await request(`/api/places?${query}`, { signal }))
}

/** The largest place within a number of kilometres of a spot on the Earth. */
export async function placeAt({ lon, lat }: LonLat, km: number): Promise<Place | undefined> {
  const query = new URLSearchParams({ lon: String(lon), lat: String(lat), km: String(km) })
  return placeSchema.nullable().parse(await request(`/api/places/at?${query}`)) ?? undefined
}

const resolvedSchema = z.object({
  from: z.number(),
  name: z.string(),
  at: z.object({ lon: z.number(), lat: z.number() }).nullable(),
  options: z.array(placeSchema),
  isUncertain: z.boolean(),
})
/** A place of a written trip that has been looked up: see server/places/resolve.ts. */
export type ResolvedPlace = z.infer<typeof resolvedSchema>

/** Looks up the places of a written trip, chosen together. */
export const resolveTrip = async (
  places: readonly Pick<WrittenPlace, 'name' | 'within' | 'at' | 'by'>[],
  signal: AbortSignal,
): Promise<ResolvedPlace[]> => checked(z.array(resolvedSchema), await request('/api/trips/places', { ...json('POST', { places }), signal }))

/** A coordinate system by its EPSG number. */
export const readSystem = async (code: number): Promise<Plane> => planeSchema.parse(await request(`/api/systems/${code}`))

const countrySchema = z.object({
  id: z.string(),
  name: z.string(),
  region: z.object({ west: z.number(), south: z.number(), east: z.number(), north: z.number() }),
})
export type Country = z.infer<typeof countrySchema>

export const listCountries = async () => z.array(countrySchema).parse(await request('/api/countries'))

/** The outlines of a country in the pixels of a georeferenced sheet. */
export const countryOutline = async (country: string, { georeference, width, height }: Pick<Sheet, 'georeference' | 'width' | 'height'>) =>
  z
    .object({ name: z.string(), rings: z.array(z.array(z.number())) })
    .parse(await request('/api/areas', json('POST', { country, georeference, width, height })))

/** Orders a generated map. @returns the id of the import that makes its image */
export const drawMap = async (map: DrawnMap) => importId.parse(await request('/api/maps', json('POST', { map }))).id

export interface MapPreview {
  blob: Blob
  /** How far apart the points of the coasts are, in metres; null without coasts. */
  coastMetres: number | null
}

/** A preview of a generated map. @throws ApiError for a map that cannot be drawn */
export async function previewMap(map: DrawnMap, signal: AbortSignal): Promise<MapPreview> {
  const response = await fetch('/api/maps/preview', { ...json('POST', { map }), signal }).catch((error: unknown) => {
    throw signal.aborted ? error : new ApiError(UNREACHABLE, 0)
  })
  if (!response.ok) throw new ApiError(messageIn(await response.text()), response.status)
  const metres = response.headers.get('x-coast-metres')
  return { blob: await response.blob(), coastMetres: metres === null ? null : Number(metres) }
}
