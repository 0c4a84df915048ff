import exifr from 'exifr'
import { z } from 'zod'
import type { LonLat } from '#core/geo/lon-lat'
import { lonLat } from '#core/journey/values'

/** Photos larger than this are not looked at. */
export const MOST_PHOTO_BYTES = 200 * 1024 ** 2

const placeSchema = z.object({ latitude: lonLat.lat, longitude: lonLat.lon, DateTimeOriginal: z.date().optional().catch(undefined) })

export interface PhotoPlace {
  name: string
  /** Null where the photo does not say where it was taken. */
  place: LonLat | null
  time: number | null
}

/** Reads where and when a photo was taken from its EXIF data; of the file only what is needed for that. */
export async function readPhotoPlace(file: File): Promise<PhotoPlace> {
  const name = file.name.replace(/\.\w+$/, '') || file.name
  const nowhere = { name, place: null, time: null }
  if (file.size > MOST_PHOTO_BYTES) return nowhere
  // Whatever is wrong with the file: it does not say where it was taken.
  const found: unknown = await exifr
    .parse(file, { gps: true, pick: ['DateTimeOriginal', 'GPSLatitude', 'GPSLongitude', 'GPSLatitudeRef', 'GPSLongitudeRef'] })
    .catch(() => null)
  const parsed = placeSchema.safeParse(found)
  if (!parsed.success) return nowhere
  const { latitude, longitude, DateTimeOriginal } = parsed.data
  return { name, place: { lat: latitude, lon: longitude }, time: DateTimeOriginal?.getTime() ?? null }
}
