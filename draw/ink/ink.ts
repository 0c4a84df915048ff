import { fallInFrame } from '#core/camera/sun'
import { gradientAt, mixColours } from '#core/colour/gradient'
import { clamp } from '#core/geometry/clamp'
import type { InkItem, PlannedItem } from '#core/frame/frame'
import type { Ink, Line } from '#core/journey/schema'
import type { CanvasSpace } from '../canvas-space'
import { placeInFrame } from '../canvas-space'
import { relativeLuminance } from '../colour'
import { GLOW_REACH, paintGlow } from './glow'
import { laidOn, paintShapes } from './ground-shape'
import { STRAY_REACH } from './hand'
import type { InkPart, LaidPictures, LineOnCourse } from './ink-parts'
import { broadParts, inkParts, STAMP_LENGTH } from './ink-parts'
import type { Region } from '../region'
import type { Softener } from './soft'
import { laySoft, SOFT_SCALE } from './soft'
import { LEADER_FIGURES } from './stamps'
import { cutByCell, strandsOf, widened } from './strand'
import { paintStrands } from './stroke'
import type { Studio, Surface } from '../studio'
import { smoothly } from '../picture'

/** What ink is painted with besides a canvas. */
export interface InkTools {
  softener: Softener
  /** A cleared surface of the size asked for, for one item at a time. */
  layer: (width: number, height: number) => Surface
}

/** How far the marks of a line reach from its course, in reference pixels; 0 where there are none. */
function stampReach(line: Line, width: number): number {
  if (line.kind !== 'stamped') return 0
  const half = (STAMP_LENGTH * width) / 2
  return line.stamp === 'own' && line.picture ? half * Math.hypot(1, line.picture.height / line.picture.width) : half * Math.SQRT2
}

/** How far ink reaches from its course, in reference pixels: half a width (and the corner of a square cap), and what stands beyond it. */
export function inkReach({ width, line, join, mitreLimit, hand, casing, shadow, glow, arrow, leader }: Ink): number {
  const stamps = stampReach(line, width)
  // A mitre is as long as its line is wide, at least, and as the limit lets it be, at most.
  const mitre = join === 'mitre' ? mitreLimit : 1
  const edge = Math.max(
    (width / 2) * mitre,
    width * (Math.SQRT1_2 + (hand === 'none' ? 0 : STRAY_REACH)),
    stamps,
    arrow ? arrow.size * width * 1.2 : 0,
    leader ? leader.size * 0.6 : 0,
  )
  const coarse = 2 / SOFT_SCALE
  return (
    Math.max(
      edge + (casing?.width ?? 0) * mitre,
      shadow ? edge + shadow.offset + 3 * shadow.blur + coarse : 0,
      // The bright spot is wider than its line.
      glow ? edge * (glow.spark ? 1.3 : 1) + glow.radius * GLOW_REACH + coarse : 0,
    ) + 1
  )
}

/** Whether ink that has grown differs from what it was only where it grew. A blur, or a large outline, may differ by a shade anywhere. */
export const growsAtHead = ({ line, hand, comes, casing, shadow, glow, taper, arrow, leader, wake, march }: Ink): boolean =>
  (line.kind === 'solid' || line.kind === 'dashed' || line.kind === 'dotted') &&
  hand === 'none' &&
  comes === 'drawn' &&
  !casing &&
  !shadow &&
  !glow &&
  taper === 0 &&
  !arrow &&
  !leader &&
  wake === null &&
  march === 0

/** The bright spot that runs along a glowing line: its length in reference pixels, and its width in widths of the line. */
const SPARK_LENGTH = 120
const SPARK_WIDTH = 1.3

/** Towards the middle of a line that shines its colour goes to white: the widths of these layers, as shares of the line's, and how white each makes it. */
const CORE = [
  { width: 0.56, white: 0.25 },
  { width: 0.36, white: 0.5 },
  { width: 0.18, white: 0.85 },
] as const

/**
 * Paints the ink of a leg: its shadow and its glow, then casing, line and leader.
 * @param over regions that hold all of the ink, in whole output pixels, none of them twice
 */
