import type { LabelItem } from '#core/frame/frame'
import type { Label } from '#core/journey/schema'
import type { CanvasSpace } from './canvas-space'
import { placeAt } from './canvas-space'
import { labelFont } from './fonts'

/** Width of the halo round the letters, as a share of their size. */
const HALO = 0.2

export function setLabelFont(context: CanvasRenderingContext2D, label: Label): void {
  context.font = labelFont(label.size)
}

/** Paints a label beside its stop, growing out of the stop while it appears. */
export function paintLabel(
  context: CanvasRenderingContext2D,
  space: CanvasSpace,
  { at, text, label, place, scale, opacity }: LabelItem,
): void {
  placeAt(context, space, at, scale)
  context.globalAlpha = opacity
  setLabelFont(context, label)
  context.textAlign = place.align
  context.textBaseline = 'alphabetic'
  context.lineJoin = 'round'
  context.lineWidth = label.size * HALO
  context.strokeStyle = label.halo
  context.strokeText(text, place.offset.x, place.offset.y)
  context.fillStyle = label.colour
  context.fillText(text, place.offset.x, place.offset.y)
  context.globalAlpha = 1
}
