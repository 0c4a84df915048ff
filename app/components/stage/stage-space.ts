import type { Projection } from '#core/camera/projection-type'
import { projectionOf } from '#core/camera/projection'
import type { Size } from '#core/geometry/size'
import type { View } from '#core/camera/view'
import type { Course } from '#core/geometry/course'
import { courseOf } from '#core/geometry/course'
import type { Cubic } from '#core/geometry/cubic'
import { isBreak } from '#core/geometry/cubic'
import type { Point } from '#core/geometry/point'
import { add } from '#core/geometry/point'
import type { Strand } from '#draw/ink/strand'
import { STRIDE, strandsOf } from '#draw/ink/strand'

/** The way between the ground and the stage's CSS pixels. */
export interface StageSpace {
  projection: Projection
  /** CSS pixels per reference pixel. */
  scale: number
}

export const stageSpace = (view: View, reference: Size, scale: number): StageSpace => ({ projection: projectionOf(view, reference), scale })

/** Where a pointer is on an element, in CSS pixels from its upper left corner. */
export function pointerOn(element: Element, { clientX, clientY }: { clientX: number; clientY: number }): Point {
  const { left, top } = element.getBoundingClientRect()
  return { x: clientX - left, y: clientY - top }
}

export function toStage({ projection, scale }: StageSpace, p: Point): Point {
  const { x, y } = projection.toScreen(p)
  return { x: x * scale, y: y * scale }
}

/** The ground at a place of the stage; above the horizon or beside the globe, that which is just within. */
export function fromStage({ projection, scale }: StageSpace, p: Point): Point {
  return projection.toGround(projection.onGround({ x: p.x / scale, y: p.y / scale })) ?? projection.view.centre
}

/** Whether a spot on the ground is before the camera, and not at the back of the globe. */
export const isBefore = ({ projection }: StageSpace, p: Point): boolean => projection.clearance(p) >= 0

/** Ground units per CSS pixel at a spot on the ground, or at the middle of the view. */
export const perPixel = ({ projection, scale }: StageSpace, at: Point = projection.view.centre): number =>
  1 / (projection.scaleAt(at) * scale)

/** Where a spot on the ground comes to when it is dragged by some CSS pixels. */
export const draggedBy = (space: StageSpace, from: Point, by: Point): Point => fromStage(space, add(toStage(space, from), by))

/** A ground point as SVG path data, in CSS pixels of the stage. */
export function placeOnStage(space: StageSpace, p: Point): string {
  const { x, y } = toStage(space, p)
  return `${x.toFixed(1)} ${y.toFixed(1)}`
}

/** A chain of cubics as SVG path data on the stage. */
export function chainOnStage(space: StageSpace, cubics: readonly Cubic[]): string {
  // A curve is no Bezier curve any more where it is looked at from aside.
  if (!space.projection.isFlat) return cubics.length === 0 ? '' : pathOfLines(linesOf(space, courseOf(cubics)), space.scale)
  const xy = (p: Point) => placeOnStage(space, p)
  return cubics.map(([a, b, c, d], i) => `${i === 0 || isBreak(cubics, i) ? `M${xy(a)}` : ''}C${xy(b)} ${xy(c)} ${xy(d)}`).join('')
}

const linesOf = ({ projection }: StageSpace, course: Course, from = 0): Strand[] =>
  strandsOf(projection, course, [{ from, to: course.length }])

function pathOfLines(lines: readonly Strand[], scale: number): string {
  let d = ''
  for (const { points } of lines)
    for (let i = 0; i < points.length; i += STRIDE)
      d += `${i === 0 ? 'M' : 'L'}${(points[i]! * scale).toFixed(1)} ${(points[i + 1]! * scale).toFixed(1)}`
  return d
}

/**
 * The transform of a group whose paths are written by `courseOnStage`: from the ground where the view is flat, so that the data of long courses need not
 * change with it.
 */
export function groundTransform(space: StageSpace): string {
  const { projection, scale } = space
  if (!projection.isFlat) return ''
  const k = projection.view.zoom * scale
  const [a, b, c, d] = projection.groundAxes(projection.view.centre)
  const origin = toStage(space, { x: 0, y: 0 })
  return `matrix(${a * k} ${b * k} ${c * k} ${d * k} ${origin.x} ${origin.y})`
}

/** A course from a length on as SVG path data for a group with `groundTransform`, where the view is not flat. */
export const tiltedCourse = (space: StageSpace, course: Course, from: number): string =>
  pathOfLines(linesOf(space, course, from), space.scale)
