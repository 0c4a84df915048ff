import { gradientAt, mixColours } from '#core/colour/gradient'
import { clamp } from '#core/geometry/clamp'
import type { InkItem } from '#core/frame/frame'
import type { CanvasSpace } from '../canvas-space'
import { placeInFrame, sizeOf } from '../canvas-space'
import { relativeLuminance } from '../colour'
import { smoothly } from '../picture'
import type { Region } from '../region'
import type { Studio, Surface } from '../studio'
import { eraseEnds, featheredEnds, splitAtEnds } from './feather'
import { paintShapes } from './ground-shape'
import type { InkPart, LaidPictures, LineOnCourse } from './ink-parts'
import { broadParts, FINE_STEP, inkParts, STAMP_LENGTH } from './ink-parts'
import { bodyReach } from './reach'
import type { Softener } from './soft'
import { GAUSSIAN_REACH, laySoft } from './soft'
import { cutByCell } from './strand'
import { paintStrands } from './stroke'

/** The body of a line: its casing and what it is made of, in its colours; with soft edges and feathered ends where it has them. */

/** What ink is painted with besides a canvas. */
export interface InkTools {
  softener: Softener
  /** Cleared surfaces of the size asked for, for one item at a time: for what fades, for feathered ends, and for soft edges. */
  layer: (width: number, height: number) => Surface
  ends: (width: number, height: number) => Surface
  edges: (width: number, height: number) => Surface
}

/** Towards the middle of a line that shines its colour goes to white: the widths of these layers, as shares of the line's, and how white each makes it. */
const CORE = [
  { width: 0.56, white: 0.25 },
  { width: 0.36, white: 0.5 },
  { width: 0.18, white: 0.85 },
] as const

/** Where a body is painted, and with what. */
interface Easel {
  studio: Studio
  space: CanvasSpace
  item: InkItem
  /** Regions that hold all of the ink, in whole output pixels. */
  over: readonly Region[]
  tools: InkTools
}

/** What a body is made of, from the lowest to the uppermost. */
interface Body {
  casing: InkPart[]
  line: InkPart[]
}

export function paintBody(context: CanvasRenderingContext2D, easel: Easel, line: LineOnCourse): void {
  const { space, item, tools, over } = easel
  const { ink, patternZoom } = item
  const ends = featheredEnds(item)
  const body: Body = {
    casing: ink.casing ? broadParts(space, line, ends.length > 0) : [],
    line: inkParts(space, line, ink.gradient.length > 0 || ends.length > 0),
  }
  if (ends.length === 0) return paintEdged(context, easel, body)
  const overlap = (2 + 2 * GAUSSIAN_REACH * ink.soft) / patternZoom
  // Further than its casing, whose edge would be seen on what is whole.
  const further = overlap + FINE_STEP / patternZoom
  const [casing, drawn] = [splitAtEnds(body.casing, ends, overlap), splitAtEnds(body.line, ends, further)]
  paintEdged(context, easel, { casing: casing.whole, line: drawn.whole })
  const { width, height } = sizeOf(space)
  const layer = tools.ends(width, height)
  paintEdged(layer.context, easel, { casing: casing.feathered, line: drawn.feathered })
  placeInFrame(layer.context, space)
  eraseEnds(layer.context, space.projection, item, ends, bodyReach(ink))
  layOver(context, layer, over)
}

/** Paints a body with its edges, sharp or soft. */
function paintEdged(context: CanvasRenderingContext2D, easel: Easel, { casing, line }: Body): void {
  const { ink } = easel.item
  const around = ink.casing?.width ?? 0
  if (casing.length > 0)
    softly(context, easel, casing, around, (canvas, grow) => paintAll(canvas, casing, ink.casing!.colour, around + grow))
  for (const part of line) if (part.kind === 'shapes' && part.pictures) paintPictures(context, easel, part.pictures)
  const parts = line.filter((part) => part.kind !== 'shapes' || !part.pictures)
  softly(context, easel, parts, 0, (canvas, grow) => paintColours(canvas, easel.item, parts, grow))
}

/**
 * Paints something with soft edges, if its line has them: it is painted larger, and what is seen of it is the blurred shape of its parts.
 * @param grown reference pixels by which the parts are to be larger all round
 * @param paint paints it sharply, so much larger still
 */
