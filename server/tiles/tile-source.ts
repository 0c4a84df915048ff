import sharp from 'sharp'
import { JourneyError } from '#core/error'
import type { TileService } from '#core/journey/schema'
import type { ServiceTile } from '#core/tiles/template'
import { hostOf, tileAddressOf } from '#core/tiles/template'
import { vectorTiles } from '#core/tiles/described'
import { formatOfBytes } from '../sheets/files'
import { archiveAt } from './archive'
import type { Client } from './client'

/** The most bytes and pixels of a tile. */
const MOST_BYTES = 4 * 1024 ** 2
export const TILE_PIXELS = 2048 * 2048

/** The pictures that tiles may be, as MBTiles names them. Source: MBTiles 1.3, format. */
const PICTURES = { png: 'png', jpeg: 'jpg', webp: 'webp', avif: 'avif' } as const
export type TileFormat = (typeof PICTURES)[keyof typeof PICTURES]

/** Gives the tiles of a service as files; 'nothing' where it has none. */
export type TileSource = (tile: ServiceTile) => Promise<{ body: Buffer; format: TileFormat } | 'nothing'>

/** @throws JourneyError from the source, if what comes is no picture */
export function tileSource(service: TileService, client: Client): TileSource {
  const archive = service.kind === 'pmtiles' ? archiveAt(service.address, client) : undefined
  return async (tile) => {
    const found = archive
      ? await tileIn(archive, service, tile)
      : await client.get(tileAddressOf(service.address, service.grid, tile), MOST_BYTES)
    // Some services answer with nothing at all where they have nothing.
    if (found === 'nothing' || found.body.length === 0) return 'nothing'
    const format = formatOfBytes(found.body.subarray(0, 512))
    if (format && format in PICTURES) return { body: found.body, format: PICTURES[format as keyof typeof PICTURES] }
    throw new JourneyError(
      isVector(found.body)
        ? vectorTiles(service.name)
        : `${hostOf(service.address)} sends something that is not a picture${wordsIn(found.body)}.`,
    )
  }
}

/** Vector tiles are protocol buffers: a layer is field 3 of the first message, often packed by gzip. Source: Mapbox Vector Tile Specification 2.1. */
const isVector = (body: Buffer): boolean => body[0] === 0x1a || (body[0] === 0x1f && body[1] === 0x8b)

/** What a service says instead of a picture, if that can be read. */
function wordsIn(body: Buffer): string {
  const words = body
    .subarray(0, 2000)
    .toString('utf8')
    .replace(/<[^>]*>/g, ' ')
    .replace(/[^\p{L}\p{N}\p{P} ]+/gu, ' ')
    .replace(/\s+/g, ' ')
    .trim()
    .slice(0, 100)
  return /\p{L}{3}/u.test(words) ? ` but says: “${words}”` : ''
}

async function tileIn(archive: ReturnType<typeof archiveAt>, { grid }: TileService, { level, column, row }: ServiceTile) {
  const found = await archive.getZxy(Number(grid.levels[level]!.id), column, row)
  return found ? { body: Buffer.from(found.data) } : ('nothing' as const)
}

/** The side of a tile in pixels. @throws JourneyError if it is not square, or of no size that tiles have */
export async function sideOf(body: Buffer, name: string): Promise<number> {
  const header = await sharp(body, { limitInputPixels: TILE_PIXELS })
    .metadata()
    .catch(() => undefined)
  if (!header || header.width !== header.height || header.width < 64 || header.width > 1024)
    throw new JourneyError(`“${name}” has tiles that are not pictures of 64 to 1024 pixels a side.`)
  return header.width
}
