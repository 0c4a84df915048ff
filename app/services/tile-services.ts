import { z } from 'zod'
import { describedSchema } from '#core/tiles/described'
import type { Glimpse, TileOrder } from '#core/tiles/order'
import { tileOrderSchema } from '#core/tiles/order'
import { ApiError, checked, json, messageIn, request, UNREACHABLE } from './request'

/** The server's routes for tile services. Every failure is an ApiError with a sentence for the user. */

const foundSchema = describedSchema.extend({ hasKey: z.boolean() })
/** What there is at an address, and whether a key is kept for it. */
export type FoundService = z.output<typeof foundSchema>

/** Finds out what tiles there are at an address. @param key kept by the server for that service; empty if none is given */
export const describeService = async (address: string, key: string, signal: AbortSignal): Promise<FoundService> =>
  checked(foundSchema, await request('/api/services/describe', { ...json('POST', { address, ...(key && { key }) }), signal }))

/** A small picture of a part of a service's map, with the side of its tiles in pixels and their mean bytes. */
export interface ServiceGlimpse {
  blob: Blob
  side: number
  bytes: number
  level: number
}

export async function glimpseService(glimpse: Glimpse, signal: AbortSignal): Promise<ServiceGlimpse> {
  const answer = await fetch('/api/services/glimpse', { ...json('POST', { glimpse }), signal }).catch(() => {
    throw new ApiError(UNREACHABLE, 0)
  })
  if (!answer.ok) throw new ApiError(messageIn(await answer.text()), answer.status)
  const number = (name: string) => Number(answer.headers.get(name))
  return { blob: await answer.blob(), side: number('x-tile-side'), bytes: number('x-tile-bytes'), level: number('x-level') }
}

/** Orders a sheet of tiles. @param from the image of a sheet that has some of them @returns the id of the import that follows */
export const orderTiles = async (order: TileOrder, from: string | undefined): Promise<string> =>
  checked(z.object({ id: z.string() }), await request('/api/takes', json('POST', { order, from }))).id

const brokenOffSchema = z.object({ id: z.string(), order: tileOrderSchema, came: z.number(), count: z.number() })
/** A sheet whose taking was broken off. */
export type BrokenOff = z.output<typeof brokenOffSchema>
export const listBrokenOff = async (): Promise<BrokenOff[]> => checked(z.array(brokenOffSchema), await request('/api/takes'))
export const discardBrokenOff = (id: string) => request(`/api/takes/${id}`, { method: 'DELETE' })

/** The address of the tile service that comes with the demo; null where the server was started without it. */
export const standInAddress = async (): Promise<string | null> =>
  checked(z.object({ address: z.string().nullable() }), await request('/api/stand-in')).address
