/** The shortest and the longest side of a frame, in pixels; encoders ask for even ones. */
export const FRAME_SIDES = { least: 64, most: 4096 } as const

/** Whether a film can have a side of so many pixels. */
export const isFrameSide = (side: number): boolean => side % 2 === 0 && side >= FRAME_SIDES.least && side <= FRAME_SIDES.most
