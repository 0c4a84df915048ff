import { geoPath } from 'd3-geo'
import type { FeatureCollection, MultiLineString } from 'geojson'
import { clamp } from '#core/geometry/clamp'
import type { DrawnMap } from '#core/journey/schema'
import type { LandIndex } from '#core/maps/land-index'
import { landWithin } from '#core/maps/land-index'
import { graticuleFor } from '#core/maps/graticule'
import type { Block, BlockPlan } from '#core/maps/map-block'
import { planBlock } from '#core/maps/map-block'
import type { MapLayout } from '#core/maps/layout'
import type { EarthPicture, EarthSurface, MapRaster } from '#core/maps/map-raster'
import { landRaster, pictureRaster, seaRaster, shadeRaster } from '#core/maps/map-raster'
import { featuresNear, linesNear } from '#core/maps/near-shapes'
import type { StyleSheet } from '#core/maps/map-styles'
import { STYLE_SHEETS } from '#core/maps/map-styles'
import { imageryOf } from '#core/sheet/imagery'
import type { Studio } from '../studio'
import { paintFurniture } from './furniture'
import { paintTowns } from './towns'

/** Shapes of the whole Earth in degrees, wound as d3-geo has it. */
export interface WorldShapes {
  land: FeatureCollection
  lakes: FeatureCollection
  rivers: FeatureCollection | undefined
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
  /** The shapes for a scale, in metres to the pixel. */
  shapes(metres: number): WorldShapes
  land(): LandIndex
  surface(): EarthSurface
  picture(of: 'day' | 'night'): EarthPicture
  /** The towns within some bounds, or of the whole Earth, with that many inhabitants and more; the largest last. */
  towns(bounds: BlockPlan['bounds'], population: number): Town[]
}

type Tools = Pick<Studio, 'createSurface' | 'createPath' | 'imageOf'>

/** From this scale on, in metres to the pixel, the whole Earth's generalised coasts are used, which keep their shape when they are small. */
const GENERAL = 2500

/** Coasts are followed to this share of a pixel, and the bands along them to so many; islands and lakes are shown from so many reference pixels on. */
const TOLERANCE = 0.35
const SHORE_TOLERANCE = 2
const LEAST_ISLAND = 2.5
const LEAST_LAKE = 10

/** Rivers are known to a few kilometres: nearer than this, in metres to the reference pixel, they would run beside their beds. */
const RIVERS_FROM = 700

/** Bands along coasts are narrower where the map is further away than this, in metres to the reference pixel: on a map of the world they would fill the seas. */
const SHORES_WHOLE = 4000

/** Heights are known every twenty kilometres: between these scales, in metres to the reference pixel, the relief fades. */
const RELIEF = { gone: 250, whole: 1500 }

/**
 * Paints a block of a map.
 * @param context of a canvas of the block's size
 * @param pen pixels of the block to a reference pixel, by which the widths of lines go
 */
