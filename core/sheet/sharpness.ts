import type { View } from '../camera/view'
import { outputScale } from '../camera/view'
import type { Point } from '../geometry/point'
import type { Size } from '../geometry/size'
import type { Sheet } from '../journey/schema'
import { IMAGERY_PIXELS, imageryOf } from './imagery'
import { groundToSheet } from './place'
import { TILE } from './pyramid'

/**
 * Sheet pixels for each output pixel; below 1 the picture is blown up and its pixels begin to show. At the middle of the frame, and all over where the view
 * is flat and the sheet is as fine everywhere.
 */
export const sharpness = (sheet: Pick<Sheet, 'place' | 'taken' | 'drawn' | 'georeference'>, view: View, frame: Size): number =>
  1 / (sheet.place.scale * view.zoom * outputScale(frame)) / pixelAt(sheet, groundToSheet(sheet.place, view.centre))

/** Sheet pixels to a pixel of what a sheet shows at a spot of it. */
const pixelAt = (sheet: Pick<Sheet, 'taken' | 'drawn' | 'georeference'>, at: Point): number =>
  imageryPixel(sheet) ?? 2 ** finestLevelAt(sheet, at)

/** Sheet pixels to a pixel of the imagery that a generated map is made of, in its middle; undefined where it is made of none. */
function imageryPixel({ drawn, georeference }: Pick<Sheet, 'drawn' | 'georeference'>): number | undefined {
  if (!drawn || !imageryOf(drawn.style) || georeference?.kind !== 'affine') return undefined
  // The plane of a drawn map has the Earth's radius as its unit.
  return (2 * Math.PI) / IMAGERY_PIXELS / georeference.matrix[0]
}

/** Whether a sheet shows pixels when the camera comes too close: those do not that are drawn again for each zoom. */
export const hasPixels = (sheet: Pick<Sheet, 'vector' | 'drawn' | 'georeference'>): boolean =>
  !sheet.vector || imageryPixel(sheet) !== undefined

/** The finest level of a sheet's pyramid that was taken at a spot of it, in sheet pixels; 0 of a sheet that is as fine everywhere. */
function finestLevelAt({ taken }: Pick<Sheet, 'taken'>, { x, y }: Point): number {
  if (!taken?.tiles) return 0
  const found = taken.tiles.findIndex((runs, level) => {
    const [column, row] = [Math.floor(x / TILE / 2 ** level), Math.floor(y / TILE / 2 ** level)]
    return runs.some(([at, first, last]) => at === row && first <= column && column <= last)
  })
  // Beyond its edge a sheet is as fine as anywhere: there is nothing to be seen of it.
  return Math.max(0, found)
}

/** The largest zoom at which a sheet has a pixel for each output pixel, in reference pixels per gu. */
export const sharpZoom = (sheet: Pick<Sheet, 'place' | 'drawn' | 'georeference'>, frame: Size): number =>
  1 / (sheet.place.scale * outputScale(frame)) / (imageryPixel(sheet) ?? 1)
