import exifr from 'exifr'
import { z } from 'zod'
import type { LonLat } from '#core/geo/lon-lat'
import { lonLat } from '#core/journey/values'

/** Larger photos are not read, in bytes. */
export const MOST_PHOTO_BYTES = 200 * 1024 ** 2

const day = z
  .string()
  .regex(/^\d{4}:\d\d:\d\d$/)
  .optional()
  .catch(undefined)
const placeSchema = z.object({
  latitude: lonLat.lat,
  longitude: lonLat.lon,
  DateTimeOriginal: z.date().optional().catch(undefined),
  /** The satellites' clock, which is in UTC. Source: EXIF 2.32, GPSDateStamp and GPSTimeStamp. */
  GPSDateStamp: day,
  GPSTimeStamp: z
    .string()
    .regex(/^\d{1,2}:\d{1,2}:\d{1,2}(\.\d+)?$/)
    .optional()
    .catch(undefined),
})

const PICKED = ['DateTimeOriginal', 'GPSLatitude', 'GPSLongitude', 'GPSLatitudeRef', 'GPSLongitudeRef', 'GPSDateStamp', 'GPSTimeStamp']

export interface PhotoPlace {
  name: string
  /** Null if the photo does not say where it was taken. */
  place: LonLat | null
  /** In milliseconds since 1970: from the GPS clock if given, else from the camera's, which is assumed to be set to this machine's time zone. */
  time: number | null
}

/** Reads where and when a photo was taken from its EXIF data, reading no more of the file than necessary. */
export async function readPhotoPlace(file: File): Promise<PhotoPlace> {
  const name = file.name.replace(/\.\w+$/, '') || file.name
  const nowhere = { name, place: null, time: null }
  if (file.size > MOST_PHOTO_BYTES) return nowhere
  // Whatever is wrong with the file, its place is unknown.
  const found: unknown = await exifr.parse(file, { gps: true, pick: PICKED }).catch(() => null)
  const parsed = placeSchema.safeParse(found)
  if (!parsed.success) return nowhere
  const { latitude, longitude, DateTimeOriginal, GPSDateStamp, GPSTimeStamp } = parsed.data
  const [year, month, date] = (GPSDateStamp ?? '').split(':').map(Number)
  const [hour, minute, second] = (GPSTimeStamp ?? '').split(':').map(Number)
  const satellites = Date.UTC(year ?? NaN, (month ?? NaN) - 1, date, hour ?? NaN, minute, second)
  const time = Number.isFinite(satellites) ? satellites : (DateTimeOriginal?.getTime() ?? null)
  return { name, place: { lat: latitude, lon: longitude }, time }
}
