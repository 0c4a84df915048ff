import type { View } from '../camera/view'
import { outputScale } from '../camera/view'
import type { Size } from '../geometry/size'
import type { Sheet } from '../journey/schema'
import { groundToSheet, usedPart } from '../sheet/place'
import type { Frame, SheetItem } from './frame'

/** Sheet pixels for each output pixel; below 1 the picture is blown up and its pixels begin to show. At the middle of the frame, and all over where the view is flat. */
export const sharpness = (sheet: Pick<Sheet, 'place'>, view: View, frame: Size): number =>
  1 / (sheet.place.scale * view.zoom * outputScale(frame))

/** The largest zoom at which a sheet has a pixel for each output pixel, in reference pixels per gu. */
export const sharpZoom = (sheet: Pick<Sheet, 'place'>, frame: Size): number => 1 / (sheet.place.scale * outputScale(frame))

/** Sharpness at the frame's middle, of the topmost sheet there that is at least half opaque. Infinite for vector sheets, which have no pixels. */
export function centreSharpness(frame: Pick<Frame, 'items' | 'size' | 'view'>): number | undefined {
  const item = frame.items.findLast((entry): entry is SheetItem => {
    if (entry.kind !== 'sheet' || entry.opacity <= 0.5) return false
    const { left, top, right, bottom } = usedPart(entry.sheet)
    const { x, y } = groundToSheet(entry.sheet.place, frame.view.centre)
    return x >= left && x <= right && y >= top && y <= bottom
  })
  return item && (item.sheet.vector ? Infinity : sharpness(item.sheet, frame.view, frame.size))
}