export function paintMap(
  context: CanvasRenderingContext2D,
  tools: Tools,
  source: MapSource,
  map: DrawnMap,
  layout: MapLayout,
  block: Block,
  pen: number,
): void {
  const style = STYLE_SHEETS[map.style]
  const plan = planBlock(layout, block)
  // What is shown depends on how large it is in the film, and not on how many pixels that has.
  const scale = plan.metres * pen
  const { width, height } = block
  const shapes = source.shapes(scale)
  const pathOf = (shape: Parameters<ReturnType<typeof geoPath>>[0]) => {
    const path = tools.createPath('')
    geoPath(plan.projection, path as unknown as CanvasRenderingContext2D)(shape)
    return path
  }
  const isGeneral = scale > GENERAL || !plan.bounds
  const coastsTo = (tolerance: number) => coastsNear(tools, source, plan, scale, tolerance * plan.metres)
  const general = (): Coasts => {
    const path = pathOf({
      type: 'FeatureCollection',
      features: [shapes.land, shapes.lakes].flatMap((of) => featuresNear(of, plan.bounds).features),
    })
    return { fill: path, outline: path }
  }
  const coasts = isGeneral ? general() : coastsTo(TOLERANCE)
  const relief = clamp(Math.log2(scale / RELIEF.gone) / Math.log2(RELIEF.whole / RELIEF.gone), 0, 1)
  const stroke = (path: Path2D, colour: string, w: number, dash: readonly number[] = []) => {
    context.lineWidth = w * pen
    context.strokeStyle = colour
    context.setLineDash(dash.map((length) => length * pen))
    context.stroke(path)
    context.setLineDash([])
  }
  context.lineJoin = 'round'
  context.lineCap = 'round'
  context.fillStyle = style.sea
  context.fillRect(0, 0, width, height)
  const imagery = imageryOf(map.style)
  if (imagery) {
    const picture = source.picture(imagery)
    const side = sideFor(plan, picture.width)
    layRaster(context, tools, pictureRaster(plan, side, picture), side)
  } else {
    const surface = source.surface()
    const side = sideFor(plan, surface.height.width)
    if (style.deep) layRaster(context, tools, seaRaster(plan, side, style, surface), side)
    const shores = clamp(SHORES_WHOLE / scale, 0.5, 1)
    // Wide bands hide what is small in the coast: a simpler one is quicker.
    const about = isGeneral || style.shores.length === 0 ? coasts : coastsTo(SHORE_TOLERANCE)
    for (const shore of style.shores) stroke(about.outline, shore.colour, shores * shore.width)
    if (map.graticule) stroke(pathOf(graticuleFor(map)), style.graticule.colour, style.graticule.width)
    const painted = paintLand({ tools, plan, style, relief, surface, side, shapes, land: coasts.fill, pen, pathOf })
    if (style.lifted) {
      context.shadowColor = style.lifted.colour
      context.shadowBlur = style.lifted.reach * pen
      context.shadowOffsetX = context.shadowOffsetY = 0.35 * style.lifted.reach * pen
    }
    context.drawImage(painted, 0, 0)
    context.shadowColor = 'transparent'
  }
  if (imagery && map.graticule) stroke(pathOf(graticuleFor(map)), style.graticule.colour, style.graticule.width)
  if (map.rivers && shapes.rivers && scale > RIVERS_FROM)
    stroke(pathOf(featuresNear(shapes.rivers, plan.bounds)), style.river.colour, style.river.width)
  if (map.borders) stroke(pathOf(linesNear(shapes.borders, plan.bounds)), style.border.colour, style.border.width, style.border.dash)
  if (!imagery) stroke(coasts.outline, style.coast.colour, style.coast.width)
  if (map.towns) paintTowns(context, tools, source, plan, style, pen, scale)
  paintBeyond(context, tools, map, layout, plan, style, pen)
  if (map.scaleBar) paintFurniture(context, map, layout, plan)
}

/** Rasters are made with squares of so many pixels that a cell of what they show is a few of them. */
function sideFor({ metres }: BlockPlan, cells: number): number {
  const cell = 40_000_000 / cells / metres
  return clamp(2 ** Math.floor(Math.log2(cell / 2)), 1, 16)
}

function layRaster(context: CanvasRenderingContext2D, tools: Tools, { width, height, pixels }: MapRaster, side: number): void {
  const surface = tools.createSurface(width, height)
  surface.context.putImageData(tools.imageOf(pixels, width, height), 0, 0)
  context.imageSmoothingQuality = 'high'
  context.drawImage(surface.image, 0, 0, width * side, height * side)
}

/** Land with its lakes left out, to be filled by the even-odd rule, and the outline of both. */
interface Coasts {
  fill: Path2D
  outline: Path2D
}

