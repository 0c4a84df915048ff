import { append } from '#core/geometry/extremes'
import { leftOf, textBox, UNDERLINE } from '#core/marks/label-layout'
import type { PartState } from '#core/marks/reveal'
import { partAt, partsOf, SEEN } from '#core/marks/reveal'
import type { Point } from '#core/geometry/point'
import type { Appears, TextStyle } from '#core/journey/schema'
import type { Align, Line, TextBlock } from '#core/type/block'
import { digitWidth } from '#core/type/measure'
import { translucent } from '../colour'
import { setFont } from './fonts'

/** A text to be painted, in the context's units: reference pixels. */
export interface PaintedText {
  block: TextBlock
  style: TextStyle
  align: Align
  /** Where its lines begin, are centred or end, and the top of its block. */
  x: number
  top: number
  appears: Appears
  /** In how many parts it appears. */
  parts: number
  /** Seconds since it began to appear; null once it has settled. */
  elapsed: number | null
  /** About which point it grows while it appears as a whole. */
  pivot: Point
  /** Output pixels to the context's unit, for shadows, which are not scaled with the rest, and the direction in which these fall. */
  scale: number
  fall: Point
}

/** A part of a line, with its place and how far it has appeared. */
interface Piece {
  line: Line
  text: string
  x: number
  baseline: number
  width: number
  state: PartState
}

/** The shadow's blur and its offset, in letter sizes. */
const SHADOW_BLUR = 0.28
const SHADOW_DROP = 0.09

const DIGIT = /[0-9]/

/** Paints a text: its plate, the halos of all its letters, then the letters. What appears as a whole is not faded here: see createFader. */
export function paintText(context: CanvasRenderingContext2D, painted: PaintedText): void {
  const { block, style, appears, elapsed, parts, pivot } = painted
  if (block.lines.length === 0) return
  const whole = elapsed !== null && appears.by === 'whole' ? partAt(appears, 1, 0, elapsed) : SEEN
  const first = elapsed === null || appears.by === 'whole' ? SEEN : partAt(appears, parts, 0, elapsed)
  context.save()
  context.translate(pivot.x, pivot.y + whole.rise * style.size)
  context.scale(whole.scale, whole.scale)
  context.translate(-pivot.x, -pivot.y)
  if (whole.seen < 1) clipTo(context, painted, whole.seen)
  const pieces = piecesOf(context, painted)
  context.globalAlpha = first.opacity
  if (style.plate) {
    castShadow(context, painted)
    paintPlate(context, painted)
    noShadow(context)
  }
  context.textAlign = 'left'
  context.textBaseline = 'alphabetic'
  context.lineJoin = 'round'
  context.strokeStyle = style.halo?.colour ?? style.colour
  context.fillStyle = style.colour
  const halos = () => {
    for (const piece of style.halo ? pieces : []) {
      context.lineWidth = piece.line.size * style.halo!.width * 2
      paintPiece(context, piece, 'strokeText')
    }
  }
  const letters = () => pieces.forEach((piece) => paintPiece(context, piece, 'fillText'))
  if (style.plate === null || style.plate.shape === 'underline') {
    if (isInParts(painted)) shadowAlone(context, painted, style.halo ? halos : letters)
    else castShadow(context, painted)
  }
  halos()
  // Letters on a halo cast none of their own.
  if (style.halo) noShadow(context)
  letters()
  context.restore()
}

/** Whether a text comes part by part: the shadow of each part would fall on those before it. What is wiped is clipped, and has its shadow with it. */
const isInParts = ({ appears: { by, style }, elapsed }: PaintedText): boolean => elapsed !== null && by !== 'whole' && style !== 'wipe'

/** So far beside the frame, in the context's units, parts are painted of which only the shadow is to be seen. */
const ASIDE = 20_000

/** Paints the shadow of something, and not the thing itself: that is beside the frame, and casts its shadow into it. */
function shadowAlone(context: CanvasRenderingContext2D, painted: PaintedText, paint: () => void): void {
  if (painted.style.shadow === 0) return
  context.save()
  castShadow(context, painted)
  context.shadowOffsetX += ASIDE * painted.scale
  context.translate(-ASIDE, 0)
  paint()
  context.restore()
}

function paintPiece(context: CanvasRenderingContext2D, piece: Piece, how: 'strokeText' | 'fillText'): void {
  const { line, text, x, baseline, width, state } = piece
  if (state.opacity <= 0 || state.seen <= 0) return
  setFont(context, line.size, line)
  context.globalAlpha = state.opacity
  if (state === SEEN) return context[how](text, x, baseline)
  context.save()
  const middle = { x: x + width / 2, y: baseline - line.size * 0.3 }
  context.translate(middle.x, middle.y + state.rise * line.size)
  context.scale(state.scale, state.scale)
  context.translate(-middle.x, -middle.y)
  if (state.seen < 1) {
    context.beginPath()
    context.rect(x - line.size, baseline - 2 * line.size, line.size + (width + line.size) * state.seen, 4 * line.size)
    context.clip()
  }
  context[how](text, x, baseline)
  context.restore()
}

