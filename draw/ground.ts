import { radians } from '#core/geometry/angle'
import { projectedRing } from '#core/camera/projection'
import type { AreaItem, EdgeShadeItem, GroundItem } from '#core/frame/frame'
import type { CanvasSpace } from './canvas-space'
import { placeInFrame } from './canvas-space'
import { translucent } from './colour'

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

/** Fills and outlines an area by the even-odd rule. */
export function paintArea(context: CanvasRenderingContext2D, space: CanvasSpace, { area, opacity }: AreaItem): void {
  const { fill, outline } = area
  placeInFrame(context, space)
  context.beginPath()
  for (const ring of area.rings) {
    const corners = Array.from({ length: ring.length / 2 }, (_, i) => ({ x: ring[2 * i]!, y: ring[2 * i + 1]! }))
    for (const { x, y } of projectedRing(space.projection, corners)) context.lineTo(x, y)
    context.closePath()
  }
  context.fillStyle = translucent(fill.colour, fill.opacity * opacity)
  context.fill('evenodd')
  if (outline.width === 0) return
  context.strokeStyle = translucent(outline.colour, opacity)
  context.lineWidth = outline.width
  context.lineJoin = 'round'
  context.stroke()
}

/** Darkens the frame from its corners inwards, along ellipses of the frame's shape. */
export function paintEdgeShade(context: CanvasRenderingContext2D, { scale, reference }: CanvasSpace, { shade }: EdgeShadeItem): void {
  const halfWidth = (reference.width * scale) / 2
  const halfHeight = (reference.height * scale) / 2
  // In units of the ellipse through the middles of the edges; the corners are at the square root of two.
  const begins = Math.SQRT2 * (1 - shade.size)
  const full = Math.min(Math.SQRT2 + 0.001, begins + Math.SQRT2 * Math.max(0.02, shade.feather))
  context.setTransform(halfWidth, 0, 0, halfHeight, halfWidth, halfHeight)
  const gradient = context.createRadialGradient(0, 0, begins, 0, 0, full)
  gradient.addColorStop(0, translucent(shade.colour, 0))
  gradient.addColorStop(1, translucent(shade.colour, shade.strength))
  context.fillStyle = gradient
  context.fillRect(-1, -1, 2, 2)
}
