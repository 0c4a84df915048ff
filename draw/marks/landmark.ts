import type { StandingItem } from '#core/frame/frame'
import type { StandingPicture } from '#core/journey/schema'
import type { CanvasSpace } from '../canvas-space'
import { placeAt } from '../canvas-space'
import { translucent } from '../colour'
import type { Layers } from '../shadow'
import { castReach, castShadow } from '../shadow'
import type { Studio } from '../studio'
import { smoothly } from '../picture'

/** The shadow at a picture's foot: its breadth and height, as shares of the picture's width. */
const SHADOW = { across: 0.42, down: 0.1 } as const

/** A picture's size in reference pixels at its place: it stands on the ground, and so grows with the map. */
function seenSize({ projection }: CanvasSpace, { at, width, picture }: StandingPicture): { width: number; height: number } {
  const across = width * projection.scaleAt(at)
  return { width: across, height: (across * picture.height) / picture.width }
}

/** How wide a standing picture is in the output, in pixels. */
export const standingWidth = (space: CanvasSpace, picture: StandingPicture): number => seenSize(space, picture).width * space.scale

/** How far a standing picture reaches from its place, in reference pixels. */
export function standingReach(space: CanvasSpace, picture: StandingPicture): number {
  const { width, height } = seenSize(space, picture)
  const { x, y } = picture.anchor
  return (
    Math.hypot(Math.max(x, 1 - x) * width, Math.max(y, 1 - y + SHADOW.down) * height) +
    SHADOW.across * width +
    castReach(space.sun, height, width)
  )
}

/** Paints a picture that stands on the ground, with a shadow at its foot. One that has not loaded yet is not there. */
export function paintStanding(
  context: CanvasRenderingContext2D,
  studio: Studio,
  space: CanvasSpace,
  { picture, opacity }: StandingItem,
  layers: Layers,
): void {
  const { width, height } = seenSize(space, picture)
  const image = studio.wholePicture(picture.picture, width * space.scale)?.image
  if (!image) return
  const { anchor, shadow } = picture
  placeAt(context, space, picture.at)
  const left = -anchor.x * width
  const top = -anchor.y * height
  context.globalAlpha = opacity
  if (shadow > 0 && space.sun) {
    const box = { left, right: left + width, top, bottom: top + height }
    const paint = (canvas: CanvasRenderingContext2D) => canvas.drawImage(image, left, top, width, height)
    castShadow(context, space, space.sun, { at: picture.at, stretch: 1, isRound: false, box, paint }, shadow * opacity, layers)
    placeAt(context, space, picture.at)
    context.globalAlpha = opacity
  } else if (shadow > 0) {
    const [x, y] = [left + width / 2, top + height]
    const reach = SHADOW.across * width
    context.save()
    context.translate(x, y)
    context.scale(1, SHADOW.down / SHADOW.across)
    const soft = context.createRadialGradient(0, 0, 0, 0, 0, reach)
    soft.addColorStop(0, translucent('#0a1018', shadow))
    soft.addColorStop(0.6, translucent('#0a1018', shadow * 0.55))
    soft.addColorStop(1, translucent('#0a1018', 0))
    context.fillStyle = soft
    context.beginPath()
    context.arc(0, 0, reach, 0, 2 * Math.PI)
    context.fill()
    context.restore()
  }
  smoothly(context, () => context.drawImage(image, left, top, width, height))
  context.globalAlpha = 1
}
