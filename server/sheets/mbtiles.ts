import Database from 'better-sqlite3'
import type { OverlayOptions } from 'sharp'
import sharp from 'sharp'
import { JourneyError } from '#core/error'
import { MERCATOR_SIDE } from '#core/geo/earth'
import type { Georeference } from '#core/journey/schema'
import { IMAGE_LIMITS } from '#core/sheet/limits'
import { TILE, tileGrid, tileSize } from '#core/sheet/pyramid'
import type { Built, ImportJob } from './job'
import { buildUpperLevels, emptyPicture, encodeTile } from './pyramid'
import { damaged } from './raster'
import { createTileFile } from './tile-file'
import { importTiles as importPlanned } from '../tiles/import-tiles'
import { planIn, takenTiles } from '../tiles/taken-file'

/** Tiles of one zoom: columns from the west, rows from the north, both ends counted in. */
interface Extent {
  zoom: number
  west: number
  east: number
  north: number
  south: number
}

/**
 * Imports raster tiles from an MBTiles file (MBTiles 1.3): the finest zoom that is not too large becomes the sheet.
 * @throws JourneyError saying what is wrong with the file
 */
export async function importMbtiles({ path, name, tiles }: ImportJob, onProgress: (share: number) => void): Promise<Built> {
  let source: Database.Database
  try {
    source = new Database(path, { readonly: true })
    // Views and triggers in a file from outside must not call anything with side effects.
    source.pragma('trusted_schema = OFF')
  } catch (error) {
    throw damaged(name, error)
  }
  try {
    return await importTiles(source, name, tiles, onProgress)
  } catch (error) {
    if (error instanceof JourneyError) throw error
    throw damaged(name, error)
  } finally {
    source.close()
  }
}

async function importTiles(source: Database.Database, name: string, tiles: string, onProgress: (share: number) => void): Promise<Built> {
  const tables = new Set(source.prepare("SELECT name FROM sqlite_master WHERE type IN ('table', 'view')").pluck().all())
  if (!tables.has('tiles') || !tables.has('metadata'))
    throw new JourneyError(`“${name}” is a database, but not of map tiles: it lacks the tables “tiles” and “metadata” of MBTiles.`)
  const format = source.prepare("SELECT value FROM metadata WHERE name = 'format'").pluck().get()
  if (format === 'pbf')
    throw new JourneyError(`“${name}” holds vector tiles; only tiles that are pictures can be read: export it as raster tiles.`)
  const planned = planIn(source)
  if (planned) return importPlanned(takenTiles(source, planned.grid), planned, { name, tiles, isLossless: format === 'png' }, onProgress)
  const { extent, side } = await findExtent(source, name)
  const size = { width: (extent.east - extent.west + 1) * side, height: (extent.south - extent.north + 1) * side }
  const file = createTileFile(tiles)
  try {
    const { columns, rows } = tileGrid(size, 0)
    for (let row = 0; row < rows; row++) {
      for (let column = 0; column < columns; column++) {
        const data = await tileOf(source, extent, side, { column, row }, size)
        if (data) file.put({ level: 0, column, row }, data)
      }
      onProgress((0.7 * (row + 1)) / rows)
    }
    await buildUpperLevels(file, size, 'webp', (share) => onProgress(0.7 + 0.3 * share))
  } finally {
    file.close()
  }
  return { ...size, vector: false, georeference: georeferenceOf(extent, side), note: null }
}

