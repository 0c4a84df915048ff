import { LONGEST_SHADOW, shadowAxes, shadowLength } from '#core/camera/sun'
import type { Sun } from '#core/camera/sun'
import type { Box } from '#core/geometry/box'
import { unionOf } from '#core/geometry/box'
import type { Point } from '#core/geometry/point'
import type { CanvasSpace } from './canvas-space'
import { placeAt } from './canvas-space'
import { LINE } from './colour'
import type { Surface } from './studio'

/** The shadows that what stands on the ground casts in the light of the journey's sun. */

export interface Layers {
  /** Cleared surfaces of the size asked for, for one item at a time. */
  first: (width: number, height: number) => Surface
  second: (width: number, height: number) => Surface
}

/** Shadows are soft, so they are painted and blurred at this share of the output's size. */
const SHADOW_SCALE = 0.25

/** The standard deviation by which a shadow is blurred: always a little, and where it is soft a share of the height of what casts it. */
const blurOf = ({ softness }: Sun, height: number): number => 1 + 0.09 * softness * height

/** Layers are so many pixels wide and high, or a multiple, so that they are made anew less often. */
const STEP = 32

/** What casts a shadow: it is painted upright, in units of its own, about the point of the ground that it stands at. */
export interface Figure {
  at: Point
  /** Reference pixels to one of its units. */
  stretch: number
  /** What it keeps to, in its units, y down. */
  box: Box
  /** Whether it stands on a point and looks much the same from all sides, rather than be a picture that is only as broad as it is seen. */
  isRound: boolean
  paint: (context: CanvasRenderingContext2D) => void
}

/** How far a shadow reaches from the place of what casts it, in reference pixels, at most. @param height and @param width of that */
export const castReach = (sun: Sun | null, height: number, width: number): number =>
  sun ? Math.min(LONGEST_SHADOW, shadowLength(sun)) * height + width + 3 * blurOf(sun, height) + 4 : 0

/** Paints the shadow that a figure casts on the ground. @param opacity 0..1, of the whole */
export function castShadow(
  context: CanvasRenderingContext2D,
  space: CanvasSpace,
  sun: Sun,
  figure: Figure,
  opacity: number,
  layers: Layers,
): void {
  const { at, stretch, box } = figure
  if (opacity <= 0) return
  const long = shadowLength(sun)
  const { fall, across } = shadowAxes(sun, space.projection, at, figure.isRound)
  const [a, b, c, d] = [stretch * across.x, stretch * across.y, -stretch * long * fall.x, -stretch * long * fall.y]
  const corner = (x: number, y: number): Box => {
    const at = { x: a * x + c * y, y: b * x + d * y }
    return { left: at.x, right: at.x, top: at.y, bottom: at.y }
  }
  const cast = unionOf([box.left, box.right].flatMap((x) => [corner(x, box.top), corner(x, box.bottom)]))
  const sigma = blurOf(sun, stretch * (box.bottom - box.top))
  const room = 3 * sigma + 2
  const [left, top] = [cast.left - room, cast.top - room]
  const k = space.scale * SHADOW_SCALE
  const sideOf = (length: number) => STEP * Math.ceil((length * k) / STEP)
  const [width, height] = [sideOf(cast.right + room - left), sideOf(cast.bottom + room - top)]
  const sharp = layers.first(width, height)
  sharp.context.setTransform(k * a, k * b, k * c, k * d, -left * k, -top * k)
  figure.paint(sharp.context)
  darken(sharp)
  const soft = layers.second(width, height)
  soft.context.filter = `blur(${sigma * k}px)`
  soft.context.drawImage(sharp.image, 0, 0)
  soft.context.filter = 'none'
  placeAt(context, space, at)
  context.globalAlpha = opacity
  context.drawImage(soft.image, 0, 0, width, height, left, top, width / k, height / k)
  context.globalAlpha = 1
}

/** Makes all that is painted on a surface as dark as a shadow. */
export function darken({ context, width, height }: Surface): void {
  context.setTransform(1, 0, 0, 1, 0, 0)
  context.globalCompositeOperation = 'source-in'
  context.fillStyle = LINE
  context.fillRect(0, 0, width, height)
  context.globalCompositeOperation = 'source-over'
}
