import { groundToSheet, usedPart } from '../sheet/place'
import { hasPixels, sharpness } from '../sheet/sharpness'
import type { Frame, SheetItem } from './frame'

/** Sharpness at the frame's middle, of the topmost sheet there that is at least half opaque. Infinite for vector sheets, which have no pixels. */
export function centreSharpness(frame: Pick<Frame, 'items' | 'size' | 'view'>): number | undefined {
  const item = frame.items.findLast((entry): entry is SheetItem => {
    if (entry.kind !== 'sheet' || entry.opacity <= 0.5) return false
    const { left, top, right, bottom } = usedPart(entry.sheet)
    const { x, y } = groundToSheet(entry.sheet.place, frame.view.centre)
    return x >= left && x <= right && y >= top && y <= bottom
  })
  return item && (hasPixels(item.sheet) ? sharpness(item.sheet, frame.view, frame.size) : Infinity)
}
