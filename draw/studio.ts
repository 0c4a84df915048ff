import type { SheetItem } from '#core/frame/frame'
import type { Photo, Sheet } from '#core/journey/schema'
import type { TileAddress } from '#core/sheet/pyramid'
import type { CanvasSpace } from './canvas-space'

/** What the painter needs from its environment: the browser and the server each have their own. */
export interface Studio {
  /** An empty canvas, for layers and blurs; its size is in pixels. One whose pixels are read back is better kept off the graphics card. */
  createSurface(width: number, height: number, isRead?: boolean): Surface
  /** An ImageData of pixels that are not copied. */
  imageOf(pixels: Uint8ClampedArray<ArrayBuffer>, width: number, height: number): ImageData
  /** A path from SVG path data. */
  createPath(d: string): Path2D
  /** A tile of a sheet as it is in its image; undefined while it is not there. */
  tile(image: TiledImage, tile: TileAddress): CanvasImageSource | 'empty' | undefined
  /** The picture of a sheet on bent ground; the same object while it is the same. Undefined while there is none, or the sheet is not in view. */
  bentPicture(item: SheetItem, space: CanvasSpace): SheetPicture | undefined
  /** A whole picture, such as a photo, that is to be seen so many output pixels wide; undefined while there is none. */
  wholePicture(picture: Photo, outputWidth: number): SheetPicture | undefined
}

export interface Surface {
  width: number
  height: number
  context: CanvasRenderingContext2D
  image: CanvasImageSource
}

/** An image that is kept as tiles. */
export type TiledImage = Pick<Sheet | Photo, 'image' | 'width' | 'height' | 'vector'> & {
  /** How wide the lines of a generated map are drawn, see `#core/sheet/pen`. */
  pen?: number
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
