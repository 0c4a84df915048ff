import type { FrameItem, LabelItem } from '#core/frame/frame'
import type { Course } from '#core/geometry/course'
import { pieceAt, pointAt } from '#core/geometry/course'
import type { Point } from '#core/geometry/point'
import { liftOf } from '#core/marks/pins'
import type { CanvasSpace } from './canvas-space'
import { standingScale } from './canvas-space'
import { mapNameBounds } from './type/map-name'
import { creditBounds } from './type/credit'
import { carriedReach } from './marks/carried'
import { captionBounds } from './type/caption'
import { particlesBounds } from './ink/particles'
import { labelExtent } from './marks/label'
import { inkReach, plannedReach } from './ink/reach'
import { standingReach } from './marks/landmark'
import { pinReach } from './marks/pin'
import { postcardReach } from './marks/postcard'
import type { Region } from './region'
import { castReach } from './shadow'
import { around } from './region'
import { vehicleReach } from './marks/vehicle'

/** While they settle, pins, labels and postcards grow to this much of their size. */
const OVERSHOOT = 1.11

/** The bounds of an item, in output pixels. The ground and flat items on it cover the whole canvas. */
export function itemBounds(space: CanvasSpace, item: FrameItem): Region {
  switch (item.kind) {
    case 'ground':
    case 'sheet':
    case 'area':
    case 'edge-shade':
    case 'depth':
    case 'air':
    case 'dim':
    case 'map-dim':
      return { x: 0, y: 0, width: space.reference.width * space.scale, height: space.reference.height * space.scale }
    case 'ink':
      return alongCourse(space, item.course, item.tail, item.head, inkReach(item.ink))
    case 'particles':
      return particlesBounds(space, item)
    case 'planned':
      return alongCourse(space, item.course, item.from, item.course.length, plannedReach(item))
    case 'pin':
      return aroundPlace(
        space,
        item,
        (pinReach(item.pin) * Math.max(OVERSHOOT, item.scale) +
          item.raised * item.pin.size +
          castReach(space.sun, item.scale * item.pin.size * (1.1 + liftOf(item.pin) + item.raised), pinReach(item.pin))) *
          Math.max(standingScale(space, item.at), space.projection.depthScale(item.at)),
      )
    case 'standing':
      return aroundPlace(space, item, standingReach(space, item.picture))
    case 'vehicle':
      return aroundPlace(space, item, vehicleReach(space, item) * space.projection.depthScale(item.at))
    case 'carried':
      return aroundPlace(space, item, carriedReach(item) * OVERSHOOT * space.projection.depthScale(item.at))
    case 'map-name':
      return mapNameBounds(space, item)
    case 'label':
      return labelBounds(space, item)
    case 'postcard':
      return aroundPlace(space, item, postcardReach(space, item) * OVERSHOOT * standingScale(space, item.at))
    case 'caption':
      return captionBounds(space, item)
    case 'credit':
      return creditBounds(space)
    default:
      return item satisfies never
  }
}

/**
 * Regions of output pixels that together hold all of an item, as its bounds do, but follow lines: most of the bounds of a line across the frame has none of it.
 */
export function itemRegions(space: CanvasSpace, item: FrameItem): Region[] {
  switch (item.kind) {
    case 'ink':
      return piecesAlong(space, item.course, item.tail, item.head, inkReach(item.ink))
    case 'planned':
      return piecesAlong(space, item.course, item.from, item.course.length, plannedReach(item))
    default:
      return [itemBounds(space, item)]
  }
}

/** How long the pieces are that a line is taken in, in reference pixels at the middle of the view. */
const PIECE = 24

/** The bounds of what reaches so many reference pixels from a course, piece by piece. */
function piecesAlong(space: CanvasSpace, course: Course, from: number, to: number, reach: number): Region[] {
  const step = PIECE / space.projection.view.zoom
  const count = Math.max(1, Math.ceil((to - from) / step))
  return Array.from({ length: count }, (_, i) =>
    alongCourse(space, course, from + (i / count) * (to - from), from + ((i + 1) / count) * (to - from), reach),
  )
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

function labelBounds(space: CanvasSpace, item: LabelItem): Region {
  const { left, right, top, bottom } = labelExtent(item)
  const place = space.projection.toScreen(item.at)
  const k = standingScale(space, item.at) * item.scale
  // While it grows out of its stop it may be further from it than in the end.
  const [x, y] = [Math.min(left, left * OVERSHOOT), Math.min(top, top * OVERSHOOT)]
  const [x2, y2] = [Math.max(right, right * OVERSHOOT), Math.max(bottom, bottom * OVERSHOOT)]
  return {
    x: (place.x + k * x) * space.scale,
    y: (place.y + k * y) * space.scale,
    width: k * (x2 - x) * space.scale,
    height: k * (y2 - y) * space.scale,
  }
}
