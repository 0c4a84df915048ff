import type { Projection } from '#core/camera/projection-type'
import { BENT_STEP } from '#core/camera/projection'
import type { Course } from '#core/geometry/course'
import { pieceAt, pointAt } from '#core/geometry/course'
import type { Stretch } from '#core/geometry/stroke'

/**
 * A line in the frame with a width of its own at each of its points. Whatever the style of a line, what is painted are strands: stretches of its course,
 * cut by length, projected, and moved aside or made wider and narrower.
 */
export interface Strand {
  /** x, y in reference pixels, the width there as a share of the line's, and the length along the course, in turn. */
  points: number[]
  /** Whether it has its line's width all along. */
  isEven: boolean
}

export const STRIDE = 4

/** How far from a strand points of its course may lie that are left out of it, in reference pixels: each point costs time to paint. */
const FINE = 0.04

/** Points further apart than this on the ground are not left out, and longer straight pieces are cut, in reference pixels at the middle of the view: ink that grows changes so far behind its head. */
export const LONGEST_PIECE = 48

/**
 * The strands along stretches of a course, cut at its breaks and before the camera; as wide as the distance makes them.
 * @param asked the most ground units between two points; points at its multiples are always among them, so that what depends on them stands still
 */
export function strandsOf(projection: Projection, course: Course, stretches: readonly Stretch[], asked = Infinity): Strand[] {
  const step = projection.bent ? partOf(asked, BENT_STEP / projection.view.zoom) : asked
  // A long straight piece is cut, too: where its end moves on, all of it would be rounded to pixels in another way.
  const longest = LONGEST_PIECE / projection.view.zoom
  const short = partOf(step, longest)
  const strands: Strand[] = []
  const pen = projection.isFlat ? flatPen(projection, strands) : tiltedPen(projection, strands)
  const { points, lengths, breaks } = course
  /** Draws on to a point, by way of the multiples of the step that lie between. */
  let [lastX, lastY, lastS] = [0, 0, 0]
  const move = (x: number, y: number, s: number) => {
    pen.move(x, y, s)
    ;[lastX, lastY, lastS] = [x, y, s]
  }
  const line = (x: number, y: number, s: number, isNeeded: boolean) => {
    const every = s - lastS > longest ? short : step
    for (let k = Math.floor(lastS / every + 1e-9) + 1; k * every < s - 1e-9; k++) {
      const u = (k * every - lastS) / (s - lastS)
      pen.line(lastX + (x - lastX) * u, lastY + (y - lastY) * u, k * every, true)
    }
    pen.line(x, y, s, isNeeded)
    ;[lastX, lastY, lastS] = [x, y, s]
  }
  for (const { from, to } of stretches) {
    const start = pointAt(course, from)
    move(start.x, start.y, from)
    const last = pieceAt(course, to)
    for (let i = pieceAt(course, from) + 1; i <= last; i++) {
      const [x, y] = [points[2 * i]!, points[2 * i + 1]!]
      if (breaks.length > 0 && breaks.includes(i - 1)) move(x, y, lengths[i]!)
      else line(x, y, lengths[i]!, breaks.includes(i))
    }
    // Nothing is drawn over a break: the line ends there.
    if (breaks.length === 0 || !breaks.includes(last)) {
      const end = pointAt(course, to)
      line(end.x, end.y, to, true)
    }
  }
  return strands.filter(({ points }) => points.length > STRIDE)
}

/** The longest whole part of a step that is no longer than another. */
const partOf = (step: number, most: number): number => (step === Infinity ? most : step / Math.ceil(step / most))

/** Takes points of the ground one after the other, with their length along the course; one that is needed is not skipped. */
interface Pen {
  move(x: number, y: number, s: number): void
  line(x: number, y: number, s: number, isNeeded: boolean): void
}

function flatPen({ toScreen, view }: Projection, strands: Strand[]): Pen {
  const thinner = createThinner(LONGEST_PIECE / view.zoom)
  return {
    move(x, y, s) {
      const p = toScreen({ x, y })
      const points: number[] = []
      strands.push({ points, isEven: true })
      thinner.begin(points, p.x, p.y, 1, s)
    },
    line(x, y, s, isNeeded) {
      const p = toScreen({ x, y })
      thinner.add(p.x, p.y, 1, s, isNeeded)
    },
  }
}

/** Cuts lines where they pass behind the camera. */
function tiltedPen({ toScreen, depthScale, clearance, view }: Projection, strands: Strand[]): Pen {
  const thinner = createThinner(LONGEST_PIECE / view.zoom)
  let last = { x: 0, y: 0, s: 0, clear: 0 }
  const begin = (x: number, y: number, s: number) => {
    const p = toScreen({ x, y })
    const points: number[] = []
    strands.push({ points, isEven: false })
    thinner.begin(points, p.x, p.y, depthScale({ x, y }), s)
  }
  const add = (x: number, y: number, s: number, isNeeded: boolean) => {
    const p = toScreen({ x, y })
    thinner.add(p.x, p.y, depthScale({ x, y }), s, isNeeded)
  }
  return {
    move(x, y, s) {
      last = { x, y, s, clear: clearance({ x, y }) }
      if (last.clear >= 0) begin(x, y, s)
    },
    line(x, y, s, isNeeded) {
      const clear = clearance({ x, y })
      if (clear < 0 !== last.clear < 0) {
        const u = last.clear / (last.clear - clear)
        const edge = [last.x + (x - last.x) * u, last.y + (y - last.y) * u, last.s + (s - last.s) * u] as const
        if (clear >= 0) begin(...edge)
        else add(...edge, true)
      }
      if (clear >= 0) add(x, y, s, isNeeded)
      last = { x, y, s, clear }
    },
  }
}

