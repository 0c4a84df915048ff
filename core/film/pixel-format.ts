import type { Size } from '../geometry/size'

/**
 * How the pixels of a frame are laid out for an encoder, row by row: RGBA, a byte each, not premultiplied; or as three planes, Y', Cb and Cr after ITU-R BT.709 in
 * limited range, the chroma at half the width and height.
 */
export const PIXEL_FORMATS = ['rgba', 'yuv420p'] as const
export type PixelFormat = (typeof PIXEL_FORMATS)[number]

/** The bytes of a frame. @param size in pixels; even numbers for `yuv420p` */
export const frameBytes = (format: PixelFormat, { width, height }: Size): number => width * height * (format === 'rgba' ? 4 : 1.5)
