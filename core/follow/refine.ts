import { clamp } from '../geometry/clamp'
import type { Cubic } from '../geometry/cubic'
import { fitStroke } from '../geometry/fit-stroke'
import type { Point } from '../geometry/point'
import type { Likeness } from './centre-line'
import { centred, MOST_WIDTH, resampled, smoothedLine, throughJunctions, tidied } from './centre-line'
import type { PictureSource } from './picture'
import { onLevel } from './picture'
import { likenessIn, likenessOf } from './raster'

/** The road must be at least this wide in pixels of a level for its middle to be found there. */
const SURE_WIDTH = 6

/** The size of the blocks of a finer level that are read along the line. */
const BLOCK = 256

/**
 * Moves a line to the middle of its road as finer levels show it, while the road is narrow, and fits it with smooth nodes.
 * @param found in pixels of the level; the road's width as well
 * @param table how like the road each colour is
 * @returns the course in pixels of the image
 */
export async function refined(
  source: PictureSource,
  level: number,
  found: { points: Point[]; width: number },
  table: Uint8Array,
  onProgress: (share: number) => void,
): Promise<Cubic[]> {
  let { points, width } = found
  let at = level
  while (at > 0 && width < SURE_WIDTH) {
    at--
    points = resampled(
      points.map(({ x, y }) => ({ x: 2 * x, y: 2 * y })),
      1,
    )
    width *= 2
    const like = await likenessAlong(source, at, points, table)
    const middle = centred(points, like, Math.max(2, Math.min(width, MOST_WIDTH / 2)))
    points = smoothedLine(tidied(throughJunctions(middle, like, width), like, width), Math.max(2, Math.round(width / 2)))
    onProgress(0.8 + (0.2 * (level - at)) / (level + 1))
  }
  const k = 2 ** at
  const tolerance = clamp(0.2 * width, 0.6, 1.2) * k
  return fitStroke(
    points.map(({ x, y }) => ({ x: x * k, y: y * k })),
    tolerance,
  )
}

async function likenessAlong(source: PictureSource, level: number, points: readonly Point[], table: Uint8Array): Promise<Likeness> {
  const whole = onLevel(source, { x: 0, y: 0, ...source }, level)
  const blocks = new Map<string, Likeness>()
  const key = (x: number, y: number) => `${Math.floor(x / BLOCK)} ${Math.floor(y / BLOCK)}`
  const read = async (x: number, y: number) => {
    const name = key(x, y)
    if (blocks.has(name) || x < 0 || y < 0 || x >= whole.width || y >= whole.height) return
    const left = Math.max(0, Math.floor(x / BLOCK) * BLOCK - 2)
    const top = Math.max(0, Math.floor(y / BLOCK) * BLOCK - 2)
    const size = BLOCK + 4
    const rect = { x: left, y: top, width: Math.min(size, whole.width - left), height: Math.min(size, whole.height - top) }
    const { rgba } = await source.read(level, rect)
    blocks.set(name, likenessIn({ ...rect, likeness: likenessOf(rgba, table) }))
  }
  for (const { x, y } of points) for (const dx of [-20, 0, 20]) for (const dy of [-20, 0, 20]) await read(x + dx, y + dy)
  return (x, y) => blocks.get(key(x, y))?.(x, y) ?? 0
}
