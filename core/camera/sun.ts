import { radians } from '../geometry/angle'
import type { Point } from '../geometry/point'
import type { Projection } from './projection-type'

/** Light from so far away that its rays are parallel. */
export interface Sun {
  /** Where on the map it comes from, in degrees clockwise from up. */
  bearing: number
  /** How high it stands over the horizon, in degrees. */
  height: number
  /** How softly shadows end, 0 to 1, and how dark they are. */
  softness: number
  strength: number
}

/** No shadow is longer than so many times what casts it. */
export const LONGEST_SHADOW = 5

/** How long a shadow is, in heights of what casts it: the cotangent of the sun's height, as on any sundial. */
export const shadowLength = ({ height }: Pick<Sun, 'height'>): number => Math.min(LONGEST_SHADOW, 1 / Math.tan(radians(height)))

/** The direction on the ground in which shadows fall, y down: away from the sun. */
export const awayFrom = ({ bearing }: Pick<Sun, 'bearing'>): Point => ({ x: -Math.sin(radians(bearing)), y: Math.cos(radians(bearing)) })

/**
 * Where in the frame a shadow falls on the ground about a point: as far as what casts it is long there, which is 1 where the view is flat, and less where
 * the ground is foreshortened.
 */
function shadowInFrame(sun: Pick<Sun, 'bearing'>, projection: Projection, at: Point): Point {
  const [a, b, c, d] = projection.groundAxes(at)
  const { x, y } = awayFrom(sun)
  const scale = projection.depthScale(at)
  return { x: (a * x + c * y) / scale, y: (b * x + d * y) / scale }
}

/** The least share of its length by which the shadow of a picture that stands upright goes up or down: lit from its edge it would cast none. */
const LEAST_RISE = 0.22

/**
 * How the shadow of what stands upright lies in the frame: where that of something one long ends, and that of its breadth, to the right.
 * @param isRound whether it is as broad from all sides; a picture faces the camera, and its foot stays where it is
 */
export function shadowAxes(sun: Pick<Sun, 'bearing'>, projection: Projection, at: Point, isRound: boolean): { fall: Point; across: Point } {
  const { x, y } = shadowInFrame(sun, projection, at)
  if (isRound) {
    const side = shadowInFrame({ bearing: sun.bearing + 90 }, projection, at)
    return { fall: { x, y }, across: side.x < 0 ? { x: -side.x, y: -side.y } : side }
  }
  const least = LEAST_RISE * Math.hypot(x, y)
  return { fall: { x, y: y < 0 ? Math.min(y, -least) : Math.max(y, least) }, across: { x: 1, y: 0 } }
}

/** The direction in which shadows fall on what faces the camera, such as letters on their map: a unit vector; straight down where there is no sun. */
export function fallInFrame(sun: Pick<Sun, 'bearing'> | null, projection: Projection): Point {
  if (!sun) return { x: 0, y: 1 }
  const { x, y } = shadowInFrame(sun, projection, projection.view.centre)
  const length = Math.max(Math.hypot(x, y), 1e-6)
  return { x: x / length, y: y / length }
}
