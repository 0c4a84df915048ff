import type { GeoTIFFImage } from 'geotiff'
import { fromFile } from 'geotiff'
import type { Georeference, Plane } from '#core/journey/schema'
import { georeferenceSchema } from '#core/journey/sheet-schema'

/** Coordinate systems by their EPSG number: geographic ones in degrees, Web Mercator, and UTM on WGS 84, ETRS89 or NAD83, which here count as one. */
export function planeOfEpsg(code: number): Plane | undefined {
  if (code === 4326 || code === 4258 || code === 4269) return { kind: 'degrees' }
  if (code === 3857 || code === 900913) return { kind: 'mercator' }
  const utm = [
    { first: 32601, last: 32660, south: false },
    { first: 32701, last: 32760, south: true },
    { first: 25828, last: 25838, south: false, zone: 28 },
    { first: 26901, last: 26923, south: false },
  ].find(({ first, last }) => code >= first && code <= last)
  return utm && { kind: 'utm', zone: code - utm.first + (utm.zone ?? 1), south: utm.south }
}

/** In GTRasterTypeGeoKey: coordinates are those of pixels' middles, not of their corners. Source: OGC GeoTIFF 1.1, section 7.5.2. */
const PIXEL_IS_POINT = 2

/** The georeference in a TIFF's tags, or null if it has none that is known; broken tags count as none. Source: OGC GeoTIFF 1.1. */
export async function readGeoTiff(path: string): Promise<Georeference | null> {
  try {
    const tiff = await fromFile(path)
    try {
      const image = await tiff.getImage()
      const keys = image.getGeoKeys() as Record<string, number> | null
      const plane = keys ? planeOfEpsg(keys.ProjectedCSTypeGeoKey ?? keys.GeographicTypeGeoKey ?? 0) : undefined
      if (!keys || !plane) return null
      const corner = await affineOf(image.fileDirectory)
      if (!corner) return null
      const [a, b, c, d, e, f] = corner
      const half = keys.GTRasterTypeGeoKey === PIXEL_IS_POINT ? 0.5 : 0
      const matrix = [a, b, c - half * (a + b), d, e, f - half * (d + e)]
      return georeferenceSchema.parse({ kind: 'affine', source: 'geotiff', plane, matrix })
    } finally {
      tiff.close()
    }
  } catch {
    return null
  }
}

/** Either a transformation, or a scale and one tie point. Source: OGC GeoTIFF 1.1, section B.6. */
async function affineOf(directory: GeoTIFFImage['fileDirectory']): Promise<[number, number, number, number, number, number] | undefined> {
  const read = async (tag: 'ModelTransformation' | 'ModelPixelScale' | 'ModelTiepoint') =>
    directory.hasTag(tag) ? ((await directory.loadValue(tag)) as ArrayLike<number>) : undefined
  const m = await read('ModelTransformation')
  if (m && m.length >= 8) return [m[0]!, m[1]!, m[3]!, m[4]!, m[5]!, m[7]!]
  const scale = await read('ModelPixelScale')
  const tie = await read('ModelTiepoint')
  if (!scale || !tie || tie.length < 6) return undefined
  const [sx, sy] = [scale[0]!, scale[1]!]
  return [sx, 0, tie[3]! - tie[0]! * sx, 0, -sy, tie[4]! + tie[1]! * sy]
}