/** The land near a block. @param metres how far the paths may be from the coast */
function coastsNear(tools: Tools, source: MapSource, plan: BlockPlan, scale: number, metres: number): Coasts {
  const [fill, outline] = [tools.createPath(''), tools.createPath('')]
  for (const ring of landWithin(source.land(), plan.bounds!, metres, { island: LEAST_ISLAND * scale, lake: LEAST_LAKE * scale })) {
    let wasCut = isCut(ring.at(-2)!)
    for (let i = 0; i < ring.length; i += 2) {
      const { x, y } = plan.toPixels(ring[i]!, ring[i + 1]!)
      const isHere = isCut(ring[i]!)
      if (i === 0) fill.moveTo(x, y)
      else fill.lineTo(x, y)
      if (i === 0 || (wasCut && isHere)) outline.moveTo(x, y)
      else outline.lineTo(x, y)
      wasCut = isHere
    }
    fill.closePath()
    if (!(wasCut && isCut(ring[0]!))) {
      const { x, y } = plan.toPixels(ring[0]!, ring[1]!)
      outline.lineTo(x, y)
    }
  }
  return { fill, outline }
}

/** Islands on the antimeridian are cut there, which is no coast. */
const isCut = (lon: number): boolean => Math.abs(lon) === 180

interface Land {
  tools: Tools
  plan: BlockPlan
  style: StyleSheet
  /** How much of the relief is shown, 0..1. */
  relief: number
  surface: EarthSurface
  side: number
  shapes: WorldShapes
  land: Path2D
  pen: number
  pathOf(shape: FeatureCollection): Path2D
}

/** The land, and nothing where there is none. */
function paintLand({ tools, plan, style, relief, surface, side, shapes, land, pen, pathOf }: Land): CanvasImageSource {
  const { context, image } = tools.createSurface(plan.width, plan.height)
  context.fillStyle = style.land[0]![1]
  context.fill(land, 'evenodd')
  // What follows is seen only where there is land. To clip it costs several times as much.
  context.globalCompositeOperation = 'source-atop'
  if (style.land.length > 1 && relief > 0) {
    context.globalAlpha = relief
    layRaster(context, tools, landRaster(plan, side, style, surface), side)
    context.globalAlpha = 1
  }
  if (style.countries) {
    const { colours, opacity } = style.countries
    const painted = tools.createSurface(plan.width, plan.height)
    painted.context.lineJoin = 'round'
    const paths = shapes.countries.map((countries) => pathOf(featuresNear(countries, plan.bounds)))
    // Countries are known less finely than coasts: they reach so far beyond their own that no land is left without.
    painted.context.lineWidth = Math.max(4 * pen, COUNTRY_REACH / plan.metres)
    paths.forEach((path, i) => {
      painted.context.strokeStyle = colours[i % colours.length]!
      painted.context.stroke(path)
    })
    paths.forEach((path, i) => {
      painted.context.fillStyle = colours[i % colours.length]!
      painted.context.fill(path)
    })
    context.globalAlpha = opacity
    context.drawImage(painted.image, 0, 0)
    context.globalAlpha = 1
  }
  if (style.shade && relief > 0)
    layRaster(context, tools, shadeRaster(plan, side, style.shade, style.shade.strength * relief, surface), side)
  return image
}

/** In metres. */
const COUNTRY_REACH = 40_000

/** Covers what lies beyond the edge of the Earth, so that lines along it are clean. */
function paintBeyond(
  context: CanvasRenderingContext2D,
  tools: Tools,
  { projection }: DrawnMap,
  { scale, x, y }: MapLayout,
  plan: BlockPlan,
  style: StyleSheet,
  pen: number,
): void {
  if (projection === 'conic') return
  const { left, top, step, width, height } = plan
  const edge = tools.createPath('')
  const at = (px: number, py: number) => [(px * scale + x - left) / step, (py * scale + y - top) / step] as const
  if (projection === 'orthographic') edge.arc(...at(0, 0), scale / step, 0, 2 * Math.PI)
  else {
    const pole = projection === 'mercator' ? 1e3 : Math.PI / 2
    const [[west, north], [east, south]] = [at(-Math.PI, -pole), at(Math.PI, pole)]
    edge.rect(west, north, east - west, south - north)
  }
  const around = tools.createPath('')
  around.rect(-MORE, -MORE, width + 2 * MORE, height + 2 * MORE)
  around.addPath(edge)
  context.fillStyle = style.beyond
  context.fill(around, 'evenodd')
  context.lineWidth = 1.5 * style.coast.width * pen
  context.strokeStyle = style.coast.colour
  context.stroke(edge)
}

const MORE = 10
