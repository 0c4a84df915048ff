/** What the painter needs of the place it works in: the browser and the server each bring their own. */
export interface Studio {
  /** An empty canvas of so many pixels, for layers and blurs. */
  createSurface(width: number, height: number): Surface
  /** A path from SVG path data. */
  createPath(d: string): Path2D
  /** The picture of a sheet, or undefined while it is not there yet. */
  sheetPicture(image: string): SheetPicture | undefined
}

export interface Surface {
  width: number
  height: number
  context: CanvasRenderingContext2D
  image: CanvasImageSource
}

/** Part or all of a sheet at some resolution, with the ground it covers. */
export interface SheetPicture {
  image: CanvasImageSource
  /** The picture's own size. */
  pixels: { width: number; height: number }
  x: number
  y: number
  width: number
  height: number
}
