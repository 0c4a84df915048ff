import { radians } from '../geometry/angle'

/** The camera stands this many frame heights from the middle of what it sees: a vertical field of view of 2 atan(1/3), 36.87 degrees. */
export const DISTANCE = 1.5

/** Nothing nearer to the camera than this share of its distance to the middle is projected: it lies far below the frame. */
export const NEAR = 0.25

/** Cosine and sine of a bearing in degrees, exact where the map is upright. */
export function directionOf(bearing: number): [number, number] {
  if (bearing === 0) return [1, 0]
  const angle = radians(bearing)
  return [Math.cos(angle), Math.sin(angle)]
}
