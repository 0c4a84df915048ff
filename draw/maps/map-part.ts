import { geoPath } from 'd3-geo'
import type { FeatureCollection, MultiLineString } from 'geojson'
import type { DrawnMap } from '#core/journey/schema'
import type { LandIndex } from '#core/maps/land-index'
import type { MapLayout } from '#core/maps/layout'
import type { BlockPlan } from '#core/maps/map-block'
import type { EarthPicture, EarthSurface, MapRaster } from '#core/maps/map-raster'
import { BEYOND } from '#core/maps/map-raster'
import type { StyleSheet } from '#core/maps/map-styles'
import type { Studio } from '../studio'

/** Shapes of the whole Earth in degrees, wound as d3-geo has it. */
export interface WorldShapes {
  land: FeatureCollection
  lakes: FeatureCollection
  rivers: FeatureCollection
  /** Lines between countries, without the coasts. */
  borders: MultiLineString
  /** Countries by the number of their colour, such that neighbours differ. */
  countries: readonly FeatureCollection[]
}

export interface Town {
  lon: number
  lat: number
  population: number
}

/** What a map is painted from: each is asked for only where it is needed. */
export interface MapSource {
  /** The shapes for a scale, in metres to the reference pixel. */
  shapes(scale: number): WorldShapes
  land(): LandIndex
  surface(): EarthSurface
  picture(of: 'day' | 'night'): EarthPicture
  /** The towns within some bounds, or of the whole Earth, with that many inhabitants and more; the largest last. */
  towns(bounds: BlockPlan['bounds'], population: number): Town[]
}

export type MapTools = Pick<Studio, 'createSurface' | 'createPath' | 'imageOf'>

/** A block of a map that is being painted. */
export interface MapPart {
  context: CanvasRenderingContext2D
  tools: MapTools
  source: MapSource
  map: DrawnMap
  layout: MapLayout
  style: StyleSheet
  plan: BlockPlan
  /** Pixels of the block to a reference pixel: widths of lines go by it. */
  pen: number
  /** Metres to a reference pixel: what is shown depends on how large it is in the film, and not on how many pixels that has. */
  scale: number
}

/** A shape in degrees as a path, cut where the map is cut. */
export function pathOf({ tools, plan }: MapPart, shape: FeatureCollection | MultiLineString): Path2D {
  const path = tools.createPath('')
  geoPath(plan.projection, path as unknown as CanvasRenderingContext2D)(shape)
  return path
}

/** Draws a line along a path; its width, and dashes if any, in reference pixels. */
export function strokePath(
  { context, pen }: MapPart,
  path: Path2D,
  line: { colour: string; width: number; dash?: readonly number[] },
): void {
  context.lineJoin = context.lineCap = 'round'
  context.lineWidth = line.width * pen
  context.strokeStyle = line.colour
  context.setLineDash((line.dash ?? []).map((length) => length * pen))
  context.stroke(path)
  context.setLineDash([])
}

/** Lays a raster over the block, of which each pixel stands for a square of so many pixels a side. */
export function layRaster(tools: MapTools, context: CanvasRenderingContext2D, { width, height, pixels }: MapRaster, side: number): void {
  const surface = tools.createSurface(width, height)
  surface.context.putImageData(tools.imageOf(pixels, width, height), 0, 0)
  context.imageSmoothingQuality = 'high'
  context.drawImage(surface.image, -BEYOND * side, -BEYOND * side, width * side, height * side)
}

/** The side of the squares of a raster of something that has so many cells round the Earth: a cell is some of them. */
export function rasterSide({ plan }: MapPart, cells: number): number {
  const cell = EQUATOR / cells / plan.metres
  return Math.min(16, Math.max(1, 2 ** Math.floor(Math.log2(cell / 2))))
}

/** In metres, near enough. */
const EQUATOR = 40_000_000
