import type { Box } from '../geometry/box'
import type { Point } from '../geometry/point'
import type { Segment } from '../geometry/segment'
import type { Size } from '../geometry/size'
import type { Label, Pin, Side, TextStyle } from '../journey/schema'
import type { Align, TextBlock } from '../type/block'
import { setBlock, WIDEST } from '../type/block'
import { pinBox } from './pins'

/** A name wider than this share of the frame is broken into lines. */
const FRAME_SHARE = 0.45

/** The distance of a label from its pin, in letter sizes; at a corner it is nearer. */
const GAP = 0.32
const CORNER_GAP = 0.4 * GAP

/** How far a plate reaches beyond the text, in letter sizes. */
const PLATE = { aside: 0.42, above: 0.34, below: 0.36 } as const

/** The line under a text lies so far below it, in letter sizes. */
export const UNDERLINE = { gap: 0.3, width: 0.07 } as const

/** How far beyond its distance from the pin a label must lie for a line to lead to it, in letter sizes. */
export const LED_FROM = 0.9

/** The line begins so far from the pin, in letter sizes. */
const LEADER_GAP = 0.12

/** A label set and placed: reference pixels from its stop. */
export interface LabelLayout {
  block: TextBlock
  align: Align
  /** Where its lines begin, are centred or end, and the top of its block. */
  x: number
  top: number
  leader: Segment | null
  /** How far it may be moved to stay in the frame: least and greatest movements, aside and down. */
  play: Box
}

/** Sets the text of a label. */
export const setLabel = (name: string, second: string, style: TextStyle, reference: Size): TextBlock =>
  setBlock([{ text: name }, { text: second, isSmall: true }], style, Math.min(WIDEST * style.size, FRAME_SHARE * reference.width))

/** What a text covers, with its plate and halo, from the left end of its lines and the top of its block. */
export function textBox(block: TextBlock, { size, plate, halo }: TextStyle): Box {
  const rim = (halo?.width ?? 0) * size
  if (plate?.shape === 'underline')
    return { left: -rim, right: block.width + rim, top: -rim, bottom: block.height + (UNDERLINE.gap + UNDERLINE.width) * size }
  if (plate)
    return { left: -PLATE.aside * size, right: block.width + PLATE.aside * size, top: -PLATE.above * size, bottom: block.height + PLATE.below * size } // prettier-ignore
  return { left: -rim, right: block.width + rim, top: -rim, bottom: block.height + Math.max(rim, block.below) }
}

/** The left end of a block's lines, where they are aligned at x. */
export const leftOf = ({ width }: TextBlock, align: Align, x: number): number =>
  align === 'left' ? x : align === 'right' ? x - width : x - width / 2

/** What a placed label covers, in reference pixels from its stop. */
export function labelBox({ block, align, x, top }: Pick<LabelLayout, 'block' | 'align' | 'x' | 'top'>, style: TextStyle): Box {
  const box = textBox(block, style)
  const left = leftOf(block, align, x)
  return { left: box.left + left, right: box.right + left, top: box.top + top, bottom: box.bottom + top }
}

/**
 * Where a label lies on a side of its pin.
 * @param further how much further away than usual, in letter sizes
 */
export function besideAt(pin: Pin, side: Side, style: TextStyle, block: TextBlock, further = 0): Pick<LabelLayout, 'align' | 'x' | 'top'> {
  const { size, plate } = style
  const { left, right, top, bottom } = pinBox(pin)
  const gap = ((side.includes('-') ? CORNER_GAP : GAP) + further) * size
  const room = plate && plate.shape !== 'underline' ? PLATE : { aside: 0, above: 0, below: plate ? UNDERLINE.gap : 0 }
  const [isRight, isLeft] = [side.endsWith('right'), side.endsWith('left')]
  const x = isRight ? right + gap + room.aside * size : isLeft ? left - gap - room.aside * size : (left + right) / 2
  const y = side.startsWith('top')
    ? top - gap - room.below * size - block.height
    : side.startsWith('bottom')
      ? bottom + gap + room.above * size
      : (top + bottom) / 2 - block.height / 2
  return { x, top: y, align: isRight ? 'left' : isLeft ? 'right' : 'center' }
}

/** Where an automatic label has been placed. */
export interface FoundPlace {
  side: Side
  /** How much further away than usual, in letter sizes. */
  further: number
}

