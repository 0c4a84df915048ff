import type { Course } from '#core/geometry/course'
import { seedOf } from '#core/geometry/noise'
import type { Pattern, Piece } from '#core/geometry/stroke'
import { fittedPattern, piecesBetween } from '#core/geometry/stroke'
import type { Arrow, Coming, Hand, Join, Line, Photo } from '#core/journey/schema'
import { overshoot, smooth } from '#core/pace/easing'
import type { CanvasSpace } from '../canvas-space'
import type { Figure, GroundShape } from './ground-shape'
import { ellipse, laidOn } from './ground-shape'
import { drawnByHand, stepOf } from './hand'
import { ARROW_FIGURES, STAMP_FIGURES } from './stamps'
import type { Strand } from './strand'
import { movedAside, STRIDE, strandsOf, widened } from './strand'
import type { Stroke } from './stroke'

/**
 * What a line is made of in the frame: strands that are stroked in one way, or figures that are filled. A picture may lie on the ground instead of each
 * figure; then the figures are what casts shadows and light.
 */
export type InkPart =
  { kind: 'strands'; strands: Strand[]; stroke: Stroke } | { kind: 'shapes'; shapes: GroundShape[]; pictures?: LaidPictures }

/** A picture that lies on the ground in several places: the corners of each, upper left, upper right, lower right and lower left. */
export interface LaidPictures {
  picture: Photo
  /** How wide it is in the frame, in reference pixels at the middle of the view. */
  width: number
  quads: GroundShape[]
}

/** A line that is to be taken apart, with what its look depends on. */
export interface LineOnCourse {
  leg: string
  course: Course
  tail: number
  head: number
  front: number
  patternZoom: number
  phase: number
  line: Line
  width: number
  cap: Stroke['cap']
  join: Join
  mitreLimit: number
  hand: Hand
  taper: number
  comes: Coming
  arrow: Arrow | null
}

/** A dash of no length with round caps is a dot; some canvases leave out dashes of exactly no length. In reference pixels. */
const DOT = 0.01

/** No dot is wider than this share of the way from one to the next. */
const WIDEST_DOT = 0.7

/** The shortest dash with caps, in stroke widths: a shorter one would look like a dot. */
const SHORTEST_DASH = 1.5

/** The length of a stamped mark, in widths of its line. */
export const STAMP_LENGTH = 2.6

/** Of rails: their own width, how far from the middle they lie, and the width of a sleeper, as shares of the whole. */
const RAIL = 0.15
const GAUGE = 0.27
const SLEEPER = 0.2

/** Gradients and tapers vary over pieces of this length, in reference pixels. */
export const FINE_STEP = 6

/** The parts of a line, from the lowest to the uppermost. @param isVaried whether it changes along its course, as with a gradient */
export function inkParts(space: CanvasSpace, item: LineOnCourse, isVaried: boolean): InkPart[] {
  const arrow = arrowOf(space, item)
  const draft: Draft = { space, item, head: Math.min(item.head, arrow.limit), isVaried }
  return [...takenApart(draft), ...(arrow.shape ? [{ kind: 'shapes' as const, shapes: [arrow.shape] }] : [])]
}

/** The whole breadth of a line without what it is made of, as a casing or shadow under it needs it; its own parts where these stand apart. @param isVaried as of `inkParts` */
export function broadParts(space: CanvasSpace, item: LineOnCourse, isVaried = false): InkPart[] {
  const { kind } = item.line
  const clean: LineOnCourse = { ...item, hand: 'none' }
  return inkParts(space, kind === 'double' || kind === 'railway' ? { ...clean, line: { kind: 'solid' }, cap: 'butt' } : clean, isVaried)
}

interface Draft {
  space: CanvasSpace
  item: LineOnCourse
  /** Where the stroke ends: before the tip of an arrow. */
  head: number
  isVaried: boolean
}

/** One for each kind of line. */
const PARTS_OF: { [K in Line['kind']]: (draft: Draft, line: Extract<Line, { kind: K }>) => InkPart[] } = {
  solid: (draft) => stroked(draft, [{ from: draft.item.tail, to: draft.head, index: 0 }], draft.item.cap),
  dashed: (draft, line) => {
    const { width, cap } = draft.item
    const { piece, space } = dashPattern(line, width, cap)
    const caps = cap === 'butt' ? 0 : width
    return stroked(draft, piecesOf(draft, { piece, space, isFitted: line.fitted, caps }), cap)
  },
  dotted: (draft, line) => {
    const { width, patternZoom } = draft.item
    const apart = width + line.space
    const pieces = piecesOf(draft, { piece: DOT, space: apart - DOT, isFitted: line.fitted, caps: 0 })
    // Further away than on its way the dots lie closer in the frame, and become smaller before they touch.
    const share = Math.min(1, (WIDEST_DOT * apart * draft.space.projection.view.zoom) / patternZoom / width)
    const [{ strands, stroke, kind }] = stroked(draft, pieces, 'round')
    return [{ kind, stroke, strands: share < 1 ? strands.map((strand) => widened(strand, () => share)) : strands }]
  },
  double: (draft, { between }) => {
    const { width } = draft.item
    const own = (width * (1 - between)) / 2
    const [{ strands }] = stroked(draft, [{ from: draft.item.tail, to: draft.head, index: 0 }], 'butt', own)
    return [-1, 1].map((side) => beside(draft.item, strands, (side * (width - own)) / 2, own))
  },
  railway: (draft, { space }) => {
    const { width } = draft.item
    const [{ strands }] = stroked(draft, [{ from: draft.item.tail, to: draft.head, index: 0 }], 'butt', RAIL * width)
    return [sleepers(draft, space), ...[-1, 1].map((side) => beside(draft.item, strands, side * GAUGE * width, RAIL * width))]
  },
  stamped: (draft, line) => [stamps(draft, line)],
  hidden: () => [],
}

