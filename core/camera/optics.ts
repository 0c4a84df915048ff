import { radians } from '../geometry/angle'
import type { Point } from '../geometry/point'
import type { Size } from '../geometry/size'

/** The camera stands this many frame heights from the middle of what it sees: a vertical field of view of 2 atan(1/3), 36.87 degrees. */
export const DISTANCE = 1.5

/** Nothing nearer to the camera than this share of its distance to the middle is projected: it lies far below the frame. */
export const NEAR = 0.25

/** Cosine and sine of a bearing. */
export interface Direction {
  cos: number
  sin: number
}

/** The direction of a bearing in degrees, exact where the map is upright. */
export function directionOf(bearing: number): Direction {
  if (bearing === 0) return { cos: 1, sin: 0 }
  const angle = radians(bearing)
  return { cos: Math.cos(angle), sin: Math.sin(angle) }
}

/** How far to the right an offset on the ground is, for a camera that looks in a direction. */
export const rightOf = ({ cos, sin }: Direction, x: number, y: number): number => x * cos + y * sin

/** How far away from the camera an offset on the ground is. */
export const awayOf = ({ cos, sin }: Direction, x: number, y: number): number => x * sin - y * cos

/** The offset on the ground that is so far to the right and so far away. */
export const offsetOf = ({ cos, sin }: Direction, right: number, away: number): Point => ({
  x: right * cos + away * sin,
  y: right * sin - away * cos,
})

/** A camera's tilt: its distance from the middle in reference pixels, and cosine and sine of its pitch. */
export interface Tilt {
  distance: number
  cos: number
  sin: number
}

/** @param pitch in degrees from straight down */
export function tiltOf(pitch: number, { height }: Size): Tilt {
  const angle = radians(pitch)
  return { distance: DISTANCE * height, cos: Math.cos(angle), sin: Math.sin(angle) }
}

/** How far beyond the middle the ground is, in pixels, that is seen so many reference pixels above it; below it for negative ones. */
export const awayAt = ({ distance, cos, sin }: Tilt, above: number): number => (above * distance) / (distance * cos - above * sin)
