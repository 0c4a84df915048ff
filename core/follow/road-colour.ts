import { greatest } from '../geometry/extremes'
import type { Point } from '../geometry/point'
import type { Rgb } from '../colour/srgb'
import type { OkLab } from '../colour/oklab'
import { colourDistance, okLab } from '../colour/oklab'
import type { Pixels } from './raster'

/** How far from a clicked spot its road may lie, or come out from under the mark of a town, in pixels. */
const REACH = 36

/** Colours closer to each other than this count as the same. */
const SAME = 0.045

const MOST_COLOURS = 40
const MOST_CANDIDATES = 8

interface Cluster {
  lab: OkLab
  sum: [number, number, number]
  count: number
  /** Distance from each spot to the nearest pixel of this colour, in pixels. */
  nearest: number[]
}

/**
 * Colours that a road through some spots might have: those found near each of them, the nearest first.
 * @param spots in pixels of the raster
 */
export function roadColours({ rgba, width, height, x: left, y: top }: Pixels, spots: readonly Point[]): Rgb[] {
  const clusters: Cluster[] = []
  spots.forEach((spot, k) => {
    const [cx, cy] = [Math.floor(spot.x - left), Math.floor(spot.y - top)]
    const offsets: [number, number, number][] = []
    for (let dy = -REACH; dy <= REACH; dy++)
      for (let dx = -REACH; dx <= REACH; dx++) if (Math.hypot(dx, dy) <= REACH) offsets.push([dx, dy, Math.hypot(dx, dy)])
    offsets.sort((a, b) => a[2] - b[2])
    for (const [dx, dy, d] of offsets) {
      const [x, y] = [cx + dx, cy + dy]
      if (x < 0 || y < 0 || x >= width || y >= height) continue
      const i = 4 * (y * width + x)
      const rgb = [rgba[i]!, rgba[i + 1]!, rgba[i + 2]!] as const
      const lab = okLab(rgb)
      let cluster = clusters.find((other) => colourDistance(other.lab, lab) < SAME)
      if (!cluster) {
        if (clusters.length >= MOST_COLOURS) continue
        cluster = { lab, sum: [0, 0, 0], count: 0, nearest: spots.map(() => Infinity) }
        clusters.push(cluster)
      }
      cluster.sum.forEach((_, c) => (cluster.sum[c]! += rgb[c]!))
      cluster.count++
      cluster.nearest[k] = Math.min(cluster.nearest[k]!, d)
    }
  })
  const farthest = ({ nearest }: Cluster) => greatest(nearest)
  return clusters
    .filter((cluster) => farthest(cluster) <= REACH)
    .sort((a, b) => farthest(a) - farthest(b))
    .slice(0, MOST_CANDIDATES)
    .map(({ sum, count }) => sum.map((channel) => channel / count) as unknown as Rgb)
}