async function findExtent(source: Database.Database, name: string): Promise<{ extent: Extent; side: number }> {
  const zooms = source
    .prepare(
      `SELECT zoom_level AS zoom, min(tile_column) AS west, max(tile_column) AS east, min(tile_row) AS low, max(tile_row) AS high
       FROM tiles WHERE zoom_level BETWEEN 0 AND 24 GROUP BY zoom_level ORDER BY zoom_level DESC`,
    )
    .all() as { zoom: number; west: number; east: number; low: number; high: number }[]
  if (zooms.length === 0) throw new JourneyError(`“${name}” holds no tiles.`)
  for (const { zoom, west, east, low, high } of zooms) {
    const last = 2 ** zoom - 1
    const numbers = [west, east, low, high]
    if (!numbers.every((n) => Number.isInteger(n) && n >= 0 && n <= last))
      throw new JourneyError(`“${name}” has tiles that lie off the map (zoom ${zoom}): it is damaged.`)
    const side = await tileSide(source, zoom, name)
    const [width, height] = [(east - west + 1) * side, (high - low + 1) * side]
    // Rows are counted from the south (MBTiles 1.3, after the Tile Map Service).
    if (width * height <= IMAGE_LIMITS.pixels && Math.max(width, height) <= IMAGE_LIMITS.side)
      return { extent: { zoom, west, east, north: last - high, south: last - low }, side }
  }
  throw new JourneyError(
    `“${name}” covers too large an area even at its coarsest zoom: up to ${IMAGE_LIMITS.pixels / 1e6} megapixels can be used.`,
  )
}

/** The side of a zoom's tiles in pixels, from one of them. */
async function tileSide(source: Database.Database, zoom: number, name: string): Promise<number> {
  const data = source.prepare('SELECT tile_data FROM tiles WHERE zoom_level = ? LIMIT 1').pluck().get(zoom)
  const header = Buffer.isBuffer(data)
    ? await sharp(data, { limitInputPixels: 4096 * 4096 })
        .metadata()
        .catch(() => undefined)
    : undefined
  if (!header || header.width !== header.height || ![256, 512, 1024].includes(header.width)) {
    throw new JourneyError(`“${name}” holds tiles that are not pictures of 256, 512 or 1024 pixels a side: export it as raster tiles.`)
  }
  return header.width
}

/** One of our tiles, composed of theirs; undefined if all of those are missing. */
async function tileOf(
  source: Database.Database,
  { zoom, west, north }: Extent,
  side: number,
  { column, row }: { column: number; row: number },
  size: { width: number; height: number },
): Promise<Buffer | undefined> {
  const { width, height } = tileSize(size, { level: 0, column, row })
  const [left, top] = [column * TILE, row * TILE]
  const get = source.prepare('SELECT tile_data FROM tiles WHERE zoom_level = ? AND tile_column = ? AND tile_row = ?').pluck()
  const parts: OverlayOptions[] = []
  for (let y = Math.floor(top / side); y * side < top + height; y++) {
    for (let x = Math.floor(left / side); x * side < left + width; x++) {
      const data = get.get(zoom, west + x, 2 ** zoom - 1 - (north + y))
      if (!Buffer.isBuffer(data)) continue
      const [dx, dy] = [x * side - left, y * side - top]
      const picture = sharp(data, { limitInputPixels: 4096 * 4096, failOn: 'truncated' })
        .resize(side, side, { fit: 'fill' })
        .toColourspace('srgb')
      // If their tiles are larger than ours, take only the part inside this one.
      const cut = {
        left: Math.max(0, -dx),
        top: Math.max(0, -dy),
        width: Math.min(side, width - dx) - Math.max(0, -dx),
        height: Math.min(side, height - dy) - Math.max(0, -dy),
      }
      parts.push({ input: await picture.extract(cut).png({ compressionLevel: 1 }).toBuffer(), left: Math.max(0, dx), top: Math.max(0, dy) })
    }
  }
  if (parts.length === 0) return undefined
  return encodeTile(sharp(emptyPicture(width, height)).composite(parts), 'webp')
}

function georeferenceOf({ zoom, west, north }: Extent, side: number): Georeference {
  const tile = MERCATOR_SIDE / 2 ** zoom
  const pixel = tile / side
  return {
    kind: 'affine',
    source: 'mbtiles',
    plane: { kind: 'mercator' },
    matrix: [pixel, 0, west * tile - MERCATOR_SIDE / 2, 0, -pixel, MERCATOR_SIDE / 2 - north * tile],
  }
}
