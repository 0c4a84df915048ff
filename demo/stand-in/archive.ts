import { gzipSync } from 'node:zlib'
import { zxyToTileId } from 'pmtiles'
import { MERCATOR_SIDE } from '#core/geo/earth'
import { webMercator } from '#core/geo/plane'
import { webMercatorGrid } from '#core/tiles/grids'
import { SHEET } from '../places'
import { ISLES, islesTile } from './isles-tiles'

/** The Isles as a PMTiles archive. Source: PMTiles version 3 specification (sections 3 to 5). */

const HEADER = 127
/** The finest level in the archive: a pixel of it is a little larger than one of the sheet. */
const LAST = 12

const GZIP = 2
const WEBP = 4
const NOT_COMPRESSED = 1

function varint(value: number, out: number[]): void {
  for (let rest = value; ; rest = Math.floor(rest / 128)) {
    if (rest < 128) return void out.push(rest)
    out.push((rest % 128) + 128)
  }
}

interface Entry {
  id: number
  offset: number
  length: number
}

/** A directory: the count, then ids as differences, run lengths, lengths, and offsets plus one, each as a column. */
function directory(entries: readonly Entry[]): Buffer {
  const out: number[] = []
  varint(entries.length, out)
  entries.forEach(({ id }, i) => varint(id - (entries[i - 1]?.id ?? 0), out))
  for (let i = 0; i < entries.length; i++) varint(1, out)
  for (const { length } of entries) varint(length, out)
  for (const { offset } of entries) varint(offset + 1, out)
  return gzipSync(Buffer.from(out))
}

/** Columns and rows of a level that show any of the sheet. */
function rangeAt(level: number) {
  const tile = MERCATOR_SIDE / 2 ** level
  const column = (x: number) => Math.floor((x + MERCATOR_SIDE / 2) / tile)
  const row = (y: number) => Math.floor((MERCATOR_SIDE / 2 - y) / tile)
  return {
    west: column(ISLES.left),
    east: column(ISLES.left + SHEET.width * ISLES.pixel),
    north: row(ISLES.top),
    south: row(ISLES.top - SHEET.height * ISLES.pixel),
  }
}

/** Makes the archive. */
export async function islesArchive(): Promise<Buffer> {
  const grid = webMercatorGrid(256, 0, LAST)
  const tiles: { id: number; data: Buffer }[] = []
  for (let level = 0; level <= LAST; level++) {
    const { west, east, north, south } = rangeAt(level)
    for (let row = north; row <= south; row++)
      for (let column = west; column <= east; column++)
        tiles.push({ id: zxyToTileId(level, column, row), data: await islesTile(grid, { level, column, row }, 'webp') })
  }
  tiles.sort((a, b) => a.id - b.id)
  let offset = 0
  const entries = tiles.map(({ id, data }) => {
    const entry = { id, offset, length: data.length }
    offset += data.length
    return entry
  })
  const root = directory(entries)
  const metadata = gzipSync(JSON.stringify({ name: 'Lantern Isles', attribution: 'Zephyrine' }))
  const header = Buffer.alloc(HEADER)
  header.write('PMTiles', 0, 'latin1')
  header[7] = 3
  const number = (value: number, at: number) => header.writeBigUInt64LE(BigInt(value), at)
  number(HEADER, 8)
  number(root.length, 16)
  number(HEADER + root.length, 24)
  number(metadata.length, 32)
  // No leaf directories.
  number(HEADER + root.length + metadata.length, 40)
  number(0, 48)
  number(HEADER + root.length + metadata.length, 56)
  number(offset, 64)
  for (const at of [72, 80, 88]) number(tiles.length, at)
  header.set([1, GZIP, NOT_COMPRESSED, WEBP, 0, LAST], 96)
  const upper = webMercator.inverse({ x: ISLES.left, y: ISLES.top })!
  const lower = webMercator.inverse({ x: ISLES.left + SHEET.width * ISLES.pixel, y: ISLES.top - SHEET.height * ISLES.pixel })!
  const degrees = (value: number, at: number) => header.writeInt32LE(Math.round(value * 1e7), at)
  degrees(upper.lon, 102)
  degrees(lower.lat, 106)
  degrees(lower.lon, 110)
  degrees(upper.lat, 114)
  header[118] = 8
  degrees((upper.lon + lower.lon) / 2, 119)
  degrees((upper.lat + lower.lat) / 2, 123)
  return Buffer.concat([header, root, metadata, ...tiles.map(({ data }) => data)])
}
