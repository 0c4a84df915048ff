import { remembered } from '#core/remembered'
import { fallInFrame } from '#core/camera/sun'
import { projectedRing } from '#core/camera/projection'
import type { SheetItem } from '#core/frame/frame'
import type { Wash } from '#core/journey/schema'
import { groundCorners } from '#core/sheet/place'
import type { CanvasSpace } from '../canvas-space'
import { placeInFrame } from '../canvas-space'
import { translucent } from '../colour'
import { createBentSheetPainter } from './bent-sheet'
import { washedImage } from './wash'
import { createLaidSheetPainter } from './laid-sheet'
import type { SheetPicture, Studio, Surface } from '../studio'

/** Paints sheets, washed. A picture is washed once and kept as long as neither it nor the wash changes. */
export function createSheetPainter(studio: Studio) {
  const washed = remembered((picture: SheetPicture, wash: Wash): CanvasImageSource => washedImage(studio, picture, wash))
  const laid = createLaidSheetPainter(studio)
  const bentSheets = createBentSheetPainter(studio)

  return {
    paint(context: CanvasRenderingContext2D, space: CanvasSpace, item: SheetItem, layer: (width: number, height: number) => Surface): void {
      if (space.projection.bent) {
        const picture = studio.bentPicture(item, space)
        if (!picture) return
        const { wash } = item.sheet
        const image = wash ? washed(picture, wash) : picture.image
        bentSheets.paint(context, space, item, { picture, image }, layer)
        return
      }
      if (item.panel) paintPanel(context, space, item, item.panel, layer)
      laid.paint(context, space, item, layer)
    },
    /**
     * The pixels of the whole frame where a sheet on ground that is not bent is all that is seen of it; good until the next sheet is painted.
     * @param over a picture of the frame's size that is laid over it
     */
    whole: (space: CanvasSpace, item: SheetItem, over: ImageData | undefined) =>
      space.projection.bent ? undefined : laid.whole(space, item, over),
  }
}

/** A panel's shadow is blurred at this share of the output's size: it looks the same, and costs a sixteenth. */
const SHADOW_SCALE = 0.25

/** The shadow that a panel casts, and its border. */
function paintPanel(
  context: CanvasRenderingContext2D,
  space: CanvasSpace,
  { sheet, opacity }: SheetItem,
  { shadow, reach, border, borderColour }: NonNullable<SheetItem['panel']>,
  layer: (width: number, height: number) => Surface,
): void {
  const corners = projectedRing(space.projection, groundCorners(sheet))
  const trace = (target: CanvasRenderingContext2D) => {
    target.beginPath()
    for (const { x, y } of corners) target.lineTo(x, y)
    target.closePath()
    target.lineJoin = 'miter'
    target.lineWidth = 2 * border
  }
  context.globalAlpha = opacity
  if (shadow > 0 && reach > 0) {
    const scale = space.scale * SHADOW_SCALE
    const {
      context: target,
      image,
      width,
      height,
    } = layer(Math.ceil(space.reference.width * scale), Math.ceil(space.reference.height * scale))
    placeInFrame(target, { scale })
    // The shadow reaches further away from the light.
    const fall = fallInFrame(space.sun, space.projection)
    target.translate(reach * 0.35 * fall.x, reach * 0.35 * fall.y)
    target.filter = `blur(${(reach / 2.5) * scale}px)`
    target.fillStyle = target.strokeStyle = translucent('#0a1018', shadow)
    trace(target)
    target.fill()
    if (border > 0) target.stroke()
    target.filter = 'none'
    context.setTransform(1, 0, 0, 1, 0, 0)
    context.drawImage(image, 0, 0, width / SHADOW_SCALE, height / SHADOW_SCALE)
  }
  if (border > 0) {
    placeInFrame(context, space)
    context.strokeStyle = borderColour
    trace(context)
    context.stroke()
  }
  context.globalAlpha = 1
}
