import type { Projection } from '#core/camera/projection'
import type { Course } from '#core/geometry/course'
import { pieceAt, pointAt } from '#core/geometry/course'
import type { Stretch } from '#core/geometry/stroke'

/**
 * Strokes parts of a course. Whatever the style of a line, what is painted are stretches of its course, cut by length; where the ground is looked at from
 * aside they are as wide as their distance makes them.
 */
export interface Stroke {
  /** In reference pixels at the middle of the view. */
  width: number
  cap: 'round' | 'butt' | 'square'
}

/** Points closer to each other than this, in reference pixels, are skipped: a recorded track may have very many. */
const FINE = 0.15
/** The same where the outline of the stroke is filled, which takes more for each point. */
const FINE_OUTLINE = 1.2

/** A projected line: x, y in reference pixels and the scale that its distance gives it, in turn. */
export type SeenLine = number[]
const STRIDE = 3

/** The lines in the frame along stretches of a course, cut at its jumps and before the camera. */
export function seenLines(projection: Projection, course: Course, stretches: readonly Stretch[]): SeenLine[] {
  const lines: SeenLine[] = []
  const fine = projection.isFlat ? FINE : FINE_OUTLINE
  const pen = projection.isFlat ? flatPen(projection, lines, fine) : tiltedPen(projection, lines, fine)
  const { points, breaks } = course
  for (const { from, to } of stretches) {
    const start = pointAt(course, from)
    pen.move(start.x, start.y)
    const last = pieceAt(course, to)
    for (let i = pieceAt(course, from) + 1; i <= last; i++) {
      const [x, y] = [points[2 * i]!, points[2 * i + 1]!]
      if (breaks.length > 0 && breaks.includes(i - 1)) pen.move(x, y)
      else pen.line(x, y, breaks.includes(i))
    }
    // Nothing is drawn over a jump: the line ends there.
    if (breaks.length === 0 || !breaks.includes(last)) {
      const end = pointAt(course, to)
      pen.line(end.x, end.y, true)
    }
  }
  return lines.filter((line) => line.length > STRIDE)
}

/** Takes points of the ground one after the other; one that is `needed` is not skipped. */
interface Pen {
  move(x: number, y: number): void
  line(x: number, y: number, needed: boolean): void
}

function flatPen({ toScreen }: Projection, lines: SeenLine[], fine: number): Pen {
  let line: SeenLine = []
  let [lastX, lastY] = [0, 0]
  const add = (x: number, y: number) => {
    line.push(x, y, 1)
    lastX = x
    lastY = y
  }
  return {
    move(x, y) {
      const p = toScreen({ x, y })
      lines.push((line = []))
      add(p.x, p.y)
    },
    line(x, y, needed) {
      const p = toScreen({ x, y })
      if (needed || Math.abs(p.x - lastX) >= fine || Math.abs(p.y - lastY) >= fine) add(p.x, p.y)
    },
  }
}

/** Cuts lines where they pass behind the camera. */
function tiltedPen({ toScreen, depthScale, clearance }: Projection, lines: SeenLine[], fine: number): Pen {
  let line: SeenLine = []
  let last = { x: 0, y: 0, clear: 0 }
  const add = (x: number, y: number, needed: boolean) => {
    const p = toScreen({ x, y })
    const n = line.length
    if (!needed && n > 0 && Math.abs(p.x - line[n - 3]!) < fine && Math.abs(p.y - line[n - 2]!) < fine) return
    line.push(p.x, p.y, depthScale({ x, y }))
  }
  return {
    move(x, y) {
      lines.push((line = []))
      last = { x, y, clear: clearance({ x, y }) }
      if (last.clear >= 0) add(x, y, true)
    },
    line(x, y, needed) {
      const clear = clearance({ x, y })
      if (clear < 0 !== last.clear < 0) {
        const u = last.clear / (last.clear - clear)
        if (clear >= 0) lines.push((line = []))
        add(last.x + (x - last.x) * u, last.y + (y - last.y) * u, true)
      }
      if (clear >= 0) add(x, y, needed)
      last = { x, y, clear }
    },
  }
}

/** Paints lines in the context's reference pixels and its stroke style. */
export function paintLines(context: CanvasRenderingContext2D, { isFlat }: Projection, lines: readonly SeenLine[], stroke: Stroke): void {
  context.beginPath()
  if (isFlat) {
    for (const line of lines) {
      context.moveTo(line[0]!, line[1]!)
      for (let i = STRIDE; i < line.length; i += STRIDE) context.lineTo(line[i]!, line[i + 1]!)
    }
    context.lineWidth = stroke.width
    context.lineJoin = 'round'
    context.lineCap = stroke.cap
    context.stroke()
    return
  }
  for (const line of lines) outline(context, line, stroke)
  context.fillStyle = context.strokeStyle
  context.fill('nonzero')
}

/** Where a line turns by more than this, its outline is rounded by a disc; elsewhere neighbouring pieces share a slanted edge. The cosine of the angle. */
const SHARP = Math.cos(0.2)

/**
 * Adds the outline of a line whose width changes along it: a quadrilateral for each piece, and discs at sharp turns and round caps. All run the same way
 * round, so that filled by the non-zero rule they are one shape.
 */
function outline(context: CanvasRenderingContext2D, line: SeenLine, { width, cap }: Stroke): void {
  const n = line.length / STRIDE
  const half = (i: number) => (line[STRIDE * i + 2]! * width) / 2
  const disc = (x: number, y: number, r: number) => {
    context.moveTo(x + r, y)
    context.arc(x, y, r, 0, 2 * Math.PI)
  }
  const directions: [number, number][] = []
  let known: [number, number] = [1, 0]
  for (let i = 0; i + 1 < n; i++) {
    const [dx, dy] = [line[STRIDE * (i + 1)]! - line[STRIDE * i]!, line[STRIDE * (i + 1) + 1]! - line[STRIDE * i + 1]!]
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
    let [x0, y0, x1, y1] = [line[STRIDE * i]!, line[STRIDE * i + 1]!, line[STRIDE * (i + 1)]!, line[STRIDE * (i + 1) + 1]!]
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
  disc(line[0]!, line[1]!, half(0))
  disc(line[STRIDE * (n - 1)]!, line[STRIDE * (n - 1) + 1]!, half(n - 1))
}

/** The normal that two pieces share where a line turns a little, as long as the slant asks for; undefined at a sharp turn. */
function sharedNormal([ax, ay]: [number, number], [bx, by]: [number, number]): [number, number] | undefined {
  const cos = ax * bx + ay * by
  if (cos < SHARP) return undefined
  const k = 1 / (1 + cos)
  return [(ay + by) * k, -(ax + bx) * k]
}