/**
 * Leaves out points of a polyline that lie on it but for `FINE`, one after the other: the directions in which a straight piece may go on narrow with each point
 * it passes by. Which points stay does not depend on those after the next that stays.
 * Source, from memory: Zhao and Saalfeld, Linear-time sleeve-fitting polyline simplification algorithms, 1997.
 * @param longest the longest piece, by lengths along the course
 */
function createThinner(longest: number) {
  let points: number[] = []
  /** The last point that stays. */
  let start = { x: 0, y: 0, s: 0 }
  /** The last one that may be left out. */
  let passed: [x: number, y: number, width: number, s: number] | undefined
  /** The way the piece began to go, and between which slopes to that it may go on. */
  let along = { x: 1, y: 0 }
  let [low, high] = [-Infinity, Infinity]
  /** How far that way it has come: where the line turns back, its furthest point stays. */
  let reached = 0

  const keep = (x: number, y: number, width: number, s: number) => {
    points.push(x, y, width, s)
    start = { x, y, s }
    passed = undefined
    ;[low, high] = [-Infinity, Infinity]
    reached = 0
  }

  return {
    begin(list: number[], x: number, y: number, width: number, s: number) {
      points = list
      keep(x, y, width, s)
    },
    add(x: number, y: number, width: number, s: number, isNeeded: boolean) {
      let [dx, dy] = [x - start.x, y - start.y]
      if (passed && low > -Infinity) {
        const forward = dx * along.x + dy * along.y
        const slope = (along.x * dy - along.y * dx) / forward
        if (forward < reached || slope < low || slope > high || s - start.s > longest) {
          keep(...passed)
          ;[dx, dy] = [x - start.x, y - start.y]
        }
      }
      if (isNeeded) return keep(x, y, width, s)
      const far = Math.sqrt(dx * dx + dy * dy)
      passed = [x, y, width, s]
      // What is nearer than that has no direction of its own.
      if (far <= FINE) return
      if (low === -Infinity) along = { x: dx / far, y: dy / far }
      const forward = dx * along.x + dy * along.y
      const aside = along.x * dy - along.y * dx
      reached = forward
      low = Math.max(low, (aside - FINE) / forward)
      high = Math.min(high, (aside + FINE) / forward)
    },
  }
}

/** A strand made wider or narrower along its course. @param share of its width at a length */
export function widened({ points }: Strand, share: (s: number) => number): Strand {
  const changed = points.slice()
  for (let i = 0; i < changed.length; i += STRIDE) changed[i + 2] = changed[i + 2]! * share(changed[i + 3]!)
  return { points: changed, isEven: false }
}

/** A strand moved aside. @param offset to the right of the direction of travel at a length, in reference pixels at the middle of the view */
export function movedAside({ points, isEven }: Strand, offset: (s: number) => number): Strand {
  const moved = points.slice()
  for (let i = 0; i < points.length; i += STRIDE) {
    const [nx, ny] = normalAt(points, i)
    const by = offset(points[i + 3]!) * points[i + 2]!
    moved[i] = points[i]! + nx * by
    moved[i + 1] = points[i + 1]! + ny * by
  }
  return { points: moved, isEven }
}

/** A corner is mitred to at most this much of a strand's offset. */
const MOST_MITRE = 2

/** The normal of a strand at one of its points, to the right of its direction; at a corner as long as keeps the strand beside it in parallel. */
function normalAt(points: readonly number[], i: number): [number, number] {
  const direction = (from: number): readonly [number, number] | undefined => {
    if (from < 0 || from + STRIDE >= points.length) return undefined
    const [dx, dy] = [points[from + STRIDE]! - points[from]!, points[from + STRIDE + 1]! - points[from + 1]!]
    const length = Math.sqrt(dx * dx + dy * dy)
    return length > 1e-9 ? [dx / length, dy / length] : undefined
  }
  const [before, after] = [direction(i - STRIDE), direction(i)]
  const a = before ?? after ?? [1, 0]
  const b = after ?? before ?? [1, 0]
  const k = Math.min(MOST_MITRE, 1 / Math.max(1e-6, (1 + a[0] * b[0] + a[1] * b[1]) / 2)) / 2
  return [-(a[1] + b[1]) * k, (a[0] + b[0]) * k]
}

/**
 * A strand cut where its course passes certain lengths, each part reaching a little into the next so that no seam is seen between them.
 * @param cell the number of the part that a length belongs to, rising along the course
 */
export function cutByCell(
  { points, isEven }: Strand,
  cell: (s: number) => number,
): { cell: number; strand: Strand; isFirst: boolean; isLast: boolean }[] {
  const parts: { cell: number; strand: Strand; isFirst: boolean; isLast: boolean }[] = []
  let start = 0
  const cellAt = (i: number) => cell((points[i + 3]! + points[i + STRIDE + 3]!) / 2)
  for (let i = 0; i + STRIDE < points.length; i += STRIDE) {
    const own = cellAt(start)
    const isEnd = i + 2 * STRIDE >= points.length
    if (!isEnd && cellAt(i + STRIDE) === own) continue
    const reach = isEnd ? i + 2 * STRIDE : i + 3 * STRIDE
    parts.push({ cell: own, strand: { points: points.slice(start, reach), isEven }, isFirst: start === 0, isLast: isEnd })
    start = i + STRIDE
  }
  return parts
}