export function paintInk(
  context: CanvasRenderingContext2D,
  studio: Studio,
  space: CanvasSpace,
  item: InkItem,
  over: readonly Region[],
  tools: InkTools,
): void {
  const { ink, opacity } = item
  const line: LineOnCourse = { ...item, ...ink }
  if (ink.shadow) paintShadow(context, space, broadParts(space, line), ink.shadow, opacity, over, tools.softener)
  if (ink.glow) {
    const strength = ink.glow.strength * item.light * opacity
    const spark = sparkParts(space, item)
    const parts = inkParts(space, { ...line, hand: 'none' }, false)
    paintGlow(context, space, { parts, width: ink.width, glow: ink.glow, strength }, over, tools.softener)
    const bright = { parts: spark, width: ink.width * SPARK_WIDTH, glow: { ...ink.glow, colour: '#ffffff' }, strength: opacity }
    if (spark.length > 0) paintGlow(context, space, bright, over, tools.softener)
  }
  if (opacity >= 1) return paintBody(context, studio, space, item, line)
  // On a layer of its own, so that overlapping parts fade as one.
  const layer = tools.layer(Math.round(space.reference.width * space.scale), Math.round(space.reference.height * space.scale))
  paintBody(layer.context, studio, space, item, line)
  context.setTransform(1, 0, 0, 1, 0, 0)
  context.globalAlpha = opacity
  for (const { x, y, width, height } of over) context.drawImage(layer.image, x, y, width, height, x, y, width, height)
  context.globalAlpha = 1
}

/** Paints the part of a course that is still to be travelled. */
export function paintPlanned(context: CanvasRenderingContext2D, studio: Studio, space: CanvasSpace, item: PlannedItem): void {
  const { course, from, planned } = item
  const line: LineOnCourse = {
    ...item,
    ...planned,
    tail: from,
    head: course.length,
    front: Infinity,
    phase: 0,
    cap: planned.line.kind === 'dashed' ? 'butt' : 'round',
    join: 'round',
    mitreLimit: 1,
    hand: 'none',
    taper: 0,
    comes: 'drawn',
    arrow: null,
  }
  placeInFrame(context, space)
  context.globalAlpha = planned.opacity
  for (const part of inkParts(space, line, false)) {
    if (part.kind === 'shapes' && part.pictures) paintPictures(context, studio, space, part.pictures)
    else paintPart(context, part, planned.colour, 0)
  }
  context.globalAlpha = 1
}

/** How far a planned line reaches from its course, in reference pixels. */
export const plannedReach = ({ planned: { width, line } }: PlannedItem): number =>
  Math.max(width * Math.SQRT1_2, stampReach(line, width)) + 1

function paintBody(context: CanvasRenderingContext2D, studio: Studio, space: CanvasSpace, item: InkItem, line: LineOnCourse): void {
  const { ink } = item
  placeInFrame(context, space)
  if (ink.casing) for (const part of broadParts(space, line)) paintPart(context, part, ink.casing.colour, ink.casing.width)
  const made = inkParts(space, line, ink.gradient.length > 0)
  for (const part of made) if (part.kind === 'shapes' && part.pictures) paintPictures(context, studio, space, part.pictures)
  const parts = made.filter((part) => part.kind !== 'shapes' || !part.pictures)
  if (ink.gradient.length === 0) for (const part of parts) paintPart(context, part, ink.colour, 0)
  else paintGradient(context, item, parts, [ink.colour, ...ink.gradient])
  if (ink.glow) {
    const strength = ink.glow.strength * item.light * shineOf(ink.colour)
    for (const { width, white } of CORE)
      for (const part of parts) paintCore(context, part, mixColours(ink.colour, '#ffffff', white * strength), width)
    for (const part of sparkParts(space, item)) paintPart(context, part, '#ffffff', 0)
  }
  paintLeader(context, space, item)
}

/** How wide a mark of one's own is in the output, in pixels; twice as fine as needed, as tilt may bring it near. */
export const ownStampWidth = (lineWidth: number, scale: number): number => 2 * STAMP_LENGTH * lineWidth * scale

/** Lays the pictures of a part on the ground, each by an affine map of three of its corners: they are small. One that has not loaded yet is not there. */
function paintPictures(
  context: CanvasRenderingContext2D,
  studio: Studio,
  space: CanvasSpace,
  { picture, width, quads }: LaidPictures,
): void {
  const found = studio.wholePicture(picture, ownStampWidth(width / STAMP_LENGTH, space.scale))
  if (!found) return
  smoothly(context, () => {
    for (const { rings } of quads) {
      const [ax, ay, bx, by, , , dx, dy] = rings[0]! as [number, number, number, number, number, number, number, number]
      placeInFrame(context, space)
      context.transform(bx - ax, by - ay, dx - ax, dy - ay, ax, ay)
      context.drawImage(found.image, 0, 0, 1, 1)
    }
  })
  placeInFrame(context, space)
}

