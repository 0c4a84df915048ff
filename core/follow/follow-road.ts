import { greatest, least } from '../geometry/extremes'
import { clamp } from '../geometry/clamp'
import type { Size } from '../geometry/size'
import type { Cubic } from '../geometry/cubic'
import type { Point } from '../geometry/point'
import { distance } from '../geometry/point'
import { coarsestLevel } from '../sheet/pyramid'
import type { Rgb } from '../colour/srgb'
import type { PictureSource } from './picture'
import { onLevel } from './picture'
import type { PixelRect, Pixels, RoadRaster } from './raster'
import { forDirectWay, likenessTable, roadRaster } from './raster'
import { refined } from './refine'
import { roadColours } from './road-colour'
import type { Line } from './way-through'
import { faultOf, lineThrough, longestGap } from './way-through'

export interface FollowRequest {
  /** From the start over the spots that the road is to pass to the end, in pixels of the image; at least two. */
  through: readonly Point[]
  /** Colour of the road; null to have it found near these spots. */
  colour: Rgb | null
}

export type Followed =
  | {
      found: true
      /** From the first spot to the last, in pixels of the image. */
      course: Cubic[]
      colour: Rgb
      /** Share of the course's length that lies on the road, 0..1. */
      onRoad: number
      /** Width of the road in pixels of the image. */
      width: number
      /** The longest stretch over which no road is seen, in pixels of the image; 0 where there is none that is worth telling. */
      gap: number
      /** How many times as long as straight from spot to spot it is. */
      detour: number
      /** Where it goes far round: a way that is clearly shorter, though less of it lies on the road. */
      direct: { course: Cubic[]; onRoad: number } | null
    }
  | {
      found: false
      colour: Rgb | null
      /** The reason why no road was found, in one sentence. */
      reason: string
      /** Where the way is interrupted, in pixels of the image. */
      at: Point | null
    }

/** The number of pixels in the first, coarse pass. */
const MOST_PIXELS = 3_000_000

/** How much of the way must be road: more where the colour was only guessed, as there is always some way along something. */
const SHARE = { chosen: 0.7, guessed: 0.93 } as const

/**
 * Finds the road visible in a picture between two spots: the least-cost path over likeness to its colour, narrowness and edges, first on
 * coarse cells, then in a corridor round what that found; then moved to the road's middle, at finer levels too, and fitted with smooth nodes.
 * @param onProgress told the share that is done, 0..1
 */
export async function followRoad(source: PictureSource, request: FollowRequest, onProgress: (share: number) => void): Promise<Followed> {
  const { through } = request
  const region = regionAround(source, through)
  const wanted = Math.ceil(Math.log2(Math.sqrt((region.width * region.height) / MOST_PIXELS)))
  const level = clamp(wanted, 0, coarsestLevel(source))
  const pixels = await source.read(level, onLevel(source, region, level))
  onProgress(0.3)
  const colours = request.colour ? [request.colour] : await likelyColours(source, region, level, pixels, through)
  onProgress(0.6)
  const scale = 2 ** level
  const least = request.colour ? SHARE.chosen : SHARE.guessed
  let failure: Followed = { found: false, colour: null, reason: 'No colour of a road is found at both spots.', at: null }
  for (const colour of colours) {
    const table = likenessTable(colour)
    const raster = roadRaster(pixels, table)
    const line = lineThrough(raster, spotsAt(through, level))
    const fault = faultOf(line, least, request.colour !== null)
    if (!fault) {
      const course = await refined(source, level, line, table, onProgress)
      const straight = lengthOf(spotsAt(through, level))
      const shorter = lengthOf(line.points) > FAR_ROUND * straight ? directWay(raster, spotsAt(through, level), line) : undefined
      const direct = shorter ? { course: await refined(source, level, shorter, table, () => undefined), onRoad: shorter.share } : null
      onProgress(1)
      const gap = longestGap(line)
      return {
        found: true,
        course,
        colour,
        onRoad: line.share,
        width: line.width * scale,
        gap: gap > Math.max(LEAST_TOLD, line.width) ? gap * scale : 0,
        detour: straight > 0 ? lengthOf(line.points) / straight : 1,
        direct,
      }
    }
    if (failure.colour) continue
    const isHopeless = line.width === 0 || line.share < least / 2
    const reason = isHopeless
      ? 'There is no road of this colour between these spots.'
      : `The road is lost for ${Math.round(fault.length * scale)} px of the sheet.`
    failure = { found: false, colour, reason, at: { x: fault.at.x * scale, y: fault.at.y * scale } }
  }
  return failure
}

/** A way this many times as long as straight goes far round; one that is shorter by this share, and half of it on the road, is worth offering beside it. */
const FAR_ROUND = 1.5
const SHORTER = 0.8
const LEAST_ON_ROAD = 0.5
/** Shorter gaps are as those of a dashed road, in pixels of the level. */
const LEAST_TOLD = 12

function directWay(raster: RoadRaster, spots: readonly Point[], line: Line): Line | undefined {
  const direct = lineThrough(forDirectWay(raster), spots)
  return lengthOf(direct.points) < SHORTER * lengthOf(line.points) && direct.share >= LEAST_ON_ROAD ? direct : undefined
}

const lengthOf = (points: readonly Point[]): number => points.reduce((sum, p, i) => sum + (i > 0 ? distance(points[i - 1]!, p) : 0), 0)

const spotsAt = (points: readonly Point[], level: number): Point[] => points.map(({ x, y }) => ({ x: x / 2 ** level, y: y / 2 ** level }))

/** The number of candidate colours that are tried at full detail. */
const MOST_TRIED = 3

/** The candidate colours that give the best ways through all the spots, judged on a coarser level if there is one. */
async function likelyColours(
  source: PictureSource,
  region: PixelRect,
  level: number,
  pixels: Pixels,
  through: readonly Point[],
): Promise<Rgb[]> {
  const candidates = roadColours(pixels, spotsAt(through, level))
  // Small images have no coarser level, and need none.
  const coarser = Math.min(level + 1, Math.max(level, coarsestLevel(source)))
  const coarse = coarser === level ? pixels : await source.read(coarser, onLevel(source, region, coarser))
  return candidates
    .map((colour) => ({ colour, score: lineThrough(roadRaster(coarse, likenessTable(colour)), spotsAt(through, coarser)).score }))
    .sort((a, b) => b.score - a.score)
    .slice(0, MOST_TRIED)
    .map(({ colour }) => colour)
}

/** The colour of a picture at a spot, in its pixels; held within it. */
export async function colourAt(source: PictureSource, { x, y }: Point): Promise<Rgb> {
  const clamped = (value: number, most: number) => clamp(Math.floor(value), 0, most - 1)
  const { rgba } = await source.read(0, { x: clamped(x, source.width), y: clamped(y, source.height), width: 1, height: 1 })
  return [rgba[0]!, rgba[1]!, rgba[2]!]
}

/** The part of an image that a road between some spots may pass through. */
function regionAround({ width, height }: Size, spots: readonly Point[]): PixelRect {
  const [xs, ys] = [spots.map((p) => p.x), spots.map((p) => p.y)]
  const pad = 200 + 0.5 * Math.max(greatest(xs) - least(xs), greatest(ys) - least(ys))
  const x = Math.max(0, Math.floor(least(xs) - pad))
  const y = Math.max(0, Math.floor(least(ys) - pad))
  return {
    x,
    y,
    width: Math.min(width, Math.ceil(greatest(xs) + pad)) - x,
    height: Math.min(height, Math.ceil(greatest(ys) + pad)) - y,
  }
}
