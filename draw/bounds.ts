import { toScreen } from '#core/camera/view'
import type { FrameItem, InkItem, LabelItem } from '#core/frame/frame'
import { pieceAt, pointAt } from '#core/geometry/course'
import type { CanvasSpace } from './canvas-space'
import { creditBounds } from './credit'
import { labelReach } from './label'
import { inkReach } from './ink'
import { PIN_REACH } from './pin'
import { postcardReach } from './postcard'
import type { Region } from './region'
import { around } from './region'
import { vehicleReach } from './vehicle'

/** While they settle, pins, labels and postcards grow to this much of their size. */
const OVERSHOOT = 1.11

/** The bounds of an item, in output pixels. The ground and flat items on it cover the whole canvas. */
export function itemBounds(context: CanvasRenderingContext2D, space: CanvasSpace, item: FrameItem): Region {
  switch (item.kind) {
    case 'ground':
    case 'sheet':
    case 'area':
    case 'edge-shade':
      return { x: 0, y: 0, width: space.reference.width * space.scale, height: space.reference.height * space.scale }
    case 'ink':
      return inkBounds(space, item, 0, item.head)
    case 'pin':
      return aroundPlace(space, item, item.pin.size * PIN_REACH * OVERSHOOT)
    case 'vehicle':
      return aroundPlace(space, item, vehicleReach(item))
    case 'label':
      return labelBounds(context, space, item)
    case 'postcard':
      return aroundPlace(space, item, postcardReach(context, item) * OVERSHOOT)
    case 'credit':
      return creditBounds(space)
  }
}

function aroundPlace(space: CanvasSpace, { at }: { at: { x: number; y: number } }, reach: number): Region {
  const place = toScreen(space.view, space.reference, at)
  return around(place.x * space.scale, place.y * space.scale, reach * space.scale)
}

/** The bounds of the ink between two lengths, with its glow. */
export function inkBounds(space: CanvasSpace, { course, ink }: InkItem, from: number, to: number): Region {
  const ends = [pointAt(course, from), pointAt(course, to)]
  let [left, right] = [Math.min(ends[0]!.x, ends[1]!.x), Math.max(ends[0]!.x, ends[1]!.x)]
  let [top, bottom] = [Math.min(ends[0]!.y, ends[1]!.y), Math.max(ends[0]!.y, ends[1]!.y)]
  for (let i = pieceAt(course, from) + 1; i <= pieceAt(course, to); i++) {
    const x = course.points[2 * i]!
    const y = course.points[2 * i + 1]!
    left = Math.min(left, x)
    right = Math.max(right, x)
    top = Math.min(top, y)
    bottom = Math.max(bottom, y)
  }
  const a = toScreen(space.view, space.reference, { x: left, y: top })
  const b = toScreen(space.view, space.reference, { x: right, y: bottom })
  const reach = inkReach(ink)
  const k = space.scale
  return { x: (a.x - reach) * k, y: (a.y - reach) * k, width: (b.x - a.x + 2 * reach) * k, height: (b.y - a.y + 2 * reach) * k }
}

function labelBounds(context: CanvasRenderingContext2D, space: CanvasSpace, item: LabelItem): Region {
  const { width, height } = labelReach(context, item, space.reference)
  const reach = Math.hypot(width, height) + item.label.size * 0.4
  return aroundPlace(space, item, reach * OVERSHOOT)
}
