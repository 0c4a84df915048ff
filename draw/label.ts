import type { Size } from '#core/geometry/size'
import type { LabelItem } from '#core/frame/frame'
import type { CanvasSpace } from './canvas-space'
import { placeAt, standingScale } from './canvas-space'
import { setFont } from './fonts'
import { brokenInto } from './text'

/** Width of the halo round the letters, as a share of their size. */
const HALO = 0.2

/** A name wider than this many letter heights, or than this share of the frame, is broken into lines. */
const WIDEST = 14
const FRAME_SHARE = 0.45

/** The line height, in letter sizes. */
const LEADING = 1.05

/** Breaks a name into lines. Leaves the label's font set on the context. */
function linesOf(context: CanvasRenderingContext2D, { text, label }: LabelItem, reference: Size): string[] {
  setFont(context, label.size)
  return brokenInto(context, text, Math.min(WIDEST * label.size, FRAME_SHARE * reference.width))
}

/** How far a label reaches from its stop to either side, and up or down, in reference pixels. */
export function labelReach(context: CanvasRenderingContext2D, item: LabelItem, reference: Size): Size {
  const lines = linesOf(context, item, reference)
  const { offset } = item.place
  const { size } = item.label
  return {
    width: Math.abs(offset.x) + Math.max(...lines.map((line) => context.measureText(line).width)),
    height: Math.abs(offset.y) + size * (1 + (lines.length - 1) * LEADING),
  }
}

/** Paints a label beside its stop, growing out of the stop while it appears. */
export function paintLabel(context: CanvasRenderingContext2D, space: CanvasSpace, item: LabelItem): void {
  const { at, label, place, scale, opacity } = item
  placeAt(context, space, at, standingScale(space, at) * scale)
  const lines = linesOf(context, item, space.reference)
  context.globalAlpha = opacity
  context.textAlign = place.align
  context.textBaseline = 'alphabetic'
  context.lineJoin = 'round'
  context.lineWidth = label.size * HALO
  context.strokeStyle = label.halo
  context.fillStyle = label.colour
  // Beside a pin the lines are centred; above it the last line is next to it, below it the first.
  const above = label.side.startsWith('top') ? lines.length - 1 : label.side.startsWith('bottom') ? 0 : (lines.length - 1) / 2
  const baseline = (i: number) => place.offset.y + (i - above) * label.size * LEADING
  lines.forEach((line, i) => context.strokeText(line, place.offset.x, baseline(i)))
  lines.forEach((line, i) => context.fillText(line, place.offset.x, baseline(i)))
  context.globalAlpha = 1
}
