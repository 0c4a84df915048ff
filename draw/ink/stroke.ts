import type { Strand } from './strand'
import { STRIDE } from './strand'

/** How strands are stroked. */
export interface Stroke {
  /** In reference pixels at the middle of the view. */
  width: number
  cap: 'round' | 'butt' | 'square'
}

/** Paints strands in the context's reference pixels and its stroke style, as one shape. */
export function paintStrands(context: CanvasRenderingContext2D, strands: readonly Strand[], stroke: Stroke): void {
  const even = strands.filter(({ isEven }) => isEven)
  if (even.length > 0) {
    context.beginPath()
    for (const { points } of even) {
      context.moveTo(points[0]!, points[1]!)
      for (let i = STRIDE; i < points.length; i += STRIDE) context.lineTo(points[i]!, points[i + 1]!)
    }
    context.lineWidth = stroke.width
    context.lineJoin = 'round'
    context.lineCap = stroke.cap
    context.stroke()
  }
  if (even.length === strands.length) return
  context.beginPath()
  for (const strand of strands) if (!strand.isEven) outline(context, strand.points, stroke)
  context.fillStyle = context.strokeStyle
  context.fill('nonzero')
}

/** Where a line turns by more than this, its outline is rounded by a disc; elsewhere neighbouring pieces share a slanted edge. The cosine of the angle. */
const SHARP = Math.cos(0.2)

/**
 * Adds the outline of a line whose width changes along it: a quadrilateral for each piece, and discs at sharp turns and round caps. All run the same way
 * round, so that filled by the non-zero rule they are one shape.
 */
function outline(context: CanvasRenderingContext2D, points: readonly number[], { width, cap }: Stroke): void {
  const n = points.length / STRIDE
  const half = (i: number) => (points[STRIDE * i + 2]! * width) / 2
  const disc = (x: number, y: number, r: number) => {
    context.moveTo(x + r, y)
    context.arc(x, y, r, 0, 2 * Math.PI)
  }
  const directions: [number, number][] = []
  let known: [number, number] = [1, 0]
  for (let i = 0; i + 1 < n; i++) {
    const [dx, dy] = [points[STRIDE * (i + 1)]! - points[STRIDE * i]!, points[STRIDE * (i + 1) + 1]! - points[STRIDE * i + 1]!]
    const length = Math.sqrt(dx * dx + dy * dy)
    if (length > 1e-9) known = [dx / length, dy / length]
    directions.push(known)
  }
  for (let i = 0; i + 1 < n; i++) {
    const here = directions[i]!
    const start = i > 0 ? sharedNormal(directions[i - 1]!, here) : undefined
    const end = i + 2 < n ? sharedNormal(here, directions[i + 1]!) : undefined
    const own: [number, number] = [here[1], -here[0]]
    const [nx0, ny0] = start ?? own
    const [nx1, ny1] = end ?? own
    const [r0, r1] = [half(i), half(i + 1)]
    let [x0, y0, x1, y1] = [points[STRIDE * i]!, points[STRIDE * i + 1]!, points[STRIDE * (i + 1)]!, points[STRIDE * (i + 1) + 1]!]
    if (cap === 'square' && i === 0) [x0, y0] = [x0 - here[0] * r0, y0 - here[1] * r0]
    if (cap === 'square' && i + 2 === n) [x1, y1] = [x1 + here[0] * r1, y1 + here[1] * r1]
    context.moveTo(x0 + nx0 * r0, y0 + ny0 * r0)
    context.lineTo(x1 + nx1 * r1, y1 + ny1 * r1)
    context.lineTo(x1 - nx1 * r1, y1 - ny1 * r1)
    context.lineTo(x0 - nx0 * r0, y0 - ny0 * r0)
    context.closePath()
    if (i > 0 && !start) disc(x0, y0, r0)
  }
  if (cap !== 'round') return
  disc(points[0]!, points[1]!, half(0))
  disc(points[STRIDE * (n - 1)]!, points[STRIDE * (n - 1) + 1]!, half(n - 1))
}

/** The normal that two pieces share where a line turns a little, as long as the slant asks for; undefined at a sharp turn. */
function sharedNormal([ax, ay]: [number, number], [bx, by]: [number, number]): [number, number] | undefined {
  const cos = ax * bx + ay * by
  if (cos < SHARP) return undefined
  const k = 1 / (1 + cos)
  return [(ay + by) * k, -(ax + bx) * k]
}
