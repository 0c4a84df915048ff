import type { FrameItem, LabelItem } from '#core/frame/frame'
import type { Course } from '#core/geometry/course'
import { pieceAt, pointAt } from '#core/geometry/course'
import type { Point } from '#core/geometry/point'
import type { CanvasSpace } from './canvas-space'
import { standingScale } from './canvas-space'
import { creditBounds } from './credit'
import { labelReach } from './label'
import { inkReach, plannedReach } from './ink'
import { pinReach } from './pin'
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
      return alongCourse(space, item.course, item.tail, item.head, inkReach(item.ink))
    case 'planned':
      return alongCourse(space, item.course, item.from, item.course.length, plannedReach(item))
    case 'pin':
      return aroundPlace(
        space,
        item,
        pinReach(item.pin) * OVERSHOOT * Math.max(standingScale(space, item.at), space.projection.depthScale(item.at)),
      )
    case 'vehicle':
      return aroundPlace(space, item, vehicleReach(item) * space.projection.depthScale(item.at))
    case 'label':
      return labelBounds(context, space, item)
    case 'postcard':
      return aroundPlace(space, item, postcardReach(context, space, item) * OVERSHOOT * standingScale(space, item.at))
    case 'credit':
      return creditBounds(space)
    default:
      return item satisfies never
  }
}

function aroundPlace(space: CanvasSpace, { at }: { at: { x: number; y: number } }, reach: number): Region {
  const place = space.projection.toScreen(at)
  return around(place.x * space.scale, place.y * space.scale, reach * space.scale)
}

/** The bounds of what reaches so many reference pixels from a course between two lengths. */
export function alongCourse(space: CanvasSpace, course: Course, from: number, to: number, reach: number): Region {
  const { projection, scale } = space
  let [left, right, top, bottom] = [Infinity, -Infinity, Infinity, -Infinity]
  const include = (p: Point) => {
    const { x, y } = projection.toScreen(p)
    const around = reach * projection.depthScale(p)
    left = Math.min(left, x - around)
    right = Math.max(right, x + around)
    top = Math.min(top, y - around)
    bottom = Math.max(bottom, y + around)
  }
  include(pointAt(course, from))
  include(pointAt(course, to))
  for (let i = pieceAt(course, from) + 1; i <= pieceAt(course, to); i++) include({ x: course.points[2 * i]!, y: course.points[2 * i + 1]! })
  return { x: left * scale, y: top * scale, width: (right - left) * scale, height: (bottom - top) * scale }
}

function labelBounds(context: CanvasRenderingContext2D, space: CanvasSpace, item: LabelItem): Region {
  const { width, height } = labelReach(context, item, space.reference)
  const reach = Math.hypot(width, height) + item.label.size * 0.4
  return aroundPlace(space, item, reach * OVERSHOOT * standingScale(space, item.at))
}
