import { radians, turnBetween } from '../geometry/angle'
import type { Box } from '../geometry/box'
import { greatest, least } from '../geometry/extremes'
import type { Point } from '../geometry/point'
import type { Size } from '../geometry/size'
import { bentProjection } from './globe-projection'
import { awayAt, awayOf, directionOf, NEAR, offsetOf, rightOf, tiltOf } from './optics'
import type { Projection } from './projection-type'
import type { View } from './view'

/** Nothing closer below the horizon than this is pointed at, in reference pixels: it would be very far away. */
const BELOW_HORIZON = 20

/** A line across a map that is looked at from very near is still drawn in no more pieces than these. */
const MOST_PIECES = 200

/** Ground that is bent by less than this is flat: nothing is moved by a tenth of a pixel. */
const LEAST_BEND = 1e-5

/** The projection of a view onto a frame. The formulas are in docs/architecture.md, Camera. */
export function projectionOf(view: View, reference: Size): Projection {
  const { bend } = view
  const bent = bend && bend.share > LEAST_BEND ? bentProjection(view, bend, reference) : undefined
  return bent ?? (view.pitch === 0 ? flatProjection(view, reference) : tiltedProjection(view, reference))
}

function flatProjection(view: View, reference: Size): Projection {
  const { centre, zoom, bearing } = view
  const { cos, sin } = directionOf(bearing)
  const [middleX, middleY] = [reference.width / 2, reference.height / 2]
  return {
    view,
    reference,
    isFlat: true,
    horizon: -Infinity,
    toScreen(p) {
      const [dx, dy] = [p.x - centre.x, p.y - centre.y]
      return { x: middleX + (dx * cos + dy * sin) * zoom, y: middleY + (dy * cos - dx * sin) * zoom }
    },
    toGround(p) {
      const [x, y] = [(p.x - middleX) / zoom, (p.y - middleY) / zoom]
      return { x: centre.x + (x * cos - y * sin), y: centre.y + (x * sin + y * cos) }
    },
    depthScale: () => 1,
    scaleAt: () => zoom,
    groundAxes: () => [cos, -sin, sin, cos],
    clearance: () => Infinity,
    onGround: (p) => p,
    bent: undefined,
  }
}

function tiltedProjection(view: View, reference: Size): Projection {
  const { centre, zoom, bearing } = view
  const direction = directionOf(bearing)
  const tilt = tiltOf(view.pitch, reference)
  const { distance: f, cos: along, sin: up } = tilt
  const [middleX, middleY] = [reference.width / 2, reference.height / 2]
  /** Offsets to the right and away from the camera, in pixels on the ground. */
  const across = (p: Point) => rightOf(direction, p.x - centre.x, p.y - centre.y) * zoom
  const away = (p: Point) => awayOf(direction, p.x - centre.x, p.y - centre.y) * zoom
  const depthOf = (p: Point) => Math.max(NEAR * f, f + away(p) * up)
  const horizon = middleY - (f * along) / up
  return {
    view,
    reference,
    isFlat: false,
    horizon,
    toScreen(p) {
      const y = away(p)
      const k = f / Math.max(NEAR * f, f + y * up)
      return { x: middleX + across(p) * k, y: middleY - y * along * k }
    },
    toGround(p) {
      const v = middleY - p.y
      if (f * along - v * up <= 0) return undefined
      const y = awayAt(tilt, v)
      const offset = offsetOf(direction, ((p.x - middleX) * (f + y * up)) / f, y)
      return { x: centre.x + offset.x / zoom, y: centre.y + offset.y / zoom }
    },
    depthScale: (p) => f / depthOf(p),
    scaleAt: (p) => (zoom * f) / depthOf(p),
    groundAxes(p) {
      const depth = depthOf(p)
      const k = f / depth
      const { cos, sin } = direction
      // The frame's change for a step away from the camera.
      const [awayX, awayY] = [(-k * across(p) * up) / depth, -k * k * along]
      return [k * cos + awayX * sin, awayY * sin, k * sin - awayX * cos, -awayY * cos]
    },
    clearance: (p) => f + away(p) * up - NEAR * f,
    onGround: (p) => ({ x: p.x, y: Math.max(p.y, horizon + BELOW_HORIZON) }),
    bent: undefined,
  }
}

/** How a direction on the ground, in radians clockwise from the right, is seen in the frame: its direction there, and by how much it is shortened. */
export function seenDirection(projection: Projection, at: Point, heading: number): { direction: number; length: number } {
  const { isFlat, view } = projection
  if (isFlat) return { direction: view.bearing === 0 ? heading : turnBetween(radians(view.bearing), heading), length: 1 }
  const [a, b, c, d] = projection.groundAxes(at)
  const [cos, sin] = [Math.cos(heading), Math.sin(heading)]
  const [x, y] = [a * cos + c * sin, b * cos + d * sin]
  return { direction: Math.atan2(y, x), length: Math.hypot(x, y) }
}