/** Sets and places a label. @param found its place, where it is to be automatic */
export function layLabel(label: Label, pin: Pin, block: TextBlock, found: FoundPlace): LabelLayout {
  const { style, place } = label
  const at = ((): Pick<LabelLayout, 'align' | 'x' | 'top'> => {
    switch (place.kind) {
      case 'automatic':
        return besideAt(pin, found.side, style, block, found.further)
      case 'side':
        return besideAt(pin, place.side, style, block)
      case 'free':
        return { x: place.x, top: place.y - block.height / 2, align: 'center' }
      default:
        return place satisfies never
    }
  })()
  const laid = { block, ...at }
  const box = labelBox(laid, style)
  const play = place.kind === 'free' ? ANYWHERE : playBeside(place.kind === 'side' ? place.side : found.side, box, pin)
  return { ...laid, leader: label.leader ? leaderTo(box, pinBox(pin), style.size) : null, play }
}

/** What is put somewhere by hand may be moved as far as it takes. */
const ANYWHERE: Box = { left: -1e5, right: 1e5, top: -1e5, bottom: 1e5 }

/** How far a label may be moved without leaving its side of the pin: along that, as long as a part of it is still beside the pin. */
export function playBeside(side: Side, box: Box, pin: Pin): Box {
  const own = pinBox(pin)
  return side === 'left' || side === 'right'
    ? { left: 0, right: 0, top: Math.min(0, own.top - box.bottom), bottom: Math.max(0, own.bottom - box.top) }
    : { left: Math.min(0, own.left - box.right), right: Math.max(0, own.right - box.left), top: 0, bottom: 0 }
}

/** Labels keep so far from the frame's edges where they can, as a share of its sides: what lies further out may be cut off (EBU R 95, 2017; from memory). */
const MARGIN = 0.05

/** By how much a box in the frame is moved to stay within its margins, as far as its play lets it. */
export function movedIn(box: Box, play: Box, frame: Size): Point {
  const along = (low: number, high: number, room: number, least: number, most: number) => {
    const margin = MARGIN * room
    return low < margin ? Math.min(margin - low, most) : high > room - margin ? Math.max(room - margin - high, least) : 0
  }
  return {
    x: along(box.left, box.right, frame.width, play.left, play.right),
    y: along(box.top, box.bottom, frame.height, play.top, play.bottom),
  }
}

/** Whether a box is wholly in the frame. */
export const isWhole = ({ left, right, top, bottom }: Box, { width, height }: Size): boolean =>
  left >= 0 && top >= 0 && right <= width && bottom <= height

/** Whether a box keeps its distance from the frame's edges. */
export const isSafe = ({ left, top, right, bottom }: Box, { width, height }: Size): boolean =>
  left >= MARGIN * width && top >= MARGIN * height && right <= (1 - MARGIN) * width && bottom <= (1 - MARGIN) * height

/** A label moved by so much, with the line that leads to it. */
export function movedLabel<L extends LabelLayout>(label: L, by: Point, pin: Pin, style: TextStyle): L {
  const moved = { ...label, x: label.x + by.x, top: label.top + by.y }
  return { ...moved, leader: label.leader && leaderTo(labelBox(moved, style), pinBox(pin), style.size) }
}

/** The line from a pin towards its middle to the nearest spot of a label, from edge to edge; none where the label is near. @param own the box of the pin */
export function leaderTo(box: Box, own: Box, size: number): Segment | null {
  const middle = { x: (own.left + own.right) / 2, y: (own.top + own.bottom) / 2 }
  const to = { x: Math.min(Math.max(middle.x, box.left), box.right), y: Math.min(Math.max(middle.y, box.top), box.bottom) }
  const [dx, dy] = [to.x - middle.x, to.y - middle.y]
  const away = Math.hypot(dx, dy)
  if (away === 0) return null
  // The pin's edge in that direction, as that of an ellipse.
  const [a, b] = [Math.max(1, (own.right - own.left) / 2), Math.max(1, (own.bottom - own.top) / 2)]
  const edge = away / Math.hypot(dx / a, dy / b)
  if (away - edge < LED_FROM * size) return null
  const start = edge + LEADER_GAP * size
  return { from: { x: middle.x + (dx / away) * start, y: middle.y + (dy / away) * start }, to }
}