function takenApart(draft: Draft): InkPart[] {
  const { line } = draft.item
  // TypeScript does not see that the function and the line are of one kind.
  return (PARTS_OF[line.kind] as (draft: Draft, line: Line) => InkPart[])(draft, line)
}

const beside = (item: LineOnCourse, strands: readonly Strand[], aside: number, width: number): InkPart => ({
  kind: 'strands',
  strands: strands.map((strand) => movedAside(strand, () => aside)),
  stroke: { width, cap: 'butt', join: joinOf(item) },
})

const joinOf = ({ join, mitreLimit }: LineOnCourse): Stroke['join'] => ({ kind: join, limit: mitreLimit })

/** Pieces of a course as strands: with their taper, as they come, and by hand. */
function stroked(
  { space, item, isVaried }: Draft,
  pieces: readonly Piece[],
  cap: Stroke['cap'],
  width = item.width,
): [InkPart & { kind: 'strands' }] {
  const { course, hand, patternZoom, tail, head, taper } = item
  const step = Math.min(stepOf(hand), isVaried || taper > 0 ? FINE_STEP : Infinity) / patternZoom
  const comes = comingOf(item, pieces)
  const strands = pieces.flatMap((piece) => {
    const share = comes(piece)
    if (share <= 0) return []
    const made = strandsOf(space.projection, course, [piece], step)
    return share === 1 ? made : made.map((strand) => widened(strand, () => share))
  })
  const grows = Math.min(taper / patternZoom, head - tail)
  const tapered = taper > 0 ? strands.map((strand) => widened(strand, (s) => taperShare((s - tail) / grows))) : strands
  return [
    {
      kind: 'strands',
      strands: drawnByHand(tapered, hand, width, seedOf(item.leg), patternZoom),
      stroke: { width, cap, join: joinOf(item) },
    },
  ]
}

/** The width of a tapering line, as a share of its full one, at a share of its taper. */
const taperShare = (u: number): number => (u >= 1 ? 1 : u <= 0 ? 0 : u * (2 - u))

/** How far each piece of a pattern has come, as a share of its size: all the way, unless they come one by one. */
function comingOf({ comes, front }: LineOnCourse, pieces: readonly Piece[]): (piece: Piece) => number {
  const [first, second] = pieces
  if ((comes !== 'piece-by-piece' && comes !== 'popping') || !first) return () => 1
  const settles = Math.max(second ? second.from - first.from : 0, first.to - first.from) * SETTLES_OVER
  return ({ to }) => {
    const u = settles > 0 ? (front - to) / settles : 1
    return u >= 1 ? 1 : u <= 0 ? 0 : comes === 'popping' ? overshoot(u) : smooth(u)
  }
}

/** A piece takes so many pieces' way of its traveller to settle. */
const SETTLES_OVER = 1.4

interface PatternInFrame {
  /** In reference pixels at the zoom at which the leg is travelled. */
  piece: number
  space: number
  isFitted: boolean
  /** How much of a piece are its caps, which keep their size in the frame. */
  caps: number
}

/**
 * The pieces of a pattern. It is measured at the zoom at which its leg is travelled and stands still on the ground while the view zooms; as caps keep their
 * size in the frame, dashes are drawn longer or shorter for them, so that what is seen of them keeps its length on the ground. Dots stay round.
 */
function piecesOf({ space, item, head }: Draft, { piece, space: between, isFitted, caps }: PatternInFrame, areWhole = false): Piece[] {
  const { patternZoom, tail, phase, course, comes } = item
  const { zoom } = space.projection.view
  const dot = piece === DOT
  const longer = dot ? DOT / zoom - DOT / patternZoom : caps / patternZoom - caps / zoom
  const plain: Pattern = { piece: piece / patternZoom, space: between / patternZoom, longer }
  const pattern = isFitted ? fittedPattern(plain, course.length) : plain
  // The last piece of a line that has reached its stop may be cut there.
  const isWhole = areWhole || ((comes === 'piece-by-piece' || comes === 'popping') && head < course.length)
  return piecesBetween(tail, head, pattern, phase, DOT / zoom, isWhole)
}

