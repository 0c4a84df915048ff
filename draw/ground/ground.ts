import { radians } from '#core/geometry/angle'
import type { Projection } from '#core/camera/projection-type'
import { projectedRing } from '#core/camera/projection'
import type { Point } from '#core/geometry/point'
import type { AreaItem, GroundItem } from '#core/frame/frame'
import type { CanvasSpace } from '../canvas-space'
import { placeInFrame } from '../canvas-space'
import { translucent } from '../colour'
import type { Strand } from '../ink/strand'
import { paintStrands } from '../ink/stroke'

/** Fills the canvas with the ground's colour, or its gradient from edge to edge. */
export function paintGround(context: CanvasRenderingContext2D, space: CanvasSpace, { ground }: GroundItem): void {
  const { width, height } = space.reference
  placeInFrame(context, space)
  context.fillStyle =
    ground.second === null ? ground.colour : gradientOf(context, width, height, ground.colour, ground.second, ground.direction)
  // A pixel more, as the canvas is rounded to whole ones.
  context.fillRect(-1, -1, width + 2, height + 2)
}

function gradientOf(context: CanvasRenderingContext2D, width: number, height: number, from: string, to: string, direction: number) {
  const angle = radians(direction)
  const [cos, sin] = [Math.cos(angle), Math.sin(angle)]
  // The length for which its ends touch the corners. Source: W3C CSS Images 3, section 3.1.1.
  const half = (Math.abs(width * cos) + Math.abs(height * sin)) / 2
  const gradient = context.createLinearGradient(
    width / 2 - cos * half,
    height / 2 - sin * half,
    width / 2 + cos * half,
    height / 2 + sin * half,
  )
  gradient.addColorStop(0, from)
  gradient.addColorStop(1, to)
  return gradient
}

/** Fills and outlines an area by the even-odd rule; its outline is as wide as perspective makes it. */
export function paintArea(context: CanvasRenderingContext2D, space: CanvasSpace, { area, opacity }: AreaItem): void {
  const { fill, outline } = area
  const { projection } = space
  const rings = area.rings.map((ring) =>
    projectedRing(
      projection,
      Array.from({ length: ring.length / 2 }, (_, i) => ({ x: ring[2 * i]!, y: ring[2 * i + 1]! })),
    ),
  )
  placeInFrame(context, space)
  context.beginPath()
  for (const ring of rings) {
    for (const { x, y } of ring) context.lineTo(x, y)
    context.closePath()
  }
  context.fillStyle = translucent(fill.colour, fill.opacity * opacity)
  context.fill('evenodd')
  if (outline.width === 0) return
  context.strokeStyle = translucent(outline.colour, opacity)
  if (projection.isFlat || projection.bent) {
    // On a globe all of it is about as far away.
    context.lineWidth = outline.width
    context.lineJoin = 'round'
    context.stroke()
  } else
    paintStrands(context, rings.filter((ring) => ring.length > 0).map((ring) => outlineOf(projection, ring)), { width: outline.width, cap: 'round' }) // prettier-ignore
}

/** A ring in the frame as a line that ends where it began. */
function outlineOf({ toGround, depthScale }: Projection, ring: readonly Point[]): Strand {
  const points = [...ring, ring[0]!].flatMap((p) => [p.x, p.y, depthScale(toGround(p)!), 0])
  return { points, isEven: false }
}
