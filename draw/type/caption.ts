import { BAR_HEIGHT, sizeOf } from '#core/labels/captions'
import { fallInFrame } from '#core/camera/sun'
import type { CaptionItem } from '#core/labels/captions'
import { textBox } from '#core/marks/label-layout'
import { countParts } from '#core/marks/reveal'
import { radians } from '#core/geometry/angle'
import type { TextStyle } from '#core/journey/schema'
import type { CanvasSpace } from '../canvas-space'
import { placeInFrame } from '../canvas-space'
import { setFont } from './fonts'
import { TEXT_REACH } from '../marks/label'
import type { Region } from '../region'
import { paintText } from './text'

/** Paints a title, a readout, a scale bar or an arrow to the north. */
export function paintCaption(context: CanvasRenderingContext2D, space: CanvasSpace, item: CaptionItem): void {
  const { figure, style, appears, at, align, elapsed } = item
  const { width, height } = sizeOf(figure, item)
  placeInFrame(context, space)
  const common = {
    style,
    align,
    appears,
    elapsed,
    pivot: { x: at.x + width / 2, y: at.y + height / 2 },
    scale: space.scale,
    fall: fallInFrame(space.sun, space.projection),
  }
  const anchor = (left: number, right: number) => (align === 'left' ? left : align === 'right' ? right : (left + right) / 2)
  switch (figure.kind) {
    case 'text': {
      const { block } = figure
      const box = textBox(block, style)
      const left = at.x - box.left
      paintText(context, {
        ...common,
        block,
        x: anchor(left, left + block.width),
        top: at.y - box.top,
        parts: countParts(block, appears.by),
      })
      return
    }
    case 'scale-bar': {
      const base = at.y + height - style.size * 0.06
      const path = () => {
        context.beginPath()
        context.moveTo(at.x, base - style.size * BAR_HEIGHT * 0.55)
        context.lineTo(at.x, base)
        context.lineTo(at.x + width, base)
        context.lineTo(at.x + width, base - style.size * BAR_HEIGHT * 0.55)
      }
      strokeTwice(context, style, path)
      paintText(context, { ...common, block: figure.block, x: anchor(at.x, at.x + width), top: at.y, parts: 1 })
      return
    }
    case 'north-arrow': {
      context.translate(at.x + width / 2, at.y + height / 2)
      context.rotate(radians(figure.bearing))
      paintArrow(context, style, height)
      return
    }
    default:
      return figure satisfies never
  }
}

/** Strokes a path in the style's colour over its halo. */
function strokeTwice(context: CanvasRenderingContext2D, { size, colour, halo }: TextStyle, path: () => void): void {
  context.lineCap = 'square'
  context.lineJoin = 'miter'
  if (halo) {
    context.strokeStyle = halo.colour
    context.lineWidth = size * (0.1 + 2 * halo.width)
    path()
    context.stroke()
  }
  context.strokeStyle = colour
  context.lineWidth = size * 0.1
  path()
  context.stroke()
}

/** An arrow that points up, with an N over it: a needle, half of it light. */
function paintArrow(context: CanvasRenderingContext2D, style: TextStyle, height: number): void {
  const { colour, halo } = style
  const [top, bottom, half] = [-height * 0.22, height * 0.5, height * 0.17]
  const outline = () => {
    context.beginPath()
    context.moveTo(0, top)
    context.lineTo(half, bottom)
    context.lineTo(0, bottom * 0.72)
    context.lineTo(-half, bottom)
    context.closePath()
  }
  context.lineJoin = 'round'
  if (halo) {
    context.strokeStyle = halo.colour
    context.lineWidth = 2 * style.size * halo.width
    outline()
    context.stroke()
    context.fillStyle = halo.colour
    outline()
    context.fill()
  }
  context.strokeStyle = colour
  context.lineWidth = style.size * 0.06
  outline()
  context.stroke()
  context.fillStyle = colour
  context.beginPath()
  context.moveTo(0, top)
  context.lineTo(half, bottom)
  context.lineTo(0, bottom * 0.72)
  context.closePath()
  context.fill()
  setFont(context, style.size * 0.62, style)
  context.textAlign = 'center'
  context.textBaseline = 'alphabetic'
  if (halo) {
    context.strokeStyle = halo.colour
    context.lineWidth = 2 * style.size * halo.width * 0.62
    context.strokeText('N', 0, top - style.size * 0.1)
  }
  context.fillText('N', 0, top - style.size * 0.1)
}

/** What a caption covers at most, in output pixels. */
export function captionBounds({ scale }: CanvasSpace, item: CaptionItem): Region {
  const { width, height } = sizeOf(item.figure, item)
  const room = TEXT_REACH * item.style.size + 0.06 * width
  return {
    x: (item.at.x - room) * scale,
    y: (item.at.y - room) * scale,
    width: (width + 2 * room) * scale,
    height: (height + 2 * room) * scale,
  }
}
