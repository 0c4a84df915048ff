import { bowedCubics } from '../geometry/bow'
import { courseOf } from '../geometry/course'
import type { Point } from '../geometry/point'
import { flatView } from '../camera/view'
import type { Ink } from '../journey/schema'

/** The size of the sample of a line, in reference pixels. */
export const SAMPLE_SIZE = { width: 210, height: 120 } as const

/** A view over a small piece of ground, and a winding course on it, on which the look of a line can be shown. */
export const SAMPLE_VIEW = flatView({ x: SAMPLE_SIZE.width / 2, y: SAMPLE_SIZE.height / 2 }, 1)

const [START, MIDDLE, END]: [Point, Point, Point] = [
  { x: 22, y: 84 },
  { x: 104, y: 62 },
  { x: 188, y: 36 },
]

export const SAMPLE_COURSE = courseOf([...bowedCubics(START, MIDDLE, 0.26), ...bowedCubics(MIDDLE, END, -0.26)])

/** The ink of a sample: what of it has a length of its own is shortened to fit. */
export const sampleInk = (ink: Ink): Ink => ({ ...ink, taper: Math.min(ink.taper, SAMPLE_COURSE.length * 0.8), march: 0 })
