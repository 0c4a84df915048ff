import { clamp } from '#core/geometry/clamp'
import { landRaster, shadeRaster } from '#core/maps/map-raster'
import { featuresNear } from '#core/maps/near-shapes'
import type { StyleSheet } from '#core/maps/map-styles'
import type { MapPart, WorldShapes } from './map-part'
import { layRaster, pathOf, rasterSide } from './map-part'

/** Heights are known every twenty kilometres: between these scales, in metres to the reference pixel, the relief fades. */
const RELIEF = { gone: 250, whole: 1500 }

/** Countries are known less finely than coasts: they reach so many metres beyond their own, so that no land is left without. */
const COUNTRY_REACH = 40_000

/** A picture of the land of a block, in its colours and shaded, and nothing where there is none. */
export function paintedLand(part: MapPart, shapes: WorldShapes, land: Path2D): CanvasImageSource {
  const { tools, source, plan, style, scale } = part
  const { context, image } = tools.createSurface(plan.width, plan.height)
  context.fillStyle = style.land[0]![1]
  context.fill(land, 'evenodd')
  // What follows is seen only where there is land. To clip it costs several times as much.
  context.globalCompositeOperation = 'source-atop'
  const relief = clamp(Math.log2(scale / RELIEF.gone) / Math.log2(RELIEF.whole / RELIEF.gone), 0, 1)
  const surface = source.surface()
  const side = rasterSide(part, surface.height.width)
  if (style.land.length > 1 && relief > 0) {
    context.globalAlpha = relief
    layRaster(tools, context, landRaster(plan, side, style, surface), side)
  }
  if (style.countries) {
    context.globalAlpha = style.countries.opacity
    context.drawImage(paintedCountries(part, shapes, style.countries), 0, 0)
  }
  context.globalAlpha = 1
  if (style.shade && relief > 0)
    layRaster(tools, context, shadeRaster(plan, side, style.shade, style.shade.strength * relief, surface), side)
  return image
}

function paintedCountries(part: MapPart, shapes: WorldShapes, { colours }: NonNullable<StyleSheet['countries']>): CanvasImageSource {
  const { tools, plan, pen } = part
  const { context, image } = tools.createSurface(plan.width, plan.height)
  const paths = shapes.countries.map((countries) => pathOf(part, featuresNear(countries, plan.bounds)))
  context.lineJoin = 'round'
  context.lineWidth = Math.max(4 * pen, COUNTRY_REACH / plan.metres)
  paths.forEach((path, i) => {
    context.strokeStyle = colours[i % colours.length]!
    context.stroke(path)
  })
  paths.forEach((path, i) => {
    context.fillStyle = colours[i % colours.length]!
    context.fill(path)
  })
  return image
}
