import type { LonLat } from '../geo/lon-lat'

/**
 * Reads a place typed as coordinates: decimal degrees ("47.5, -8.25"), degrees, minutes and seconds ("47°30'15\" N 8°15' W"), a point as of ISO 6709
 * ("+4730-00815/"), or a `geo:` URI (RFC 5870, WGS 84 only). Latitude comes first unless letters say otherwise. Undefined if the text is something else or out of range.
 */
export function readCoordinates(text: string): LonLat | undefined {
  const trimmed = text.trim()
  if (trimmed.length > 200) return undefined
  if (/^geo:/i.test(trimmed)) return readGeoUri(trimmed)
  return readPoint(trimmed) ?? readPair(trimmed)
}

/** RFC 5870, section 3.3: geo:lat,lon[,alt][;crs=wgs84][;u=…][;name=value]… */
function readGeoUri(uri: string): LonLat | undefined {
  const number = '-?\\d+(?:\\.\\d+)?'
  const match = new RegExp(`^geo:(${number}),(${number})(?:,${number})?((?:;[^;=\\s]+(?:=[^;\\s]*)?)*)$`, 'i').exec(uri)
  if (!match) return undefined
  const crs = /;crs=([^;]*)/i.exec(match[3]!)?.[1]
  if (crs !== undefined && crs.toLowerCase() !== 'wgs84') return undefined
  return inRange(Number(match[2]), Number(match[1]))
}

/**
 * ISO 6709, Annex H: latitude with two digits of degrees and longitude with three, each with a sign, with or without two of minutes and two of seconds, and
 * decimals of the last; a height and the name of a reference system may follow.
 */
function readPoint(text: string): LonLat | undefined {
  const match = /^([+-])(\d{2}|\d{4}|\d{6})(\.\d+)?([+-])(\d{3}|\d{5}|\d{7})(\.\d+)?(?:[+-]\d+(?:\.\d+)?)?(?:CRS\w+)?\/?$/.exec(text)
  if (!match) return undefined
  const [, latSign, lat, latRest = '', lonSign, lon, lonRest = ''] = match
  const [north, east] = [sexagesimal(lat!, latRest, 2), sexagesimal(lon!, lonRest, 3)]
  if (north === undefined || east === undefined) return undefined
  return inRange(lonSign === '-' ? -east : east, latSign === '-' ? -north : north)
}

/** Degrees of digits that run on, so many of them whole degrees, then two of minutes and two of seconds. */
function sexagesimal(digits: string, decimals: string, whole: number): number | undefined {
  const parts = [digits.slice(0, whole), digits.slice(whole, whole + 2), digits.slice(whole + 2)].filter((part) => part !== '')
  const values = parts.map((part, i) => Number(i === parts.length - 1 ? part + decimals : part))
  if (values.slice(1).some((value) => value >= 60)) return undefined
  return values.reduce((sum, value, i) => sum + value / 60 ** i, 0)
}

interface Angle {
  degrees: number
  axis: 'lat' | 'lon' | undefined
}

function readPair(text: string): LonLat | undefined {
  const plain = text
    .toUpperCase()
    .replace(/[−–]/g, '-')
    .replace(/[º˚]/g, '°')
    .replace(/[’′]/g, "'")
    .replace(/''|[”“″]/g, '"')
  const halves = splitInTwo(plain)
  const angles = halves?.map(readAngle)
  if (!angles) return undefined
  const [first, second] = angles
  if (!first || !second || (first.axis && first.axis === second.axis)) return undefined
  const latFirst = first.axis !== 'lon' && second.axis !== 'lat'
  return latFirst ? inRange(second.degrees, first.degrees) : inRange(first.degrees, second.degrees)
}

/** At a comma or semicolon, after a letter of the compass, or, where only two bare numbers stand, between them. */
function splitInTwo(text: string): [string, string] | undefined {
  const patterns = [
    /^([^,;]+)[,;]\s*([^,;]+)$/,
    /^([^NSEW]+[NSEW])\s*([^NSEW]+[NSEW])$/,
    /^([NSEW][^NSEW]+)([NSEW][^NSEW]+)$/,
    /^([+-]?[\d.]+°?)\s+([+-]?[\d.]+°?)$/,
  ]
  for (const pattern of patterns) {
    const match = pattern.exec(text)
    if (match) return [match[1]!.trim(), match[2]!.trim()]
  }
  return undefined
}

/** Degrees, minutes and seconds, the last two if given, each set off by its sign, a colon or a space. */
const ANGLE = /^([+-]?)\s*(\d+(?:\.\d+)?)(?:(?:\s*[°:]\s*|\s+)(\d+(?:\.\d+)?)(?:(?:\s*[':]\s*|\s+)(\d+(?:\.\d+)?)\s*"?|\s*')?|\s*°)?$/

function readAngle(text: string): Angle | undefined {
  const [, before, number, behind] = /^([NSEW])?\s*([^NSEW]*?)\s*([NSEW])?$/.exec(text) ?? []
  const [, sign, degrees, minutes = '0', seconds = '0'] = ANGLE.exec(number ?? '') ?? []
  const letter = before ?? behind
  if (degrees === undefined || (before && behind) || (sign && letter) || Number(minutes) >= 60 || Number(seconds) >= 60) return undefined
  const size = Number(degrees) + Number(minutes) / 60 + Number(seconds) / 3600
  const isNegative = sign === '-' || letter === 'S' || letter === 'W'
  const axis = letter === undefined ? undefined : letter === 'N' || letter === 'S' ? 'lat' : 'lon'
  return { degrees: isNegative ? -size : size, axis }
}

const inRange = (lon: number, lat: number): LonLat | undefined =>
  Math.abs(lat) <= 90 && Math.abs(lon) <= 180 ? { lon: lon + 0, lat: lat + 0 } : undefined

/** Coordinates as a person reads them, to about a metre. */
export const formatCoordinates = ({ lon, lat }: LonLat): string =>
  `${Math.abs(lat).toFixed(5)}° ${lat < 0 ? 'S' : 'N'}, ${Math.abs(lon).toFixed(5)}° ${lon < 0 ? 'W' : 'E'}`
