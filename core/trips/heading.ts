import { clamp } from '../geometry/clamp'
import { radians, turnBetween } from '../geometry/angle'
import type { Course } from '../geometry/course'
import { chordHeading } from '../geometry/course'
import type { Posture } from '../vehicles/artwork'

/** The greatest lean of a vehicle seen from the side, in degrees: more looks as if it were parked on a cliff. And how far past the vertical its heading must go before it turns round. */
export const MOST_LEAN = 12
const HYSTERESIS = radians(10)

/** Smoothing length of the heading, in vehicle lengths. */
export const SMOOTHING = 1.5

/** A run of course that one vehicle travels without resting, over which its heading is continuous. */
export interface Run {
  course: Course
}

/**
 * Heading on the ground at length s, in radians, 0 to the right, clockwise positive; 0 on a course without length.
 * @param window smoothing length in ground units
 */
export function headingAt({ course }: Run, s: number, window: number): number {
  return chordHeading(course, s, window) ?? chordHeading(course, s, window * 1.01) ?? 0
}

/** Whether a direction in the frame leads to the left. */
export const facesLeft = (direction: number): boolean => Math.cos(direction) < 0

/** Whether a vehicle seen from the side turns round: it does when its direction in the frame is well past the vertical. */
export const turnsRound = (direction: number, left: boolean): boolean =>
  Math.abs(turnBetween(left ? Math.PI : 0, direction)) > Math.PI / 2 + HYSTERESIS

/**
 * How far the nose of a vehicle that is seen from the side points down, in radians: at most `most` degrees up or down.
 * @param direction in the frame
 * @param left whether it faces left
 */
export function leanOf(direction: number, left: boolean, most = MOST_LEAN): number {
  return clamp(dipOf(direction, left), -radians(most), radians(most))
}

/** How far a direction leads down from straight to the left or right, in radians. */
const dipOf = (direction: number, left: boolean): number => (left ? turnBetween(direction, Math.PI) : turnBetween(0, direction))

/** How a vehicle's picture is placed: mirrored left to right if asked, then turned by `rotation` (radians, clockwise), on the ground if it lies there, else in the frame. */
export interface Pose {
  lies: boolean
  rotation: number
  mirrored: boolean
}

/**
 * @param heading on the ground
 * @param lean of a vehicle seen from the side, as leanOf gives it
 */
export function poseOf({ view, facing }: Posture, heading: number, left: boolean, lean: number): Pose {
  switch (view) {
    case 'above':
      return { lies: true, rotation: turnBetween(radians(facing), heading), mirrored: false }
    case 'side':
      return { lies: false, rotation: left ? -lean : lean, mirrored: left !== Math.abs(facing) > 90 }
    case 'upright':
      return { lies: false, rotation: 0, mirrored: false }
    default:
      return view satisfies never
  }
}

/** A line that comes up to a vehicle from so far below it, in radians, ends at its foot: behind it there would be nothing over the line. */
const FROM_BELOW = radians(25)

/**
 * How far behind the vehicle the ink ends so that the drawing covers its end, as a share of the vehicle's length. One that stands on its foot covers the
 * line that comes from behind or from above, but not from below.
 * @param direction in the frame, in which it travels
 */
export function inkBehindOf({ view, inkBehind }: Posture, direction: number, left: boolean, lean: number): number {
  if (view === 'above') return inkBehind
  const up = (view === 'side' ? lean : 0) - (view === 'side' ? dipOf(direction, left) : Math.asin(Math.sin(direction)))
  return inkBehind * clamp(1 - Math.sin(clamp(up, 0, Math.PI / 2)) / Math.sin(FROM_BELOW), 0, 1)
}
