import { fallInFrame } from '#core/camera/sun'
import type { InkItem, PlannedItem } from '#core/frame/frame'
import type { Ink } from '#core/journey/schema'
import type { CanvasSpace } from '../canvas-space'
import { placeInFrame, sizeOf } from '../canvas-space'
import type { Region } from '../region'
import type { Studio } from '../studio'
import type { InkTools } from './body'
import { layOver, paintBody, paintPart, paintPictures } from './body'
import { eraseEnds, featheredEnds } from './feather'
import { paintGlow } from './glow'
import { laidOn, paintShapes } from './ground-shape'
import type { InkPart, LineOnCourse } from './ink-parts'
import { broadParts, inkParts } from './ink-parts'
import { bodyReach } from './reach'
import type { Erase, Softener } from './soft'
import { laySoft } from './soft'
import { LEADER_FIGURES } from './stamps'
import { strandsOf, widened } from './strand'

/** Whether ink that has grown differs from what it was only where it grew. A blur, or a large outline, may differ by a shade anywhere. */
export const growsAtHead = ({ line, hand, comes, casing, shadow, glow, taper, soft, feather, arrow, leader, wake, march }: Ink): boolean =>
  (line.kind === 'solid' || line.kind === 'dashed' || line.kind === 'dotted') &&
  hand === 'none' &&
  comes === 'drawn' &&
  !casing &&
  !shadow &&
  !glow &&
  taper === 0 &&
  soft === 0 &&
  feather === 0 &&
  !arrow &&
  !leader &&
  wake === null &&
  march === 0

/** The bright spot that runs along a glowing line: its length in reference pixels, and its width in widths of the line. */
const SPARK_LENGTH = 120
const SPARK_WIDTH = 1.3

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
  const ends = featheredEnds(item)
  const erase =
    ends.length > 0 ? (mask: CanvasRenderingContext2D) => eraseEnds(mask, space.projection, item, ends, bodyReach(ink)) : undefined
  if (ink.shadow) paintShadow(context, space, item, broadParts(space, line), over, { softener: tools.softener, erase })
  if (ink.glow) {
    const strength = ink.glow.strength * item.light * opacity
    const spark = sparkParts(space, item)
    const parts = inkParts(space, { ...line, hand: 'none' }, false)
    paintGlow(context, space, { parts, width: ink.width, glow: ink.glow, strength }, over, tools.softener, erase)
    const bright = { parts: spark, width: ink.width * SPARK_WIDTH, glow: { ...ink.glow, colour: '#ffffff' }, strength: opacity }
    if (spark.length > 0) paintGlow(context, space, bright, over, tools.softener)
  }
  const easel = { studio, space, item, over, tools }
  const whole = (canvas: CanvasRenderingContext2D) => {
    paintBody(canvas, easel, line)
    placeInFrame(canvas, space)
    for (const part of sparkParts(space, item)) paintPart(canvas, part, '#ffffff', 0)
    paintLeader(canvas, space, item)
  }
  if (opacity >= 1) return whole(context)
  // On a layer of its own, so that overlapping parts fade as one.
  const { width, height } = sizeOf(space)
  const layer = tools.layer(width, height)
  whole(layer.context)
  context.globalAlpha = opacity
  layOver(context, layer, over)
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
    if (part.kind === 'shapes' && part.pictures) paintPictures(context, { studio, space }, part.pictures)
    else paintPart(context, part, planned.colour, 0)
  }
  context.globalAlpha = 1
}

function paintShadow(
  context: CanvasRenderingContext2D,
  space: CanvasSpace,
  { ink, opacity }: InkItem,
  parts: readonly InkPart[],
  over: readonly Region[],
  { softener, erase }: { softener: Softener; erase: Erase | undefined },
): void {
  const shadow = ink.shadow!
  const fall = fallInFrame(space.sun, space.projection)
  const by = { x: fall.x * shadow.offset * space.scale, y: fall.y * shadow.offset * space.scale }
  const above = over.map((region) => ({ ...region, x: region.x - by.x, y: region.y - by.y }))
  const soft = softener.soften(space, parts, '#000000', [{ sigma: shadow.blur, gain: 1 }], above, { erase })
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
