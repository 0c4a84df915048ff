import type { PostcardItem, SheetItem } from '#core/frame/frame'
import type { CanvasSpace } from './canvas-space'

/** What the painter needs of the place it works in: the browser and the server each bring their own. */
export interface Studio {
  /** An empty canvas of so many pixels, for layers and blurs. One whose pixels are to be read is best kept out of a graphics card. */
  createSurface(width: number, height: number, isRead?: boolean): Surface
  /** A path from SVG path data. */
  createPath(d: string): Path2D
  /** The picture of what a sheet shows in a space; the same object as long as it is the same picture. Undefined while there is none, or nothing is seen of the sheet. */
  sheetPicture(item: SheetItem, space: CanvasSpace): SheetPicture | undefined
  /** The picture of a postcard's photo, whole, in the same way. */
  photoPicture(item: PostcardItem, space: CanvasSpace): SheetPicture | undefined
}

export interface Surface {
  width: number
  height: number
  context: CanvasRenderingContext2D
  image: CanvasImageSource
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