/**
 * Dash and space in reference pixels: caps reach half a stroke width past a dash, so dashes are shortened to look as long as asked. Where they would be
 * too short to see, both grow in proportion.
 */
export function dashPattern(
  { dash, space }: { dash: number; space: number },
  width: number,
  cap: Stroke['cap'],
): { piece: number; space: number } {
  if (cap === 'butt') return { piece: dash, space }
  const growth = Math.max(1, (SHORTEST_DASH * width) / dash)
  return { piece: growth * dash - width, space: growth * space + width }
}

/** Short strokes across the line. */
function sleepers(draft: Draft, space: number): InkPart {
  const { item } = draft
  const { width, hand, patternZoom } = item
  const thick = SLEEPER * width
  const pieces = piecesOf(draft, { piece: thick, space, isFitted: true, caps: 0 })
  const comes = comingOf(item, pieces)
  const across = pieces.flatMap((piece) => {
    const middle = (piece.from + piece.to) / 2
    const share = comes(piece)
    const [strand] =
      share > 0
        ? strandsOf(draft.space.projection, item.course, [{ from: middle - DOT / patternZoom, to: middle + DOT / patternZoom }])
        : []
    if (!strand) return []
    const { points } = strand
    const [x, y, scale, s] = [points[0]!, points[1]!, points[2]!, points[3]!]
    const [dx, dy] = [points[STRIDE]! - x, points[STRIDE + 1]! - y]
    const k = (share * scale * width) / 2 / Math.max(1e-9, Math.hypot(dx, dy))
    return [{ points: [x + dy * k, y - dx * k, scale, s, x - dy * k, y + dx * k, scale, s], isEven: strand.isEven }]
  })
  return {
    kind: 'strands',
    strands: drawnByHand(across, hand, thick, seedOf(item.leg) + 7, patternZoom),
    stroke: { width: thick, cap: 'butt' },
  }
}

function stamps(draft: Draft, line: Extract<Line, { kind: 'stamped' }>): InkPart {
  const { space, item } = draft
  const { course, width, patternZoom, tail, head, taper } = item
  const size = STAMP_LENGTH * width
  const pieces = piecesOf(draft, { piece: size, space: line.space, isFitted: line.fitted, caps: 0 }, true)
  const comes = comingOf(item, pieces)
  const grows = Math.min(taper / patternZoom, head - tail)
  /** Marks keep their length on the ground, as what is between them does. */
  const laid = (figures: readonly Figure[]): GroundShape[] =>
    pieces.flatMap((piece) => {
      const middle = (piece.from + piece.to) / 2
      const share = comes(piece) * (taper > 0 ? taperShare((middle - tail) / grows) : 1)
      if (share <= 0) return []
      const figure = figures[((piece.index % figures.length) + figures.length) % figures.length]!
      const seen = (share * size * space.projection.view.zoom) / patternZoom
      return laidOn(space.projection, course, middle, figure, seen, piece.to - piece.from) ?? []
    })
  const { picture } = line
  if (line.stamp !== 'own') return { kind: 'shapes', shapes: laid(STAMP_FIGURES[line.stamp]) }
  if (!picture) return { kind: 'shapes', shapes: [] }
  const half = picture.height / picture.width / 2
  const corners: Figure = [[[-0.5, -half], [0.5, -half], [0.5, half], [-0.5, half]]] // prettier-ignore
  const quads = laid([corners])
  return { kind: 'shapes', shapes: laid([[ellipse(0, 0, OWN_BODY / 2, OWN_BODY * half)]]), pictures: { picture, width: size, quads } }
}

/** Light and shadow of a mark of one's own are those of an ellipse of so much of its size. */
const OWN_BODY = 0.72

/** The arrow of a line, if it is to be seen, and where the stroke before it ends. */
function arrowOf({ projection }: CanvasSpace, item: LineOnCourse): { limit: number; shape?: GroundShape } {
  const { arrow, course, head, tail, front, width } = item
  if (!arrow) return { limit: Infinity }
  const { figure, neck, length } = ARROW_FIGURES[arrow.shape]
  const wide = arrow.size * width
  const onGround = wide / projection.view.zoom
  const isAtEnd = arrow.at === 'end'
  const tip = isAtEnd ? course.length : head
  const share = isAtEnd
    ? head < course.length
      ? 0
      : overshoot((front - tip) / (4 * onGround))
    : Math.min(1, (head - tail) / (length * onGround))
  const limit = tip - neck * onGround * (isAtEnd ? 1 : share)
  const window = Math.min(length * onGround, tip)
  if (share <= 0 || window <= 0) return { limit }
  const shape = laidOn(projection, course, tip, figure, wide * share, window, tip - window / 2)
  return shape ? { limit, shape } : { limit }
}
