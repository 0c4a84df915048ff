import Database from 'better-sqlite3'
import type { MapStyle } from '#core/journey/schema'
import type { EarthPicture } from '#core/maps/map-raster'
import { imageryOf } from '#core/sheet/imagery'
import type { MapSource, Town } from '#draw/maps/map-part'
import { placesPath } from '../places/places'
import { readEarthPicture, readEarthSurface } from './earth'
import { landPath, readLandFile } from './land-file'
import { shapesFor } from './world'

/** More towns than this are not painted on one block: the smallest are left out. */
const MOST_TOWNS = 40_000

type Imagery = Parameters<MapSource['picture']>[0]

let opened: Promise<Omit<MapSource, 'picture'>> | undefined
const pictures = new Map<Imagery, Promise<EarthPicture>>()

/**
 * What maps of a style are painted from. It stays in memory, some 150 MB: a process that draws maps ends when it has had nothing to do for some time. The files
 * of `mapDataMade` must be there.
 */
export async function mapSource(style: MapStyle): Promise<MapSource> {
  const imagery = imageryOf(style)
  const coming = imagery && (pictures.get(imagery) ?? readEarthPicture(imagery))
  if (coming) pictures.set(imagery, coming)
  const [source, picture] = await Promise.all([(opened ??= open()), coming])
  // Only styles of imagery ask for a picture, and for their own.
  return { ...source, picture: () => picture! }
}

async function open(): Promise<Omit<MapSource, 'picture'>> {
  const surface = await readEarthSurface()
  const land = readLandFile(landPath())
  const db = new Database(placesPath(), { readonly: true })
  const everywhere = db.prepare('SELECT lon, lat, population FROM places WHERE population >= ? ORDER BY population DESC LIMIT ?')
  const within = db.prepare(`
    SELECT lon, lat, population FROM places
    WHERE lat BETWEEN :south AND :north AND population >= :population
      AND (lon BETWEEN :west AND :east OR lon + 360 BETWEEN :west AND :east OR lon - 360 BETWEEN :west AND :east)
    ORDER BY population DESC LIMIT :most
  `)
  return {
    shapes: shapesFor,
    land: () => land,
    surface: () => surface,
    towns(bounds, population) {
      const found = bounds ? within.all({ ...bounds, population, most: MOST_TOWNS }) : everywhere.all(population, MOST_TOWNS)
      return (found as Town[]).reverse()
    },
  }
}
