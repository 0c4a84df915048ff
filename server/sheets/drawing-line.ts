import { JobLine } from './job-line'

/**
 * What draws tiles of vector images and generated maps, and previews of those: one process, as reading what maps are drawn from takes a second by itself. It is
 * kept for a minute. Times are in milliseconds.
 */
export const drawingLine = new JobLine(60_000, 60_000)

/** Previews come before tiles, of which the coarser come first: the urgency of a tile is its level. */
export const PREVIEW_FIRST = 100
