import type { CarriedItem } from '#core/frame/frame'
import { carriedWidth, EDGE, FLAG_WAVE, LETTERS, STAFF } from '#core/marks/carried-size'
import type { Carried } from '#core/journey/schema'
import type { CanvasSpace } from '../canvas-space'
import { placeAt } from '../canvas-space'
import { LINE, PAPER } from '../colour'
import { setFont } from '../type/fonts'
import type { Studio } from '../studio'
import { smoothly } from '../picture'

/** The width of the staff, as a share of the height of what is carried. */
const STAFF_WIDTH = 0.07

/** How wide the picture that is carried is in the output, in pixels. */
export const carriedPictureWidth = (carried: Extract<Carried, { kind: 'picture' }>, scale: number): number => carriedWidth(carried) * scale

/** How far what is carried reaches from its vehicle's place, in reference pixels. */
export const carriedReach = ({ carried, foot }: CarriedItem): number =>
  Math.hypot(carriedWidth(carried) + EDGE * carried.size, Math.max(0, foot) + carried.size * (1 + STAFF + FLAG_WAVE + EDGE))

/** Paints what a vehicle carries, upright over it. A picture that has not loaded yet is not there. */
export function paintCarried(context: CanvasRenderingContext2D, studio: Studio, space: CanvasSpace, item: CarriedItem): void {
  const { carried, foot, scale } = item
  const { size } = carried
  placeAt(context, space, item.at, space.projection.depthScale(item.at))
  context.translate(0, -foot)
  context.scale(scale, scale)
  context.lineCap = 'round'
  context.lineJoin = 'round'
  const top = carried.kind === 'flag' ? -size * (1 + STAFF) : -size * STAFF
  for (const [colour, width] of [
    [PAPER, STAFF_WIDTH + EDGE],
    [LINE, STAFF_WIDTH],
  ] as const) {
    context.strokeStyle = colour
    context.lineWidth = width * size
    context.beginPath()
    context.moveTo(0, 0)
    context.lineTo(0, top)
    context.stroke()
  }
  context.translate(0, -size * STAFF)
  paintCargo(context, studio, space, carried)
}

/** Paints what is carried, with the top of its staff at the origin. */
function paintCargo(context: CanvasRenderingContext2D, studio: Studio, space: CanvasSpace, carried: Carried): void {
  const { size } = carried
  const width = carriedWidth(carried)
  switch (carried.kind) {
    case 'plate': {
      context.beginPath()
      context.roundRect(-width / 2, -size, width, size, size * 0.2)
      context.lineWidth = EDGE * size
      context.strokeStyle = carried.colour
      context.stroke()
      context.fillStyle = carried.paper
      context.fill()
      setFont(context, LETTERS * size)
      context.textAlign = 'center'
      context.textBaseline = 'alphabetic'
      context.fillStyle = carried.colour
      context.fillText(carried.text, 0, -size * 0.3)
      return
    }
    case 'flag': {
      // Two stripes, the lower one first, so that the upper covers the seam.
      outlineFlag(context, size, width, 1)
      context.lineWidth = EDGE * size
      context.strokeStyle = PAPER
      context.stroke()
      context.fillStyle = carried.second
      context.fill()
      outlineFlag(context, size, width, 0.5)
      context.fillStyle = carried.colour
      context.fill()
      return
    }
    case 'picture': {
      const found = studio.wholePicture(carried.picture, carriedPictureWidth(carried, space.scale))
      if (!found) return
      smoothly(context, () => context.drawImage(found.image, -width / 2, -size, width, size))
      return
    }
    default:
      return carried satisfies never
  }
}

/** The outline of a waving flag on the right of its staff, as the current path. @param share of its height, from the top */
function outlineFlag(context: CanvasRenderingContext2D, size: number, width: number, share: number): void {
  const wave = FLAG_WAVE * size
  const bottom = -size * (1 - share)
  context.beginPath()
  context.moveTo(0, -size)
  context.bezierCurveTo(width / 3, -size - 2 * wave, (2 * width) / 3, -size + 2 * wave, width, -size)
  context.lineTo(width, bottom)
  context.bezierCurveTo((2 * width) / 3, bottom + 2 * wave, width / 3, bottom - 2 * wave, 0, bottom)
  context.closePath()
}
