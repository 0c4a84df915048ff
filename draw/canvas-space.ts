import type { Size, View } from '#core/camera/view'
import { toScreen } from '#core/camera/view'
import type { Point } from '#core/geometry/point'

/** Where painting happens: output pixels per reference pixel, and the way from the ground to reference pixels. */
export interface CanvasSpace {
  scale: number
  reference: Size
  view: View
}

/** Sets the context to draw in reference pixels with the origin at a ground point, turned and stretched as asked. */
export function placeAt(
  context: CanvasRenderingContext2D,
  space: CanvasSpace,
  at: Point,
  stretch = 1,
  rotation = 0,
  mirrored = false,
): void {
  const { x, y } = toScreen(space.view, space.reference, at)
  const k = space.scale
  context.setTransform(k, 0, 0, k, x * k, y * k)
  context.rotate(rotation)
  context.scale(mirrored ? -stretch : stretch, stretch)
}

/** Sets the context to draw in reference pixels from the frame's upper left corner. */
export const placeInFrame = (context: CanvasRenderingContext2D, { scale }: CanvasSpace): void =>
  context.setTransform(scale, 0, 0, scale, 0, 0)
