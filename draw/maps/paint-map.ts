import { clamp } from '#core/geometry/clamp'
import type { DrawnMap } from '#core/journey/schema'
import { graticuleFor } from '#core/maps/graticule'
import type { MapLayout } from '#core/maps/layout'
import type { Block } from '#core/maps/map-block'
import { planBlock } from '#core/maps/map-block'
import { pictureRaster, seaRaster } from '#core/maps/map-raster'
import { STYLE_SHEETS } from '#core/maps/map-styles'
import { featuresNear, linesNear } from '#core/maps/near-shapes'
import { imageryOf } from '#core/sheet/imagery'
import type { Coasts } from './coasts'
import { coastsOf } from './coasts'
import { paintFurniture } from './furniture'
import { paintedLand } from './land'
import type { MapPart, MapSource, MapTools, WorldShapes } from './map-part'
import { layRaster, pathOf, rasterSide, strokePath } from './map-part'
import { paintTowns } from './towns'

/** Rivers are known to a few kilometres: nearer than this, in metres to the reference pixel, they would run beside their beds. */
const RIVERS_FROM = 700

/** Bands along coasts are narrower where the map is further away than this, in metres to the reference pixel: on a map of the world they would fill the seas. */
const SHORES_WHOLE = 4000

/**
 * Paints a block of a generated map.
 * @param context of a canvas of the block's size
 * @param pen pixels of the block to a reference pixel
 */
export function paintMap(
  context: CanvasRenderingContext2D,
  tools: MapTools,
  source: MapSource,
  { map, layout, block, pen }: { map: DrawnMap; layout: MapLayout; block: Block; pen: number },
): void {
  const style = STYLE_SHEETS[map.style]
  const plan = planBlock(layout, block)
  const part: MapPart = { context, tools, source, map, layout, style, plan, pen, scale: plan.metres * pen }
  const shapes = source.shapes(part.scale)
  const imagery = imageryOf(map.style)
  const coasts = imagery ? undefined : coastsOf(part, shapes)
  if (imagery) paintImagery(part, imagery)
  else if (coasts) paintSea(part, coasts)
  if (map.graticule) strokePath(part, pathOf(part, graticuleFor(map)), style.graticule)
  if (coasts) layLand(part, shapes, coasts)
  if (map.rivers && part.scale > RIVERS_FROM) strokePath(part, pathOf(part, featuresNear(shapes.rivers, plan.bounds)), style.river)
  if (map.borders) strokePath(part, pathOf(part, linesNear(shapes.borders, plan.bounds)), style.border)
  if (coasts) strokePath(part, coasts.outline, style.coast)
  if (map.towns) paintTowns(part)
  paintBeyond(part)
  if (map.scaleBar) paintFurniture(part)
}

function paintImagery(part: MapPart, imagery: 'day' | 'night'): void {
  const picture = part.source.picture(imagery)
  const side = rasterSide(part, picture.width)
  layRaster(part.tools, part.context, pictureRaster(part.plan, side, picture), side)
}

function paintSea(part: MapPart, { about }: Coasts): void {
  const { context, tools, source, plan, style, scale } = part
  context.fillStyle = style.sea
  context.fillRect(0, 0, plan.width, plan.height)
  if (style.deep) {
    const surface = source.surface()
    const side = rasterSide(part, surface.depth.width)
    layRaster(tools, context, seaRaster(plan, side, style, surface), side)
  }
  const share = clamp(SHORES_WHOLE / scale, 0.5, 1)
  for (const { colour, width } of style.shores) strokePath(part, about, { colour, width: share * width })
}

function layLand(part: MapPart, shapes: WorldShapes, { fill }: Coasts): void {
  const { context, style, pen } = part
  const land = paintedLand(part, shapes, fill)
  context.save()
  if (style.lifted) {
    context.shadowColor = style.lifted.colour
    context.shadowBlur = style.lifted.reach * pen
    context.shadowOffsetX = context.shadowOffsetY = 0.35 * style.lifted.reach * pen
  }
  context.drawImage(land, 0, 0)
  context.restore()
}

/** Covers what lies beyond the edge of the Earth, so that lines along it are clean. A conic map shows none. */
function paintBeyond(part: MapPart): void {
  const { context, tools, map, layout, plan, style } = part
  if (map.projection === 'conic') return
  const { left, top, step, width, height } = plan
  const edge = tools.createPath('')
  const at = (x: number, y: number) => [(x * layout.scale + layout.x - left) / step, (y * layout.scale + layout.y - top) / step] as const
  if (map.projection === 'orthographic') edge.arc(...at(0, 0), layout.scale / step, 0, 2 * Math.PI)
  else {
    // Mercator's poles lie at infinity.
    const pole = map.projection === 'mercator' ? 1e3 : Math.PI / 2
    const [[west, north], [east, south]] = [at(-Math.PI, -pole), at(Math.PI, pole)]
    edge.rect(west, north, east - west, south - north)
  }
  const around = tools.createPath('')
  around.rect(-MORE, -MORE, width + 2 * MORE, height + 2 * MORE)
  around.addPath(edge)
  context.fillStyle = style.beyond
  context.fill(around, 'evenodd')
  strokePath(part, edge, { ...style.coast, width: 1.5 * style.coast.width })
}

/** What covers a block reaches so many pixels beyond it. */
const MORE = 10