/** Paints a part in one colour. @param grow reference pixels by which it is made larger all round */
function paintPart(context: CanvasRenderingContext2D, part: InkPart, colour: string, grow: number): void {
  if (part.kind === 'shapes') return paintShapes(context, part.shapes, colour, grow)
  context.strokeStyle = colour
  paintStrands(context, part.strands, { ...part.stroke, width: part.stroke.width + 2 * grow })
}

/** How much a line in a colour seems to shine by itself, 0 to 1: a dark one only stands before its light, and with a white core would look like a pipe. */
const shineOf = (colour: string): number => clamp((relativeLuminance(colour) - 0.06) / 0.22, 0, 1)

/** Only strokes have a core: the middle of a mark is no line. */
function paintCore(context: CanvasRenderingContext2D, part: InkPart, colour: string, share: number): void {
  if (part.kind === 'shapes') return
  context.strokeStyle = colour
  paintStrands(context, part.strands, { ...part.stroke, width: part.stroke.width * share })
}

/** The most steps of a gradient along a course. */
const GRADIENT_STEPS = 192

/** Paints parts in the colours of a gradient along the whole course, each piece in the colour of its middle. */
function paintGradient(
  context: CanvasRenderingContext2D,
  { course }: InkItem,
  parts: readonly InkPart[],
  colours: [string, ...string[]],
): void {
  const cellOf = (s: number) => Math.min(GRADIENT_STEPS - 1, Math.floor((s / course.length) * GRADIENT_STEPS))
  const colourOf = (cell: number) => gradientAt(colours, (cell + 0.5) / GRADIENT_STEPS)
  for (const part of parts) {
    if (part.kind === 'shapes') {
      for (const shape of part.shapes) paintShapes(context, [shape], colourOf(cellOf(shape.s)), 0)
      continue
    }
    for (const strand of part.strands)
      for (const { cell, strand: piece, isFirst, isLast } of cutByCell(strand, cellOf)) {
        context.strokeStyle = colourOf(cell)
        paintStrands(context, [piece], isFirst || isLast ? part.stroke : { ...part.stroke, cap: 'butt' })
      }
  }
}

function paintShadow(
  context: CanvasRenderingContext2D,
  space: CanvasSpace,
  parts: readonly InkPart[],
  shadow: NonNullable<Ink['shadow']>,
  opacity: number,
  over: readonly Region[],
  softener: Softener,
): void {
  const fall = fallInFrame(space.sun, space.projection)
  const by = { x: fall.x * shadow.offset * space.scale, y: fall.y * shadow.offset * space.scale }
  const above = over.map((region) => ({ ...region, x: region.x - by.x, y: region.y - by.y }))
  const soft = softener.soften(space, parts, '#000000', [{ sigma: shadow.blur, gain: 1 }], above)
  if (!soft) return
  context.globalAlpha = shadow.opacity * opacity
  laySoft(context, soft, over, by)
  context.globalAlpha = 1
}

function sparkParts({ projection }: CanvasSpace, { course, spark, tail, patternZoom, ink }: InkItem): InkPart[] {
  if (spark === null) return []
  const from = Math.max(tail, spark - SPARK_LENGTH / patternZoom)
  const strands = strandsOf(projection, course, [{ from, to: spark }], 4 / patternZoom)
  const swelling = (s: number) => (spark > from ? ((s - from) / (spark - from)) ** 1.5 : 1)
  return [
    {
      kind: 'strands',
      strands: strands.map((strand) => widened(strand, swelling)),
      stroke: { width: SPARK_WIDTH * ink.width, cap: 'round' },
    },
  ]
}

/** The dot or ring at the head of a line on its way. */
function paintLeader(
  context: CanvasRenderingContext2D,
  { projection }: CanvasSpace,
  { course, head, leads, ink: { leader } }: InkItem,
): void {
  if (!leader || !leads) return
  const shape = laidOn(projection, course, head, LEADER_FIGURES[leader.shape], leader.size, 0)
  if (shape) paintShapes(context, [shape], leader.colour, 0)
}
