import { radians } from '../geometry/angle'
import { clamp } from '../geometry/clamp'
import type { Point } from '../geometry/point'
import type { Size } from '../geometry/size'
import { DISTANCE } from './optics'
import type { View } from './view'
import { GREATEST_ZOOM, LEAST_ZOOM } from './view'

/**
 * Which views have some ground points within a part of the frame. With X to the right and Y away from the middle in pixels, a point is within it if
 * |f X| <= a (f + Y s) and -b (f + Y s) <= f Y c <= b (f + Y s), where a and b are half the part's width and height, s and c the sine and cosine of the pitch
 * (docs/architecture.md, Camera). For one bearing, pitch and zoom these are half-planes of the camera's middle, of which only the outermost count.
 */
interface Constraints {
  /** The turned axes: right = x cos + y sin, away = x sin - y cos. */
  cos: number
  sin: number
  /** The outermost points: the farthest and the nearest one, and how far the left and the right edge must reach, along the edges' slant. */
  farthest: number
  nearest: number
  rightmost: number
  leftmost: number
  /** How far the frame's edges are from its middle on the ground, at a zoom of one. */
  ahead: number
  behind: number
  aside: number
  /** How much wider the frame gets for a step away. */
  slant: number
}

function constraintsOf(
  points: Iterable<Point>,
  { bearing, pitch }: Pick<View, 'bearing' | 'pitch'>,
  reference: Size,
  share: number,
): Constraints {
  const f = DISTANCE * reference.height
  const [a, b] = [(share * reference.width) / 2, (share * reference.height) / 2]
  const [s, c] = [Math.sin(radians(pitch)), Math.cos(radians(pitch))]
  const [cos, sin] = [Math.cos(radians(bearing)), Math.sin(radians(bearing))]
  const slant = (a * s) / f
  const found = { farthest: -Infinity, nearest: Infinity, rightmost: -Infinity, leftmost: Infinity }
  for (const { x, y } of points) {
    const right = x * cos + y * sin
    const away = x * sin - y * cos
    found.farthest = Math.max(found.farthest, away)
    found.nearest = Math.min(found.nearest, away)
    found.rightmost = Math.max(found.rightmost, right - slant * away)
    found.leftmost = Math.min(found.leftmost, right + slant * away)
  }
  return { cos, sin, ...found, ahead: (b * f) / (f * c - b * s), behind: (b * f) / (f * c + b * s), aside: a, slant }
}

/** The greatest zoom at which the points have room in the part of the frame, for the best middle. Infinite for a single point. */
function greatestZoom({ farthest, nearest, rightmost, leftmost, ahead, behind, aside, slant }: Constraints): number {
  const deep = (ahead + behind) / Math.max(0, farthest - nearest)
  // The middle must be near enough that the frame is wide enough, and far enough that the farthest point is in it.
  const room = (leftmost - rightmost) / 2
  const flat = aside / Math.max(0, -room)
  if (slant === 0) return Math.min(deep, flat)
  const need = farthest - room / slant
  return Math.min(deep, need > 0 ? (ahead + aside / slant) / need : Infinity)
}

/** The middles of views at a zoom that have the points within the part of the frame: how far away they may be, and at that how far to the right. */
function middles({ farthest, nearest, rightmost, leftmost, ahead, behind, aside, slant }: Constraints, zoom: number) {
  const low = farthest - ahead / zoom
  const high = Math.min(nearest + behind / zoom, slant > 0 ? (leftmost - rightmost) / (2 * slant) + aside / (slant * zoom) : Infinity)
  return {
    away: [low, high] as const,
    right: (away: number) => [rightmost + slant * away - aside / zoom, leftmost - slant * away + aside / zoom] as const,
  }
}

/** Within a range, or in its middle where it is empty, as it is by rounding. */
const into = (value: number, [low, high]: readonly [number, number]): number => (low > high ? (low + high) / 2 : clamp(value, low, high))

/** The ground point at a place of the turned axes. */
const onGround = ({ cos, sin }: Constraints, right: number, away: number): Point => ({
  x: right * cos + away * sin,
  y: right * sin - away * cos,
})

/**
 * The view from a direction in which ground points fill a part of the frame, as near to its middle as may be.
 * @param share of the frame, upright and across
 * @param alone the zoom for a single point
 */
export function fittedView(
  points: readonly Point[],
  { bearing, pitch }: Pick<View, 'bearing' | 'pitch'>,
  reference: Size,
  share: number,
  alone: number,
): View {
  const constraints = constraintsOf(points, { bearing, pitch }, reference, share)
  const most = greatestZoom(constraints)
  const zoom = clamp(Number.isFinite(most) ? most : alone, LEAST_ZOOM, GREATEST_ZOOM)
  const { away, right } = middles(constraints, zoom)
  const depth = into(away[0] / 2 + away[1] / 2, away)
  const [left, rest] = right(depth)
  return { centre: onGround(constraints, (left + rest) / 2, depth), zoom, bearing, pitch }
}

/** The view nearest to a given one that has some points within a part of the frame: moved if that is enough, else drawn back too. */
export function keptInView(view: View, points: readonly Point[], reference: Size, share: number): View {
  const constraints = constraintsOf(points, view, reference, share)
  const zoom = Math.min(view.zoom, greatestZoom(constraints))
  const { cos, sin } = constraints
  const now = { right: view.centre.x * cos + view.centre.y * sin, away: view.centre.x * sin - view.centre.y * cos }
  const { away, right } = middles(constraints, zoom)
  const depth = into(now.away, away)
  const across = into(now.right, right(depth))
  return zoom === view.zoom && depth === now.away && across === now.right
    ? view
    : { ...view, zoom, centre: onGround(constraints, across, depth) }
}

/** The greatest zoom at which a view has some points within a part of the frame without its middle being moved. */
export function zoomAbout(
  { centre, bearing, pitch }: Pick<View, 'centre' | 'bearing' | 'pitch'>,
  points: Iterable<Point>,
  reference: Size,
  share: number,
): number {
  const { cos, sin, farthest, nearest, rightmost, leftmost, ahead, behind, aside, slant } = constraintsOf(
    points,
    { bearing, pitch },
    reference,
    share,
  )
  const [right, away] = [centre.x * cos + centre.y * sin, centre.x * sin - centre.y * cos]
  const within = (reach: number, need: number) => (need > 0 ? reach / need : Infinity)
  return Math.min(
    within(ahead, farthest - away),
    within(behind, away - nearest),
    within(aside, rightmost + slant * away - right),
    within(aside, right + slant * away - leftmost),
  )
}
