import type { Projection } from '#core/camera/projection-type'
import type { Course } from '#core/geometry/course'
import { chordHeading, pointAt } from '#core/geometry/course'
import type { Point } from '#core/geometry/point'
import { rotate } from '#core/geometry/point'

/** A figure that lies on the ground at a length of a course: closed rings in the frame, x and y in turn in reference pixels, filled by the even-odd rule. */
export interface GroundShape {
  s: number
  /** How large the distance makes it, as a share of its size in the middle of the view. */
  depth: number
  rings: number[][]
}

/** Rings of a figure in its own units, x ahead and y to the right. */
export type Figure = readonly (readonly (readonly [number, number])[])[]

/**
 * Lays a figure on the ground with its origin on a course; undefined behind the camera.
 * @param size reference pixels at the middle of the view to the figure's unit
 * @param window over which the direction of the course is taken, in ground units, about `about`
 */
export function laidOn(
  projection: Projection,
  course: Course,
  s: number,
  figure: Figure,
  size: number,
  window: number,
  about = s,
): GroundShape | undefined {
  const at = pointAt(course, s)
  if (projection.clearance(at) < 0) return undefined
  const heading = chordHeading(course, about, window) ?? 0
  const k = size / projection.view.zoom
  const ground = (x: number, y: number): Point => {
    const turned = rotate({ x: x * k, y: y * k }, heading)
    return { x: at.x + turned.x, y: at.y + turned.y }
  }
  return {
    s,
    depth: projection.depthScale(at),
    rings: figure.map((ring) =>
      ring.flatMap(([x, y]) => {
        const p = projection.toScreen(ground(x, y))
        return [p.x, p.y]
      }),
    ),
  }
}

/** Fills figures in the context's reference pixels, each grown all round by `grow` reference pixels. */
export function paintShapes(context: CanvasRenderingContext2D, shapes: readonly GroundShape[], colour: string, grow: number): void {
  if (shapes.length === 0) return
  context.beginPath()
  for (const { rings } of shapes)
    for (const ring of rings) {
      context.moveTo(ring[0]!, ring[1]!)
      for (let i = 2; i < ring.length; i += 2) context.lineTo(ring[i]!, ring[i + 1]!)
      context.closePath()
    }
  context.fillStyle = colour
  context.fill('evenodd')
  if (grow <= 0) return
  context.strokeStyle = colour
  context.lineWidth = 2 * grow
  context.lineJoin = 'round'
  context.stroke()
}

/** A circle as a ring of straight pieces, within a thousandth of its radius. */
export const circle = (x: number, y: number, r: number, corners = 40): [number, number][] =>
  Array.from({ length: corners }, (_, i) => {
    const angle = (2 * Math.PI * i) / corners
    return [x + r * Math.cos(angle), y + r * Math.sin(angle)]
  })

/** An ellipse turned by an angle in radians. */
export const ellipse = (x: number, y: number, rx: number, ry: number, turn = 0, corners = 24): [number, number][] =>
  circle(0, 0, 1, corners).map(([u, v]) => {
    const p = rotate({ x: u * rx, y: v * ry }, turn)
    return [x + p.x, y + p.y]
  })
