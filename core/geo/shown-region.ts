import type { Size } from '../geometry/size'
import type { Region } from '../journey/schema'
import type { GeoSheet } from './georeference'
import type { LonLat } from './lon-lat'

/** Spots across a sheet, and down it, that are looked at. */
const SPOTS = 32

const holds = ({ west, south, east, north }: Region, { lon, lat }: LonLat): boolean =>
  lat >= south && lat <= north && (west <= east ? lon >= west && lon <= east : lon >= west || lon <= east)

/** Tells which regions a georeferenced sheet shows anything of: one of its spots lies in them, or their middle lies on it, as of a small one between spots. */
export function regionsShownBy(
  { toLonLat, toSheet }: Pick<GeoSheet, 'toLonLat' | 'toSheet'>,
  { width, height }: Size,
): (region: Region) => boolean {
  const spots = Array.from({ length: SPOTS ** 2 }, (_, i) =>
    toLonLat({ x: ((i % SPOTS) + 0.5) * (width / SPOTS), y: (Math.floor(i / SPOTS) + 0.5) * (height / SPOTS) }),
  ).filter((spot) => spot !== undefined)
  return (region) => {
    if (spots.some((spot) => holds(region, spot))) return true
    const { west, south, east, north } = region
    const middle = toSheet({ lon: (west + east + (west > east ? 360 : 0)) / 2, lat: (south + north) / 2 })
    return middle !== undefined && middle.x >= 0 && middle.y >= 0 && middle.x <= width && middle.y <= height
  }
}
