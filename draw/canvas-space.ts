import type { Projection } from '#core/camera/projection-type'
import { projectionOf } from '#core/camera/projection'
import type { Size } from '#core/geometry/size'
import type { Sun } from '#core/camera/sun'
import type { View } from '#core/camera/view'
import type { Point } from '#core/geometry/point'

/** Where painting happens: output pixels per reference pixel, and the way from the ground to reference pixels. */
export interface CanvasSpace {
  scale: number
  reference: Size
  projection: Projection
  /** Whether the view is another one at every frame. */
  isMoving: boolean
  /** Whether a view at rest is painted only as finely as one that moves. */
  isRough: boolean
  /** The light in which things cast their shadows; null where it comes from above. */
  sun: Sun | null
}

export const spaceOf = (
  { view, reference, isMoving, sun }: { view: View; reference: Size; isMoving: boolean; sun: Sun | null },
  scale: number,
  isRough = false,
): CanvasSpace => ({
  scale,
  reference,
  projection: projectionOf(view, reference),
  isMoving,
  isRough,
  sun,
})

/** The size of the canvas, in output pixels. */
export const sizeOf = ({ reference, scale }: Pick<CanvasSpace, 'reference' | 'scale'>): Size => ({
  width: Math.round(reference.width * scale),
  height: Math.round(reference.height * scale),
})

/** Sets the context to draw in reference pixels, upright, with the origin at a ground point, turned and stretched as asked. */
export function placeAt(
  context: CanvasRenderingContext2D,
  space: CanvasSpace,
  at: Point,
  stretch = 1,
  rotation = 0,
  mirrored = false,
): void {
  const { x, y } = space.projection.toScreen(at)
  const k = space.scale
  context.setTransform(k, 0, 0, k, x * k, y * k)
  context.rotate(rotation)
  context.scale(mirrored ? -stretch : stretch, stretch)
}

/** Sets the context to draw flat on the ground about a ground point, in reference pixels at the middle of the view. */
export function layAt(context: CanvasRenderingContext2D, space: CanvasSpace, at: Point, stretch = 1, rotation = 0): void {
  const { x, y } = space.projection.toScreen(at)
  const [a, b, c, d] = space.projection.groundAxes(at)
  const k = space.scale
  context.setTransform(a * k, b * k, c * k, d * k, x * k, y * k)
  context.rotate(rotation)
  context.scale(stretch, stretch)
}

/**
 * How large something that stands on the ground is in the frame. It shrinks only with the square root of its distance, so that what is far away can
 * still be read.
 */
export const standingScale = ({ projection }: CanvasSpace, at: Point): number => Math.sqrt(projection.depthScale(at))

/** Sets the context to draw in reference pixels from the frame's upper left corner. */
export const placeInFrame = (context: CanvasRenderingContext2D, { scale }: Pick<CanvasSpace, 'scale'>): void =>
  context.setTransform(scale, 0, 0, scale, 0, 0)
