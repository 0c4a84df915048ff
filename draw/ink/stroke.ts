import type { Join } from '#core/journey/schema'
import type { Strand } from './strand'
import { STRIDE } from './strand'

/** How strands are stroked. */
export interface Stroke {
  /** In reference pixels at the middle of the view. */
  width: number
  cap: 'round' | 'butt' | 'square'
  /** How pieces are joined at corners; round where it is left out. A mitre longer than so many widths is bevelled. */
  join?: { kind: Join; limit: number }
}

const ROUND = { kind: 'round', limit: 1 } as const
/** What a canvas calls each join. */
const CANVAS_JOINS = { round: 'round', bevel: 'bevel', mitre: 'miter' } as const satisfies Record<Join, CanvasLineJoin>

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
    const { kind, limit } = stroke.join ?? ROUND
    context.lineJoin = CANVAS_JOINS[kind]
    context.miterLimit = limit
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
 * Adds the outline of a line whose width changes along it: a quadrilateral for each piece, what fills sharp turns, and discs as round caps. All run the same way
 * round, so that filled by the non-zero rule they are one shape.
 */
function outline(context: CanvasRenderingContext2D, points: readonly number[], { width, cap, join = ROUND }: Stroke): void {
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
    if (i === 0 || start) continue
    if (join.kind === 'round') disc(x0, y0, r0)
    else corner(context, [x0, y0], directions[i - 1]!, here, r0, join)
  }
  if (cap !== 'round') return
  disc(points[0]!, points[1]!, half(0))
  disc(points[STRIDE * (n - 1)]!, points[STRIDE * (n - 1) + 1]!, half(n - 1))
}

/**
 * Fills the outer side of a sharp turn by a bevel, or by a mitre where that is not too long.
 * Source of both, and of the limit: W3C SVG 2, 13.5.5 (line joins; the length of a mitre is the width over the sine of half the angle).
 */
function corner(
  context: CanvasRenderingContext2D,
  [x, y]: [number, number],
  before: [number, number],
  after: [number, number],
  half: number,
  { kind, limit }: { kind: Join; limit: number },
): void {
  const turn = before[0] * after[1] - before[1] * after[0]
  // To the left of a right turn, and to the right of a left one.
  const side = turn > 0 ? half : -half
  const outer = ([dx, dy]: [number, number]) => [x + dy * side, y - dx * side] as const
  const [from, to] = [outer(before), outer(after)]
  // The cosine of the turn is that of its two pieces; the sine of half the angle between them is the cosine of half the turn.
  const half2 = (1 + before[0] * after[0] + before[1] * after[1]) / 2
  const isMitred = kind === 'mitre' && half2 > 0 && 1 / Math.sqrt(half2) <= limit
  const tip = [(from[0] + to[0]) / 2 - x, (from[1] + to[1]) / 2 - y] as const
  // The middle between both ends is half2 of the way to the tip.
  const points = [[x, y], from, ...(isMitred ? [[x + tip[0] / half2, y + tip[1] / half2] as const] : []), to] as const
  const ordered = turn > 0 ? points : points.toReversed()
  context.moveTo(ordered[0]![0], ordered[0]![1])
  for (const [px, py] of ordered.slice(1)) context.lineTo(px, py)
  context.closePath()
}

/** The normal that two pieces share where a line turns a little, as long as the slant asks for; undefined at a sharp turn. */
function sharedNormal([ax, ay]: [number, number], [bx, by]: [number, number]): [number, number] | undefined {
  const cos = ax * bx + ay * by
  if (cos < SHARP) return undefined
  const k = 1 / (1 + cos)
  return [(ay + by) * k, -(ax + bx) * k]
}
