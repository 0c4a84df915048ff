import { open } from 'node:fs/promises'
import type { RangeResponse, Source } from 'pmtiles'
import { PMTiles, TileType } from 'pmtiles'
import { JourneyError } from '#core/error'
import type { Described } from '#core/tiles/described'
import { checkedService, plainText, vectorTiles } from '#core/tiles/described'
import { webMercatorGrid } from '#core/tiles/grids'
import { regionOfBounds } from '#core/tiles/tilejson'
import { hostOf } from '#core/tiles/template'
import type { Client } from './client'

/** PMTiles archives, version 3: one file of tiles, of which parts are asked for. Source: PMTiles version 3 specification; read by the package pmtiles. */

/** The most bytes asked for at once: directories and tiles are far smaller. */
const MOST_RANGE = 16 * 1024 ** 2

/** An archive at an address, read by range requests. */
export function archiveAt(address: string, client: Client): PMTiles {
  const source: Source = {
    getKey: () => address,
    async getBytes(offset, length): Promise<RangeResponse> {
      if (length > MOST_RANGE) throw new JourneyError(tooLarge)
      const found = await client.get(address, MOST_RANGE, { range: `bytes=${offset}-${offset + length - 1}` })
      if (found === 'nothing') throw new JourneyError(`There is no file at this address of ${hostOf(address)}.`)
      // A server that knows no ranges sends all of it, which is cut here where it is small.
      const whole = found.body.length > length
      return { data: asArrayBuffer(whole ? found.body.subarray(offset, offset + length) : found.body) }
    },
  }
  return new PMTiles(source)
}

const tooLarge = 'The archive asks for parts that are larger than a tile or a directory may be: it is damaged.'

/** An archive in a file. */
export function archiveIn(path: string): PMTiles {
  const source: Source = {
    getKey: () => path,
    async getBytes(offset, length) {
      if (length > MOST_RANGE) throw new JourneyError(tooLarge)
      const file = await open(path)
      try {
        const buffer = Buffer.alloc(length)
        const { bytesRead } = await file.read(buffer, 0, length, offset)
        // The first that is asked for is the header with as much after it as there may be.
        if (offset > 0 && bytesRead < length) throw new Error('The archive is cut short.')
        return { data: asArrayBuffer(buffer.subarray(0, bytesRead)) }
      } finally {
        await file.close()
      }
    },
  }
  return new PMTiles(source)
}

const asArrayBuffer = (bytes: Buffer): ArrayBuffer => bytes.buffer.slice(bytes.byteOffset, bytes.byteOffset + bytes.length) as ArrayBuffer

/** What is said of an archive whose tiles are no pictures. */
export function checkTileType(type: TileType, name: string): void {
  if (type === TileType.Mvt) throw new JourneyError(vectorTiles(name))
  if (![TileType.Png, TileType.Jpeg, TileType.Webp, TileType.Avif].includes(type))
    throw new JourneyError(`“${name}” does not say that its tiles are PNG, JPEG, WebP or AVIF: only these can be used.`)
}

/** What an archive says of itself. @throws JourneyError */
export async function describeArchive(address: string, client: Client): Promise<Described> {
  const archive = archiveAt(address, client)
  const header = await archive.getHeader()
  const metadata = (await archive.getMetadata().catch(() => ({}))) as { name?: unknown; attribution?: unknown } | undefined
  const words = (value: unknown, most: number) => (typeof value === 'string' ? plainText(value, most) : '')
  const name = words(metadata?.name, 120) || decodeURIComponent(address.split(/[?#]/)[0]!.split('/').at(-1) ?? '') || 'Archive'
  checkTileType(header.tileType, name)
  const { minZoom, maxZoom, minLon, minLat, maxLon, maxLat } = header
  if (maxZoom < minZoom || maxZoom > 29)
    throw new JourneyError(`“${name}” says that its levels go from ${minZoom} to ${maxZoom}: it is damaged.`)
  return {
    is: 'pmtiles',
    credit: { title: name, author: words(metadata?.attribution, 300), licence: '', source: hostOf(address) },
    terms: '',
    maps: [
      {
        id: 'archive',
        title: name,
        service: checkedService({
          name,
          kind: 'pmtiles',
          address,
          grid: webMercatorGrid(256, minZoom, maxZoom),
          covers: regionOfBounds([minLon, minLat, maxLon, maxLat]),
        }),
      },
    ],
    unusable: [],
  }
}
