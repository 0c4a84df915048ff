import { METRES_PER_DEGREE } from '../geo/earth'
import { radians } from '../geometry/angle'
import type { Region } from '../journey/schema'
import type { LandIndex } from './land-index'
import { lonWidth } from './region'

/** Of a region with more vertices than this some are looked at. */
const LOOKS = 200_000

/** How finely the coasts and shores of a region are known: the median length of their segments in metres. Undefined where there are none. */
export function coastDetail({ lon, lat, chunks }: LandIndex, region: Region): number | undefined {
  const [west, south, north] = [region.west * 1e5, region.south * 1e5, region.north * 1e5]
  const across = lonWidth(region) * 1e5
  const isInside = (i: number) => lat[i]! >= south && lat[i]! <= north && (lon[i]! - west + 720e5) % 360e5 <= across
  const lengths: number[] = []
  const share = (across / 360e5) * ((region.north - region.south) / 180)
  const every = Math.max(1, Math.floor((share * lon.length) / LOOKS))
  for (let chunk = 0; chunk + 1 < chunks.length; chunk += every) {
    for (let i = chunks[chunk]! + 1; i < chunks[chunk + 1]!; i++) {
      if (!isInside(i) || !isInside(i - 1)) continue
      const dx = (lon[i]! - lon[i - 1]!) * Math.cos(radians(lat[i]! / 1e5))
      lengths.push((Math.hypot(dx, lat[i]! - lat[i - 1]!) / 1e5) * METRES_PER_DEGREE)
    }
  }
  return lengths.sort((a, b) => a - b)[Math.floor(lengths.length / 2)]
}
