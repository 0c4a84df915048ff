import { fallInFrame } from '#core/camera/sun'
import type { LabelItem } from '#core/frame/frame'
import { labelBox } from '#core/marks/label-layout'
import { partAt } from '#core/marks/reveal'
import type { Box } from '#core/geometry/box'
import type { CanvasSpace } from '../canvas-space'
import { placeAt, standingScale } from '../canvas-space'
import { paintText } from '../type/text'

/** The width of the line that leads to a label, in letter sizes. */
const LEADER = 0.045

/** A text may stray so far beyond its box while it appears, by its halo, shadow, or the end of a banner, in letter sizes. */
export const TEXT_REACH = 1.1

/** What a label may cover, in reference pixels from its stop, whatever it has come to. */
export function labelExtent({ label, style }: LabelItem): Box {
  const { left, right, top, bottom } = labelBox(label, style)
  const { from, to } = label.leader ?? { from: { x: left, y: top }, to: { x: right, y: bottom } }
  const room = TEXT_REACH * style.size + 0.04 * (right - left)
  return {
    left: Math.min(left, from.x, to.x) - room,
    right: Math.max(right, from.x, to.x) + room,
    top: Math.min(top, from.y, to.y) - room,
    bottom: Math.max(bottom, from.y, to.y) + room,
  }
}

/** Paints a label beside its stop, with the line that leads to it; as a whole it grows out of the stop. */
export function paintLabel(context: CanvasRenderingContext2D, space: CanvasSpace, item: LabelItem): void {
  const { at, label, style, appears, elapsed } = item
  const standing = standingScale(space, at) * item.scale
  placeAt(context, space, at, standing)
  if (label.leader) paintLeader(context, item)
  paintText(context, {
    ...label,
    style,
    appears,
    elapsed,
    pivot: { x: 0, y: 0 },
    scale: space.scale * standing,
    fall: fallInFrame(space.sun, space.projection),
  })
}

function paintLeader(context: CanvasRenderingContext2D, { label, style, appears, elapsed }: LabelItem): void {
  const { from, to } = label.leader!
  // Where the name comes part by part, the line comes with the first of them.
  context.globalAlpha = elapsed === null || appears.by === 'whole' ? 1 : partAt(appears, label.parts, 0, elapsed).opacity
  context.lineCap = 'round'
  const stroke = (colour: string, width: number) => {
    context.strokeStyle = colour
    context.lineWidth = width
    context.beginPath()
    context.moveTo(from.x, from.y)
    context.lineTo(to.x, to.y)
    context.stroke()
  }
  const width = Math.max(1.5, LEADER * style.size)
  if (style.halo) stroke(style.halo.colour, width + 0.7 * style.halo.width * style.size)
  stroke(style.plate && style.plate.shape !== 'underline' ? style.plate.colour : style.colour, width)
  context.globalAlpha = 1
}
