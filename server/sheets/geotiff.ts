import type { GeoTIFFImage } from 'geotiff'
import { fromFile } from 'geotiff'
import type { Georeference, Plane } from '#core/journey/schema'
import { JourneyError } from '#core/error'
import { georeferenceSchema } from '#core/journey/sheet-schema'
import { planeOfEpsg } from './coordinate-systems'

/** In GTRasterTypeGeoKey: coordinates refer to the middles of pixels, not to their corners. Source: OGC GeoTIFF 1.1, section 7.5.2. */
const PIXEL_IS_POINT = 2

/** The georeference in a TIFF; `note` says why one cannot be used. */
export interface GeoTiffReading {
  georeference: Georeference | null
  note: string | null
}

/** Reads a TIFF's tags; broken tags count as missing. Source: OGC GeoTIFF 1.1. */
export async function readGeoTiff(path: string): Promise<GeoTiffReading> {
  const nothing = { georeference: null, note: null }
  try {
    const tiff = await fromFile(path)
    try {
      const image = await tiff.getImage()
      const keys = image.getGeoKeys() as Record<string, number> | null
      const corner = keys && (await affineOf(image.fileDirectory))
      if (!keys || !corner) return nothing
      const code = keys.ProjectedCSTypeGeoKey ?? keys.GeographicTypeGeoKey ?? 0
      const plane = systemOf(code)
      if (typeof plane === 'string') return { georeference: null, note: plane }
      const [a, b, c, d, e, f] = corner
      const half = keys.GTRasterTypeGeoKey === PIXEL_IS_POINT ? 0.5 : 0
      const matrix = [a, b, c - half * (a + b), d, e, f - half * (d + e)]
      return { georeference: georeferenceSchema.parse({ kind: 'affine', source: 'geotiff', plane, matrix }), note: null }
    } finally {
      tiff.close()
    }
  } catch {
    return nothing
  }
}

/** The key value of a coordinate system that is described by further keys and has no number. Source: OGC GeoTIFF 1.1, section 7.1. */
const USER_DEFINED = 32767

/** A coordinate system, or why it cannot be used. */
function systemOf(code: number): Plane | string {
  const instead = 'Set control points to say where the map lies.'
  if (code === 0 || code === USER_DEFINED) return `The file says where the map lies, but in a coordinate system of its own. ${instead}`
  try {
    return planeOfEpsg(code)
  } catch (error) {
    if (!(error instanceof JourneyError)) throw error
    return `The file says where the map lies, but: ${error.message} ${instead}`
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
