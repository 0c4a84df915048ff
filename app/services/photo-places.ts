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
const text = z.string().optional().catch(undefined)
const placeSchema = z.object({
  latitude: lonLat.lat.optional().catch(undefined),
  longitude: lonLat.lon.optional().catch(undefined),
  /** The camera's clock, and how far it is from UTC if it knows. Source: EXIF 2.31, OffsetTimeOriginal. */
  DateTimeOriginal: z.date().optional().catch(undefined),
  OffsetTimeOriginal: z
    .string()
    .regex(/^[+-]\d\d:\d\d$/)
    .optional()
    .catch(undefined),
  Make: text,
  Model: text,
  /** The satellites' clock, which is in UTC. Source: EXIF 2.32, GPSDateStamp and GPSTimeStamp. */
  GPSDateStamp: day,
  GPSTimeStamp: z
    .string()
    .regex(/^\d{1,2}:\d{1,2}:\d{1,2}(\.\d+)?$/)
    .optional()
    .catch(undefined),
})

const PICKED = [
  'DateTimeOriginal',
  'OffsetTimeOriginal',
  'Make',
  'Model',
  'GPSLatitude',
  'GPSLongitude',
  'GPSLatitudeRef',
  'GPSLongitudeRef',
  'GPSDateStamp',
  'GPSTimeStamp',
]

export interface PhotoPlace {
  name: string
  /** Null if the photo does not say where it was taken. */
  place: LonLat | null
  /** In milliseconds since 1970: from the GPS clock if given, else from the camera's; null if it is not known. */
  time: number | null
  /** Whether the time is exact; else the camera's clock is assumed to be set to this machine's time zone. */
  isExact: boolean
  /** Whether a camera has written anything about itself, the place or the time: it is a photo, and no map. */
  isFromCamera: boolean
}

/** Reads where and when a photo was taken from its EXIF data, reading no more of the file than necessary. */
export async function readPhotoPlace(file: File): Promise<PhotoPlace> {
  const name = file.name.replace(/\.\w+$/, '') || file.name
  const nowhere = { name, place: null, time: null, isExact: false, isFromCamera: false }
  if (file.size > MOST_PHOTO_BYTES) return nowhere
  // Whatever is wrong with the file, its place is unknown.
  const found: unknown = await exifr.parse(file, { gps: true, pick: PICKED }).catch(() => null)
  const parsed = placeSchema.safeParse(found)
  if (!parsed.success) return nowhere
  const { latitude, longitude, DateTimeOriginal, OffsetTimeOriginal, Make, Model, GPSDateStamp, GPSTimeStamp } = parsed.data
  const [year, month, date] = (GPSDateStamp ?? '').split(':').map(Number)
  const [hour, minute, second] = (GPSTimeStamp ?? '').split(':').map(Number)
  const satellites = Date.UTC(year ?? NaN, (month ?? NaN) - 1, date, hour ?? NaN, minute, second)
  const clock = DateTimeOriginal && (OffsetTimeOriginal ? inUtc(DateTimeOriginal, OffsetTimeOriginal) : DateTimeOriginal.getTime())
  const place = latitude === undefined || longitude === undefined ? null : { lat: latitude, lon: longitude }
  return {
    name,
    place,
    time: Number.isFinite(satellites) ? satellites : (clock ?? null),
    isExact: Number.isFinite(satellites) || OffsetTimeOriginal !== undefined,
    isFromCamera: place !== null || DateTimeOriginal !== undefined || Make !== undefined || Model !== undefined,
  }
}

/** The moment at which a clock that is so far from UTC showed what this machine's would show at a date. */
function inUtc(date: Date, offset: string): number {
  const [hours, minutes] = offset.slice(1).split(':').map(Number) as [number, number]
  const ahead = (offset.startsWith('-') ? -1 : 1) * (60 * hours + minutes)
  return date.getTime() - 60_000 * (date.getTimezoneOffset() + ahead)
}
