import type { Size, View } from '#core/camera/view'
import { toGround, toScreen } from '#core/camera/view'
import type { Cubic } from '#core/geometry/cubic'
import { isJump } from '#core/geometry/cubic'
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

/** A ground point as SVG path data, in CSS pixels of the stage. */
export function placeOnStage(space: StageSpace, p: Point): string {
  const { x, y } = toStage(space, p)
  return `${x.toFixed(1)} ${y.toFixed(1)}`
}

/** A chain of cubics as SVG path data on the stage. */
export function chainOnStage(space: StageSpace, cubics: readonly Cubic[]): string {
  const xy = (p: Point) => placeOnStage(space, p)
  return cubics.map(([a, b, c, d], i) => `${i === 0 || isJump(cubics, i) ? `M${xy(a)}` : ''}C${xy(b)} ${xy(c)} ${xy(d)}`).join('')
}
