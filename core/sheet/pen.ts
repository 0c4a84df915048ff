import { remembered } from '../remembered'
import type { Sheet } from '../journey/schema'

/**
 * The lines of a generated map have the same width on the screen however near the camera is, and the same share of the frame however many pixels that has. So
 * its tiles are drawn for the size of the frame, too, in steps of a quarter of a doubling, which is less than the eye tells.
 */
const STEPS = 4

/** The pen for a frame with so many output pixels to a reference pixel: a number of steps. */
const penFor = (scale: number): number => Math.round(STEPS * Math.log2(scale))

/** Output pixels to a reference pixel, as a pen has it. */
export const penScale = (pen: number): number => 2 ** (pen / STEPS)

/** Pens that are drawn for: frames from a 250th of the reference size to 16 times that. */
export const PENS = { least: -32, most: 16 } as const

const penned = remembered((sheet: Sheet, pen: number) => ({ ...sheet, pen }))

/** A sheet as it is drawn at a scale, in output pixels to a reference pixel: the same object as long as it is drawn with the same pen. */
export const drawnAt = (sheet: Sheet, scale: number): Sheet & { pen?: number } =>
  sheet.drawn ? penned(sheet, Math.min(PENS.most, Math.max(PENS.least, penFor(scale)))) : sheet
