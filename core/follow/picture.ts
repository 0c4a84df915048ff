import type { Size } from '../geometry/size'
import type { PixelRect, Pixels } from './raster'

/** An image whose levels can be read part by part; a pixel of level k is 2^k of its pixels wide. */
export interface PictureSource extends Size {
  /** The pixels of a rectangle of a level, all of it within the image. */
  read(level: number, rect: PixelRect): Promise<Pixels>
}

/** A rectangle of an image as it lies on one of its levels. */
export function onLevel(size: Size, { x, y, width, height }: PixelRect, level: number): PixelRect {
  const k = 2 ** level
  const [left, top] = [Math.floor(x / k), Math.floor(y / k)]
  return {
    x: left,
    y: top,
    width: Math.min(Math.ceil((x + width) / k), Math.ceil(size.width / k)) - left,
    height: Math.min(Math.ceil((y + height) / k), Math.ceil(size.height / k)) - top,
  }
}