/** The parts of a text's lines where they belong. */
function piecesOf(context: CanvasRenderingContext2D, { block, align, x, top, appears, parts, elapsed }: PaintedText): Piece[] {
  const pieces: Piece[] = []
  let k = 0
  for (const line of block.lines) {
    setFont(context, line.size, line)
    const measure = (text: string) => context.measureText(text).width
    // A canvas counts the room after the last letter too.
    const width = line.isTabular ? line.width : measure(line.text)
    const start = leftOf({ ...block, width: width - line.size * line.spacing }, align, x)
    const baseline = top + line.baseline
    const texts = elapsed === null ? [line.text] : partsOf(line.text, appears.by)
    let before = ''
    for (const text of texts) {
      const state = elapsed === null || appears.by === 'whole' ? SEEN : partAt(appears, parts, k, elapsed)
      // As the letter before it has it: kerning moves a letter nearer to another, so that they would jump when the whole line is painted.
      const at = start + widthOf(line, before + text, measure) - widthOf(line, text, measure)
      if (line.isTabular)
        append(
          pieces,
          digits(line, text, at, measure).map((digit) => ({ ...digit, line, baseline, state })),
        )
      else pieces.push({ line, text, x: at, baseline, width: measure(text), state })
      before += text
      k++
    }
  }
  return pieces
}

const cellOf = (line: Line): number => (digitWidth(line) + line.spacing) * line.size

const widthOf = (line: Line, text: string, measure: (text: string) => number): number =>
  line.isTabular ? [...text].reduce((sum, letter) => sum + (DIGIT.test(letter) ? cellOf(line) : measure(letter)), 0) : measure(text)

/** The letters of a running figure, each digit in the middle of a cell as wide as the widest. */
function digits(line: Line, text: string, from: number, measure: (text: string) => number): { text: string; x: number; width: number }[] {
  let at = from
  return [...text].map((letter) => {
    const own = measure(letter)
    const cell = DIGIT.test(letter) ? cellOf(line) : own
    const piece = { text: letter, x: at + (cell - own) / 2, width: own }
    at += cell
    return piece
  })
}

/** What a text covers with its plate, where it stands. */
function boxOf({ block, style, align, x, top }: PaintedText) {
  const box = textBox(block, style)
  const left = leftOf(block, align, x)
  return { x: left + box.left, y: top + box.top, width: box.right - box.left, height: box.bottom - box.top }
}

/** Leaves only the left part of a text to be seen. */
function clipTo(context: CanvasRenderingContext2D, painted: PaintedText, share: number): void {
  const { x, y, width, height } = boxOf(painted)
  const room = painted.style.size
  context.beginPath()
  context.rect(x - room, y - room, room + (width + room) * share, height + 2 * room)
  context.clip()
}

function castShadow(context: CanvasRenderingContext2D, { style, scale, fall }: PaintedText): void {
  if (style.shadow === 0) return
  context.shadowColor = translucent('#060b14', 0.75 * style.shadow)
  context.shadowBlur = 2 * SHADOW_BLUR * style.size * scale
  context.shadowOffsetX = fall.x * SHADOW_DROP * style.size * scale
  context.shadowOffsetY = fall.y * SHADOW_DROP * style.size * scale
}

function noShadow(context: CanvasRenderingContext2D): void {
  context.shadowColor = 'transparent'
  context.shadowBlur = 0
  context.shadowOffsetX = 0
  context.shadowOffsetY = 0
}

/** The corners of a rounded plate, and how deep the ends of a banner are cut, in letter sizes. */
const CORNER = 0.24
const NOTCH = 0.3

function paintPlate(context: CanvasRenderingContext2D, painted: PaintedText): void {
  const { plate, size } = painted.style
  if (!plate) return
  const { x, y, width, height } = boxOf(painted)
  const opacity = context.globalAlpha
  context.globalAlpha = opacity * plate.opacity
  context.fillStyle = plate.colour
  context.beginPath()
  switch (plate.shape) {
    case 'box':
      context.rect(x, y, width, height)
      break
    case 'rounded':
      context.roundRect(x, y, width, height, CORNER * size)
      break
    case 'pill':
      context.roundRect(x, y, width, height, height / 2)
      break
    case 'banner': {
      const [left, right, middle, bottom] = [x - NOTCH * size, x + width + NOTCH * size, y + height / 2, y + height]
      context.moveTo(left, y)
      context.lineTo(right, y)
      context.lineTo(right - NOTCH * size, middle)
      context.lineTo(right, bottom)
      context.lineTo(left, bottom)
      context.lineTo(left + NOTCH * size, middle)
      context.closePath()
      break
    }
    case 'underline':
      context.rect(x, y + height - UNDERLINE.width * size, width, UNDERLINE.width * size)
      break
    default:
      plate.shape satisfies never
  }
  context.fill()
  context.globalAlpha = opacity
}
