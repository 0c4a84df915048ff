import type { Point } from '../geometry/point'
import type { Size } from '../geometry/size'
import type { Spot } from './globe'
import type { View } from './view'

/** The way between the ground and the frame, for one view. Screen points are in reference pixels from the frame's upper left corner. */
export interface Projection {
  readonly view: View
  readonly reference: Size
  /** Whether the camera looks straight down, so that the ground is at one scale all over. */
  readonly isFlat: boolean
  /** Where a ground point is in the frame. What lies behind the camera comes to lie far below the frame. */
  toScreen(p: Point): Point
  /** The ground point that is seen at a place of the frame; undefined above the horizon, or beside the globe. */
  toGround(p: Point): Point | undefined
  /** How large things look at a ground point, as a share of how large they look at the middle: 1 all over where the view is flat. */
  depthScale(p: Point): number
  /** Reference pixels per ground unit at a ground point, across the line of sight. */
  scaleAt(p: Point): number
  /** The height in the frame of the horizon, in reference pixels from its top (negative above it); -Infinity where the view is flat. */
  readonly horizon: number
  /**
   * How the ground lies in the frame about a point: the linear map from ground directions to the frame as [a, b, c, d], x' = a x + c y and y' = b x + d y,
   * as for a canvas, without the zoom, so that at the middle of a flat view with its map upright it is [1, 0, 0, 1].
   */
  groundAxes(p: Point): readonly [number, number, number, number]
  /**
   * How far in front of the least distance that is projected a ground point lies, or how far it is before the edge of the globe; negative for what must be cut
   * off. In reference pixels.
   */
  clearance(p: Point): number
  /** The place of the frame at which ground is seen that is nearest to a place, or towards the middle from it. */
  onGround(p: Point): Point
  /** The globe that the ground is bent to, if it is. */
  readonly bent: BentGround | undefined
}

/** The frame's side of a bent ground: what a painter asks for each pixel. Places are in reference pixels. */
export interface BentGround {
  /** How much the ground is bent, 0..1. */
  readonly share: number
  /** Once round the Earth on the ground, where that is the same everywhere. */
  readonly round: Point | undefined
  /** How far inside the edge of the globe a place of the frame is, about, in reference pixels; negative beside it. Exact at the edge. */
  inside(p: Point): number
  /**
   * How far inside the edge a place is, as above, and how directly one looks at the ground there: the cosine of the angle to its normal, 1 where one looks
   * straight down, 0 at the edge.
   */
  look(x: number, y: number, out: Float64Array): void
  /** The ground point that is seen at a place; just beside the globe, that at its edge. */
  groundBy(p: Point): Point | undefined
  /** The spot that would be seen there if all of the globe were bent. */
  spotBy(p: Point): Spot
  /**
   * Where a spot of the Earth is in the frame, x and y, and how far the camera is above the plane that touches the ground there: negative for what is hidden.
   * @param x @param y where the map has it, in ground units; on a map of the world, the copy that is meant
   */
  lay(x: number, y: number, spot: Spot, out: Float64Array): void
  /** A hidden point, brought to the edge behind which it lies: where it is in the frame. */
  toEdge(p: Point): Point
}
