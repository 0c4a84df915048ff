import type { PlannedItem } from '#core/frame/frame'
import type { Ink, Line } from '#core/journey/schema'
import { GLOW_REACH } from './glow'
import { STRAY_REACH } from './hand'
import { STAMP_LENGTH } from './ink-parts'
import { GAUSSIAN_REACH, SOFT_SCALE } from './soft'

/** How far the marks of a line reach from its course, in reference pixels; 0 where there are none. */
function stampReach(line: Line, width: number): number {
  if (line.kind !== 'stamped') return 0
  const half = (STAMP_LENGTH * width) / 2
  return line.stamp === 'own' && line.picture ? half * Math.hypot(1, line.picture.height / line.picture.width) : half * Math.SQRT2
}

/** A mitre is as long as its line is wide, at least, and as the limit lets it be, at most. */
const mitreOf = ({ join, mitreLimit }: Ink): number => (join === 'mitre' ? mitreLimit : 1)

/** How far a line itself reaches from its course, in reference pixels: half a width, and the corner of a square cap. */
function edgeOf(ink: Ink): number {
  const { width, line, hand, arrow } = ink
  return Math.max(
    (width / 2) * mitreOf(ink),
    width * (Math.SQRT1_2 + (hand === 'none' ? 0 : STRAY_REACH)),
    stampReach(line, width),
    arrow ? arrow.size * width * 1.2 : 0,
  )
}

/** What is soft is coarse, and reaches as far as its pixels. */
const COARSE = 2 / SOFT_SCALE

/** How far a line reaches with its casing and its soft edges. */
export const bodyReach = (ink: Ink): number =>
  edgeOf(ink) + (ink.casing?.width ?? 0) * mitreOf(ink) + (ink.soft > 0 ? GAUSSIAN_REACH * ink.soft + COARSE : 0)

/** How far ink reaches from its course, in reference pixels: its line, and what stands beyond it. */
export function inkReach(ink: Ink): number {
  const { shadow, glow, leader } = ink
  const edge = Math.max(edgeOf(ink), leader ? leader.size * 0.6 : 0)
  return (
    Math.max(
      edge,
      bodyReach(ink),
      shadow ? edge + shadow.offset + 3 * shadow.blur + COARSE : 0,
      // The bright spot is wider than its line.
      glow ? edge * (glow.spark ? 1.3 : 1) + glow.radius * GLOW_REACH + COARSE : 0,
    ) + 1
  )
}

/** How far a planned line reaches from its course, in reference pixels. */
export const plannedReach = ({ planned: { width, line } }: PlannedItem): number =>
  Math.max(width * Math.SQRT1_2, stampReach(line, width)) + 1
