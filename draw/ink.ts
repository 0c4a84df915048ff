import { toScreen } from '#core/camera/view'
import type { InkItem } from '#core/frame/frame'
import { pieceAt, pointAt } from '#core/geometry/course'
import type { Glow, Ink } from '#core/journey/schema'
import type { CanvasSpace } from './canvas-space'
import { placeInFrame } from './canvas-space'
import type { Region } from './region'
import type { Surface } from './studio'

/** The glow is blurred at this share of the output's size: it looks the same, and costs a sixteenth. */
const GLOW_SCALE = 0.25

/** A dash of no length with round caps is a dot; some canvases leave out dashes of exactly no length. */
const DOT = 0.01

/** A glow's stroke is wider than the ink by this share of its radius, and blurred by this share of it (as a standard deviation). */
const GLOW_WIDTH = 0.8
const GLOW_BLUR = 0.3

/** How far ink reaches from its course, in reference pixels: half a width (and the corner of a square cap), or where its glow has faded. */
export function inkReach({ width, glow }: Ink): number {
  const edge = width * Math.SQRT1_2
  // A Gaussian has faded to a hundredth at three standard deviations; a pixel more on the glow's coarse canvas.
  return glow ? edge + glow.radius * (GLOW_WIDTH / 2 + 3 * GLOW_BLUR) + 2 / GLOW_SCALE : edge + 1
}

/**
 * Paints the ink of a leg, its glow under it.
 * @param bounds what the ink covers, in output pixels
 * @param glowSurface gives a cleared surface of the size asked for
 */
export function paintInk(
  context: CanvasRenderingContext2D,
  space: CanvasSpace,
  item: InkItem,
  bounds: Region,
  glowSurface: (width: number, height: number) => Surface,
): void {
  const { ink } = item
  if (ink.glow) paintGlow(context, space, item, ink.glow, bounds, glowSurface)
  placeInFrame(context, space)
  setStroke(context, ink)
  context.strokeStyle = ink.colour
  strokeInk(context, space, item)
  context.setLineDash([])
}

function setStroke(context: CanvasRenderingContext2D, ink: Ink): void {
  context.lineWidth = ink.width
  context.lineJoin = 'round'
  context.lineCap = ink.line === 'dotted' ? 'round' : ink.cap
  context.setLineDash(dashPattern(ink))
}

/** The shortest dash with caps, in stroke widths: a shorter one would look like a dot. */
const SHORTEST_DASH = 1.5

/**
 * Dash pattern in reference pixels: caps reach half a stroke width past a dash, so dashes are shortened to look as long as asked. Where they would be
 * too short to see, both dash and gap grow in proportion.
 */
export function dashPattern(ink: Ink): number[] {
  if (ink.line === 'solid') return []
  if (ink.line === 'dotted') return [DOT, ink.width + ink.gap - DOT]
  if (ink.cap === 'butt') return [ink.dash, ink.gap]
  const growth = Math.max(1, (SHORTEST_DASH * ink.width) / ink.dash)
  return [growth * ink.dash - ink.width, growth * ink.gap + ink.width]
}

/** Points closer to each other than this, in reference pixels, are skipped: a recorded track may have very many. */
const FINE = 0.15

/**
 * Strokes the course from its start to the ink's head; dashes are counted from the start, over jumps as well, so they stand still while the head
 * goes on.
 */
function strokeInk(context: CanvasRenderingContext2D, { view, reference }: CanvasSpace, { course, head }: InkItem): void {
  const { points, lengths, breaks } = course
  const last = pieceAt(course, head)
  const dx = reference.width / 2 - view.centre.x * view.zoom
  const dy = reference.height / 2 - view.centre.y * view.zoom
  const end = toScreen(view, reference, pointAt(course, head))
  let first = 0
  for (const jump of [...breaks.filter((i) => i < last), Infinity]) {
    context.beginPath()
    context.lineDashOffset = lengths[first]! * view.zoom
    context.moveTo(points[2 * first]! * view.zoom + dx, points[2 * first + 1]! * view.zoom + dy)
    let [lastX, lastY] = [Infinity, Infinity]
    const until = Math.min(jump, last)
    for (let i = first + 1; i <= until; i++) {
      const x = points[2 * i]! * view.zoom + dx
      const y = points[2 * i + 1]! * view.zoom + dy
      if (Math.abs(x - lastX) < FINE && Math.abs(y - lastY) < FINE && i !== jump) continue
      context.lineTo(x, y)
      lastX = x
      lastY = y
    }
    // Nothing is drawn over a jump: the ink ends there.
    if (jump === Infinity && !breaks.includes(last)) context.lineTo(end.x, end.y)
    context.stroke()
    first = jump + 1
  }
  context.lineDashOffset = 0
}

function paintGlow(
  context: CanvasRenderingContext2D,
  space: CanvasSpace,
  item: InkItem,
  glow: Glow,
  bounds: Region,
  glowSurface: (width: number, height: number) => Surface,
): void {
  const scale = space.scale * GLOW_SCALE
  const surface = glowSurface(Math.ceil(space.reference.width * scale), Math.ceil(space.reference.height * scale))
  const layer = surface.context
  placeInFrame(layer, { ...space, scale })
  setStroke(layer, { ...item.ink, width: item.ink.width + glow.radius * GLOW_WIDTH })
  layer.setLineDash(dashPattern(item.ink))
  layer.strokeStyle = glow.colour
  layer.filter = `blur(${glow.radius * GLOW_BLUR * scale}px)`
  strokeInk(layer, space, item)
  layer.filter = 'none'
  layer.setLineDash([])
  const { x, y, width, height } = bounds
  const k = GLOW_SCALE
  context.setTransform(1, 0, 0, 1, 0, 0)
  context.globalAlpha = glow.strength
  context.drawImage(surface.image, x * k, y * k, width * k, height * k, x, y, width, height)
  context.globalAlpha = 1
}
