import type { SheetItem } from '#core/frame/frame'
import type { Box } from '#core/geometry/box'
import type { Photo } from '#core/journey/schema'
import type { CanvasSpace } from './canvas-space'

/** What the painter needs from its environment: the browser and the server each have their own. */
export interface Studio {
  /** An empty canvas, for layers and blurs; its size is in pixels. One whose pixels are read back is better kept off the graphics card. */
  createSurface(width: number, height: number, isRead?: boolean): Surface
  /** A path from SVG path data. */
  createPath(d: string): Path2D
  /**
   * The pictures of a sheet in a space, for each level that is needed one or, in a large frame that is looked at from aside, several; the finest first. The
   * pictures are the same objects while they are the same. None while there are none, or the sheet is not in view.
   */
  sheetPictures(item: SheetItem, space: CanvasSpace): SeenPicture[]
  /** A whole picture, such as a photo, that is to be seen so many output pixels wide; undefined while there is none. */
  wholePicture(picture: Photo, outputWidth: number): SheetPicture | undefined
}

export interface Surface {
  width: number
  height: number
  context: CanvasRenderingContext2D
  image: CanvasImageSource
}

/** A picture, and the part of the frame that is painted from it, in reference pixels. */
export interface SeenPicture {
  picture: SheetPicture
  within: Box
}

/** Part of a sheet at some resolution, and the sheet pixels it covers; with a mirrored sheet these go beyond its edges. */
export interface SheetPicture {
  image: CanvasImageSource
  /** The picture's own size. */
  pixels: { width: number; height: number }
  /** Sheet pixels to each of its pixels. */
  step: number
  x: number
  y: number
  width: number
  height: number
}