function softly(
  context: CanvasRenderingContext2D,
  { space, item, over, tools }: Easel,
  parts: readonly InkPart[],
  grown: number,
  paint: (context: CanvasRenderingContext2D, grow: number) => void,
): void {
  const { soft } = item.ink
  placeInFrame(context, space)
  if (soft === 0) return paint(context, 0)
  const mask = tools.softener.soften(space, parts, '#000000', [{ sigma: soft, gain: 1 }], over, { grow: grown })
  if (!mask) return
  const { width, height } = sizeOf(space)
  const layer = tools.edges(width, height)
  placeInFrame(layer.context, space)
  paint(layer.context, GAUSSIAN_REACH * soft)
  layer.context.globalCompositeOperation = 'destination-in'
  laySoft(layer.context, mask, over, { x: 0, y: 0 })
  layer.context.globalCompositeOperation = 'source-over'
  layOver(context, layer, over)
  placeInFrame(context, space)
}

/** Lays regions of a layer of the frame's size over a canvas. */
export function layOver(context: CanvasRenderingContext2D, { image }: Surface, over: readonly Region[]): void {
  context.setTransform(1, 0, 0, 1, 0, 0)
  for (const { x, y, width, height } of over) context.drawImage(image, x, y, width, height, x, y, width, height)
}

function paintColours(context: CanvasRenderingContext2D, item: InkItem, parts: readonly InkPart[], grow: number): void {
  const { ink } = item
  const paint = (some: readonly InkPart[], colourOf: (colour: string) => string, more: number) => {
    if (ink.gradient.length === 0) paintAll(context, some, colourOf(ink.colour), more)
    else paintGradient(context, item, some, [colourOf(ink.colour), ...ink.gradient.map(colourOf)], more)
  }
  paint(parts, (colour) => colour, grow)
  if (!ink.glow) return
  const strength = ink.glow.strength * item.light
  for (const { width, white } of CORE)
    paint(coresOf(parts, width), (colour) => mixColours(colour, '#ffffff', white * strength * shineOf(colour)), 0)
}

/** How wide a mark of one's own is in the output, in pixels; twice as fine as needed, as tilt may bring it near. */
export const ownStampWidth = (lineWidth: number, scale: number): number => 2 * STAMP_LENGTH * lineWidth * scale

/** Lays the pictures of a part on the ground, each by an affine map of three of its corners: they are small. One that has not loaded yet is not there. */
export function paintPictures(
  context: CanvasRenderingContext2D,
  { studio, space }: Pick<Easel, 'studio' | 'space'>,
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
export function paintPart(context: CanvasRenderingContext2D, part: InkPart, colour: string, grow: number): void {
  if (part.kind === 'shapes') return paintShapes(context, part.shapes, colour, grow)
  context.strokeStyle = colour
  paintStrands(context, part.strands, { ...part.stroke, width: part.stroke.width + 2 * grow })
}

const paintAll = (context: CanvasRenderingContext2D, parts: readonly InkPart[], colour: string, grow: number): void =>
  parts.forEach((part) => paintPart(context, part, colour, grow))

/** How much a line in a colour seems to shine by itself, 0 to 1: a dark one only stands before its light, and with a white core would look like a pipe. */
const shineOf = (colour: string): number => clamp((relativeLuminance(colour) - 0.06) / 0.22, 0, 1)

/** The cores of parts, of some share of their width. Only strokes have one: the middle of a mark is no line. */
const coresOf = (parts: readonly InkPart[], share: number): InkPart[] =>
  parts.flatMap((part) => (part.kind === 'shapes' ? [] : [{ ...part, stroke: { ...part.stroke, width: part.stroke.width * share } }]))

/** The most steps of a gradient along a course. */
const GRADIENT_STEPS = 192

/** Paints parts in the colours of a gradient along the whole course, each piece in the colour of its middle. */
function paintGradient(
  context: CanvasRenderingContext2D,
  { course }: InkItem,
  parts: readonly InkPart[],
  colours: [string, ...string[]],
  grow: number,
): void {
  const cellOf = (s: number) => Math.min(GRADIENT_STEPS - 1, Math.floor((s / course.length) * GRADIENT_STEPS))
  const colourOf = (cell: number) => gradientAt(colours, (cell + 0.5) / GRADIENT_STEPS)
  for (const part of parts) {
    if (part.kind === 'shapes') {
      for (const shape of part.shapes) paintShapes(context, [shape], colourOf(cellOf(shape.s)), grow)
      continue
    }
    const stroke = { ...part.stroke, width: part.stroke.width + 2 * grow }
    for (const strand of part.strands)
      for (const { cell, strand: piece, isFirst, isLast } of cutByCell(strand, cellOf)) {
        context.strokeStyle = colourOf(cell)
        paintStrands(context, [piece], isFirst || isLast ? stroke : { ...stroke, cap: 'butt' })
      }
  }
}
