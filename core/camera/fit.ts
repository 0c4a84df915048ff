import { clamp } from '../geometry/clamp'
import type { Point } from '../geometry/point'
import type { Size } from '../geometry/size'
import type { Direction } from './optics'
import { awayAt, awayOf, directionOf, offsetOf, rightOf, tiltOf } from './optics'
import type { View } from './view'
import { GREATEST_ZOOM, LEAST_ZOOM } from './view'

/**
 * Which views have some ground points within a part of the frame. With X to the right and Y away from the middle in pixels, a point is within it if
 * |f X| <= a (f + Y s) and -b (f + Y s) <= f Y c <= b (f + Y s), where a and b are half the part's width and height, s and c the sine and cosine of the pitch
 * (docs/architecture.md, Camera). For one bearing, pitch and zoom these are half-planes of the camera's middle, of which only the outermost count.
 */
interface Constraints {
  direction: Direction
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
  const tilt = tiltOf(pitch, reference)
  const direction = directionOf(bearing)
  const [a, b] = [(share * reference.width) / 2, (share * reference.height) / 2]
  const slant = (a * tilt.sin) / tilt.distance
  const found = { farthest: -Infinity, nearest: Infinity, rightmost: -Infinity, leftmost: Infinity }
  for (const { x, y } of points) {
    const right = rightOf(direction, x, y)
    const away = awayOf(direction, x, y)
    found.farthest = Math.max(found.farthest, away)
    found.nearest = Math.min(found.nearest, away)
    found.rightmost = Math.max(found.rightmost, right - slant * away)
    found.leftmost = Math.min(found.leftmost, right + slant * away)
  }
  return { direction, ...found, ahead: awayAt(tilt, b), behind: -awayAt(tilt, -b), aside: a, slant }
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
  return { centre: offsetOf(constraints.direction, (left + rest) / 2, depth), zoom, bearing, pitch }
}

/** The view nearest to a given one that has some points within a part of the frame: moved if that is enough, else drawn back too. */
export function keptInView(view: View, points: readonly Point[], reference: Size, share: number): View {
  const constraints = constraintsOf(points, view, reference, share)
  const zoom = Math.min(view.zoom, greatestZoom(constraints))
  const { direction } = constraints
  const { x, y } = view.centre
  const now = { right: rightOf(direction, x, y), away: awayOf(direction, x, y) }
  const { away, right } = middles(constraints, zoom)
  const depth = into(now.away, away)
  const across = into(now.right, right(depth))
  return zoom === view.zoom && depth === now.away && across === now.right
    ? view
    : { ...view, zoom, centre: offsetOf(direction, across, depth) }
}

/** The greatest zoom at which a view has some points within a part of the frame without its middle being moved. */
export function zoomAbout(
  { centre, bearing, pitch }: Pick<View, 'centre' | 'bearing' | 'pitch'>,
  points: Iterable<Point>,
  reference: Size,
  share: number,
): number {
  const { direction, farthest, nearest, rightmost, leftmost, ahead, behind, aside, slant } = constraintsOf(
    points,
    { bearing, pitch },
    reference,
    share,
  )
  const [right, away] = [rightOf(direction, centre.x, centre.y), awayOf(direction, centre.x, centre.y)]
  const within = (reach: number, need: number) => (need > 0 ? reach / need : Infinity)
  return Math.min(
    within(ahead, farthest - away),
    within(behind, away - nearest),
    within(aside, rightmost + slant * away - right),
    within(aside, right + slant * away - leftmost),
  )
}
