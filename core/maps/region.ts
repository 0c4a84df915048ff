import { greatest, least } from '../geometry/extremes'
import { clamp } from '../geometry/clamp'
import type { LonLat } from '../geo/lon-lat'
import { wrapLongitude } from '../geo/lon-lat'
import type { Region } from '../journey/schema'

/** Width of a region in degrees of longitude. */
export const lonWidth = ({ west, east }: Region): number => (east > west ? east - west : east - west + 360)

/** Degrees of a region are rounded to four decimals, about ten metres. */
const rounded = (value: number): number => Math.round(value * 1e4) / 1e4

/** A region moved by shares of its width to the east and of its height to the north, and scaled about its middle. */
export function movedRegion(region: Region, east: number, north: number, larger: number): Region {
  const [width, height] = [lonWidth(region), region.north - region.south]
  const [wide, high] = [Math.min(360, width * larger), Math.min(178, height * larger)]
  const lon = region.west + width / 2 + east * width
  const lat = Math.min(89 - high / 2, Math.max(-89 + high / 2, region.south + height / 2 + north * height))
  const sides =
    wide >= 359.9
      ? { west: -180, east: 180 }
      : { west: rounded(wrapLongitude(lon - wide / 2)), east: rounded(wrapLongitude(lon + wide / 2)) }
  return { ...sides, south: rounded(lat - high / 2), north: rounded(lat + high / 2) }
}

/** The smallest region around some places, with a least width in degrees and half of that as height; it may cross the antimeridian. */
export function regionAround(places: readonly LonLat[], smallest = 2): Region {
  const lats = places.map(({ lat }) => lat)
  // The bounds are the circle without the widest gap between neighbouring longitudes.
  const lons = places.map(({ lon }) => lon).sort((a, b) => a - b)
  const gaps = lons.map((lon, i) => (lons[i + 1] ?? lons[0]! + 360) - lon)
  const widest = gaps.indexOf(greatest(gaps))
  const west = lons[(widest + 1) % lons.length]!
  return grown(west, 360 - gaps[widest]!, least(lats), greatest(lats), { lon: smallest, lat: smallest / 2 })
}

/** A region grown on each side by a share of its size. */
export function withMargin({ west, south, east, north }: Region, share: number): Region {
  const width = lonWidth({ west, south, east, north })
  return grown(west, width, south, north, { lon: width * (1 + 2 * share), lat: (north - south) * (1 + 2 * share) })
}

/** A region extended about its middle to a least width and height; one that goes round the Earth becomes the whole Earth. */
function grown(west: number, width: number, south: number, north: number, least: { lon: number; lat: number }): Region {
  const wide = Math.max(width, least.lon)
  const high = Math.max(north - south, least.lat)
  const middle = (south + north) / 2
  const clampLatitude = (lat: number) => clamp(lat, -90, 90)
  const sides =
    wide >= 359
      ? { west: -180, east: 180 }
      : { west: wrapLongitude(west - (wide - width) / 2), east: wrapLongitude(west + width + (wide - width) / 2) }
  return { ...sides, south: clampLatitude(middle - high / 2), north: clampLatitude(middle + high / 2) }
}
