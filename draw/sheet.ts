import type { SheetItem } from '#core/frame/frame'
import { toScreen } from '#core/camera/view'
import type { Wash } from '#core/journey/schema'
import { grainPixels } from '#core/sheet/grain'
import { linePixels } from '#core/sheet/lines'
import { groundCorners } from '#core/sheet/place'
import { washPixels } from '#core/sheet/wash'
import type { CanvasSpace } from './canvas-space'
import { placeAt, placeInFrame } from './canvas-space'
import { translucent } from './colour'
import type { SheetPicture, Studio, Surface } from './studio'

/** Paints sheets, washed. A picture is washed once and kept as long as neither it nor the wash changes. */
export function createSheetPainter(studio: Studio) {
  const washed = new Map<string, { picture: SheetPicture; wash: Wash; image: CanvasImageSource }>()

  function imageOf({ sheet: { id, wash } }: SheetItem, picture: SheetPicture): CanvasImageSource {
    if (!wash) return picture.image
    const known = washed.get(id)
    if (known?.picture === picture && known.wash === wash) return known.image
    const image = washedImage(studio, picture, wash)
    washed.set(id, { picture, wash, image })
    return image
  }

  return (
    context: CanvasRenderingContext2D,
    space: CanvasSpace,
    item: SheetItem,
    layer: (width: number, height: number) => Surface,
  ): void => {
    if (item.panel) paintPanel(context, space, item, item.panel, layer)
    const picture = studio.sheetPicture(item, space)
    if (!picture) return
    const { place } = item.sheet
    placeAt(context, space, place, space.view.zoom * place.scale, (place.rotation * Math.PI) / 180)
    context.imageSmoothingEnabled = true
    context.imageSmoothingQuality = 'high'
    context.globalAlpha = item.opacity
    context.drawImage(imageOf(item, picture), picture.x, picture.y, picture.width, picture.height)
    context.globalAlpha = 1
  }
}

/** A picture of a sheet with its wash. */
export function washedImage(studio: Pick<Studio, 'createSurface'>, picture: SheetPicture, wash: Wash): CanvasImageSource {
  const { width, height } = picture.pixels
  const { context, image } = studio.createSurface(width, height, true)
  context.drawImage(picture.image, 0, 0, width, height)
  if (wash.blur > 0) {
    // Over the sharp picture, as a blur fades out at the edges.
    context.filter = `blur(${wash.blur / picture.step}px)`
    context.drawImage(picture.image, 0, 0, width, height)
    context.filter = 'none'
  }
  const pixels = context.getImageData(0, 0, width, height)
  const lines = wash.glowingLines && linePixels(pixels.data, width, wash.glowingLines.colour)
  washPixels(pixels.data, wash)
  context.putImageData(pixels, 0, 0)
  if (wash.glowingLines && lines) layGlow(studio, context, picture, lines, wash.glowingLines)
  if (wash.grain) {
    const grained = context.getImageData(0, 0, width, height)
    grainPixels(grained.data, width, { left: picture.x, top: picture.y, step: picture.step }, wash.grain)
    context.putImageData(grained, 0, 0)
  }
  return image
}

/** The lines themselves, and the light around them. */
function layGlow(
  studio: Pick<Studio, 'createSurface'>,
  context: CanvasRenderingContext2D,
  { pixels: { width, height }, step }: SheetPicture,
  lines: Uint8ClampedArray<ArrayBuffer>,
  { strength, radius }: NonNullable<Wash['glowingLines']>,
): void {
  const drawn = studio.createSurface(width, height)
  const data = drawn.context.createImageData(width, height)
  data.data.set(lines)
  drawn.context.putImageData(data, 0, 0)
  context.globalCompositeOperation = 'lighter'
  context.globalAlpha = strength
  context.filter = `blur(${radius / step}px)`
  // The light of a thin line is faint once it is spread out, so it is drawn twice.
  context.drawImage(drawn.image, 0, 0)
  context.drawImage(drawn.image, 0, 0)
  context.filter = 'none'
  context.drawImage(drawn.image, 0, 0)
  context.globalAlpha = 1
  context.globalCompositeOperation = 'source-over'
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
  const corners = groundCorners(sheet).map((corner) => toScreen(space.view, space.reference, corner))
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
    placeInFrame(target, { ...space, scale })
    // Light falls from above, so the shadow reaches further down.
    target.translate(0, reach * 0.35)
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
