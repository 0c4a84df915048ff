import { radians, turnBetween } from '../geometry/angle'
import type { Course } from '../geometry/course'
import { chordHeading } from '../geometry/course'
import type { Artwork } from '../vehicles/artwork'

/** The greatest lean of a vehicle seen from the side, and how far past the vertical its heading must go before it turns round. */
const MOST_LEAN = radians(35)
const HYSTERESIS = radians(10)

/** Smoothing length of the heading, in vehicle lengths. */
export const SMOOTHING = 1.5

/** A stretch of course that one vehicle travels without resting, over which its heading is continuous. */
export interface Run {
  course: Course
  /** Smoothing length in ground units. */
  window: number
  /** Where a side-view vehicle turns round; searched on first use. */
  sides(): Sides
}

/** Lengths at which a side-view vehicle turns round, rising; before the first it faces as `startsLeft` says. */
export interface Sides {
  flips: readonly number[]
  startsLeft: boolean
}

/** Prepares a run; `view` decides whether turning round has to be looked for. */
export function runOf(course: Course, window: number, view: Artwork['view']): Run {
  let known: Sides | undefined
  const run: Run = { course, window, sides: () => (known ??= view === 'side' ? turnsRound(run) : { flips: [], startsLeft: false }) }
  return run
}

/** Heading at length s, in radians, 0 to the right, clockwise positive; 0 on a course without length. */
export function headingAt(run: Run, s: number): number {
  return chordHeading(run.course, s, run.window) ?? chordHeading(run.course, s, run.window * 1.01) ?? 0
}

const facesLeft = (heading: number): boolean => Math.cos(heading) < 0

/** The most places examined on one run: a course of 20 000 vehicle lengths is still searched to one vehicle length. */
const MOST_PROBES = 20_000

function turnsRound(run: Run): Sides {
  const { length } = run.course
  const probes = Math.min(MOST_PROBES, Math.max(1, Math.ceil(length / (run.window / 8))))
  const startsLeft = facesLeft(headingAt(run, 0))
  const flips: number[] = []
  let left = startsLeft
  for (let i = 1; i <= probes; i++) {
    const s = (length * i) / probes
    const off = Math.abs(turnBetween(left ? Math.PI : 0, headingAt(run, s)))
    if (off > Math.PI / 2 + HYSTERESIS) {
      flips.push(s)
      left = !left
    }
  }
  return { flips, startsLeft }
}

/** Whether a side-view vehicle at length s heads into the left half plane. */
export function headsLeft(run: Run, s: number): boolean {
  const { flips, startsLeft } = run.sides()
  const turned = flips.filter((flip) => flip <= s).length
  return turned % 2 === 0 ? startsLeft : !startsLeft
}

/**
 * How far the nose of a vehicle that is seen from the side points down, in radians: at most MOST_LEAN up or down.
 * @param left whether it faces left
 */
export function leanOf(heading: number, left: boolean): number {
  return Math.min(MOST_LEAN, Math.max(-MOST_LEAN, dipOf(heading, left)))
}

/** How far a heading leads down from straight to the left or right, in radians. */
const dipOf = (heading: number, left: boolean): number => (left ? turnBetween(heading, Math.PI) : turnBetween(0, heading))

/** How an artwork is placed in the frame: mirrored left to right if asked, then turned by `rotation` (radians, clockwise). */
export interface Pose {
  rotation: number
  mirrored: boolean
}

/** @param lean of a vehicle seen from the side, as leanOf gives it */
export function poseOf(artwork: Artwork, heading: number, left: boolean, lean = leanOf(heading, left)): Pose {
  switch (artwork.view) {
    case 'above':
      return { rotation: turnBetween(radians(artwork.facing), heading), mirrored: false }
    case 'side':
      return { rotation: left ? -lean : lean, mirrored: left !== Math.abs(artwork.facing) > 90 }
    case 'upright':
      return { rotation: 0, mirrored: false }
  }
}

/** A line that comes up to a vehicle from so far below it, in radians, ends at its foot: behind it there would be nothing over the line. */
const FROM_BELOW = radians(25)

/**
 * How far behind the vehicle the ink ends so that the drawing covers its end, as a share of the vehicle's length. One that stands on its foot covers the
 * line that comes from behind or from above, but not from below.
 */
export function inkGapOf({ view, inkGap }: Artwork, heading: number, left: boolean, lean: number): number {
  if (view === 'above') return inkGap
  const up = (view === 'side' ? lean : 0) - (view === 'side' ? dipOf(heading, left) : Math.asin(Math.sin(heading)))
  return inkGap * Math.min(1, Math.max(0, 1 - Math.sin(Math.min(Math.PI / 2, Math.max(0, up))) / Math.sin(FROM_BELOW)))
}
