import type { Size, View } from '#core/camera/view'
import { toGround, toScreen } from '#core/camera/view'
import type { Point } from '#core/geometry/point'

/** The way between the ground and the stage's CSS pixels. */
export interface StageSpace {
  view: View
  reference: Size
  /** CSS pixels per reference pixel. */
  scale: number
}

export function toStage({ view, reference, scale }: StageSpace, p: Point): Point {
  const { x, y } = toScreen(view, reference, p)
  return { x: x * scale, y: y * scale }
}

export const fromStage = ({ view, reference, scale }: StageSpace, p: Point): Point =>
  toGround(view, reference, { x: p.x / scale, y: p.y / scale })