/** A polygon on the ground in the frame, cut off before the camera; empty if nothing is left. */
export function projectedRing(projection: Projection, ring: readonly Point[]): Point[] {
  const { bent, clearance, toScreen } = projection
  if (!bent) return cutBeforeCamera(projection, ring, true).map(toScreen)
  const fine = ring.flatMap((p, i) => finely(projection, p, ring[(i + 1) % ring.length]!))
  if (fine.every((p) => clearance(p) < 0)) return []
  return fine.map((p) => (clearance(p) < 0 ? bent.toEdge(p) : toScreen(p)))
}

/** How far apart points of a line on bent ground may be, in reference pixels on the map, so that it looks bent and not angular. */
export const BENT_STEP = 24

/** A straight line on the map from a point up to another, in steps that are short enough on bent ground. */
function finely({ view: { zoom } }: Projection, from: Point, to: Point): Point[] {
  const pieces = Math.min(MOST_PIECES, Math.ceil((Math.hypot(to.x - from.x, to.y - from.y) * zoom) / BENT_STEP))
  return Array.from({ length: Math.max(1, pieces) }, (_, i) => ({
    x: from.x + ((to.x - from.x) * i) / pieces,
    y: from.y + ((to.y - from.y) * i) / pieces,
  }))
}

/** The part of a line or polygon that lies before the camera, with new points where it is cut. */
function cutBeforeCamera({ clearance, isFlat }: Projection, points: readonly Point[], closed: boolean): Point[] {
  if (isFlat) return [...points]
  return points.flatMap((p, i) => {
    const next = i + 1 < points.length ? points[i + 1]! : closed ? points[0]! : p
    const [a, b] = [clearance(p), clearance(next)]
    const cut = a < 0 !== b < 0 ? [{ x: p.x + ((next.x - p.x) * a) / (a - b), y: p.y + ((next.y - p.y) * a) / (a - b) }] : []
    return a < 0 ? cut : [p, ...cut]
  })
}

/**
 * The frame's corners on the ground, clockwise from its upper left. Where the ground is not bent they exist, as the horizon lies above any frame (see
 * GREATEST_PITCH); those that are beside a globe are left out.
 */
export const frameCorners = ({ reference: { width, height }, toGround }: Projection): Point[] =>
  [
    { x: 0, y: 0 },
    { x: width, y: 0 },
    { x: width, y: height },
    { x: 0, y: height },
  ].flatMap((corner) => toGround(corner) ?? [])

/**
 * The box about the ground that a view shows; undefined where that has no end.
 * @param beside how much more than the frame is asked for on each side, in reference pixels
 */
export function groundSeen(projection: Projection, beside: number): Box | undefined {
  const corners = projection.bent ? [] : frameCorners(projection)
  if (corners.length < 4) return undefined
  const more = beside / least(corners.map(projection.scaleAt))
  return {
    left: least(corners.map(({ x }) => x)) - more,
    right: greatest(corners.map(({ x }) => x)) + more,
    top: least(corners.map(({ y }) => y)) - more,
    bottom: greatest(corners.map(({ y }) => y)) + more,
  }
}

/** A view zoomed by a factor so that the ground at a place of the frame stays there. */
export function zoomedAbout(view: View, reference: Size, at: Point, factor: number): View {
  const ground = projectionOf(view, reference).toGround(at)
  return ground ? zoomedAround(view, ground, factor) : view
}

/** A view zoomed by a factor so that a ground point stays where it is in the frame. */
export function zoomedAround(view: View, fixed: Point, factor: number): View {
  const { centre, zoom } = view
  return {
    ...view,
    zoom: zoom * factor,
    centre: { x: fixed.x + (centre.x - fixed.x) / factor, y: fixed.y + (centre.y - fixed.y) / factor },
  }
}

/** A view moved so that what is in its middle is seen beside it: by shares of the frame, to the right and down. */
export const shiftedView = (view: View, shift: Point, { width, height }: Size): View =>
  shift.x === 0 && shift.y === 0
    ? view
    : withPointAt(view, { width, height }, view.centre, { x: width * (0.5 + shift.x), y: height * (0.5 + shift.y) })

/** A view moved so that a ground point comes to a place of the frame. */
export function withPointAt(view: View, reference: Size, point: Point, at: Point): View {
  const now = projectionOf(view, reference).toGround(at)
  return now ? { ...view, centre: { x: view.centre.x + point.x - now.x, y: view.centre.y + point.y - now.y } } : view
}
