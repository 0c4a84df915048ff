import { greatest } from '../geometry/extremes'
import { remembered } from '../remembered'
import { radians } from '../geometry/angle'
import type { Box } from '../geometry/box'
import { movedBox } from '../geometry/box'
import { clamp } from '../geometry/clamp'
import type { Point } from '../geometry/point'
import type { Size } from '../geometry/size'
import type { CardFrame, PhotoCrop, Pin, Postcard } from '../journey/schema'
import { brokenInto } from '../type/block'
import { HOUSE_FACE, textWidth } from '../type/measure'
import { besidePin } from './pins'

/** How postcards are laid out. Lengths are in reference pixels, from a card's middle, before it is tilted. */

/** The border of each frame at its sides, as a share of the card's size. */
const BORDER: Readonly<Record<CardFrame, number>> = { print: 0.045, plate: 0.028, torn: 0.06, round: 0.03, plain: 0, cinema: 0 }

/** Letters under a photo and alone, as shares of the card's size; the space between lines, in letters; and the air round a text on a band. */
const CAPTION = 0.072
const LETTERS = 0.105
export const CARD_LEADING = 1.22
const AIR = 0.7

/** The bars above and below a picture in a cinema's frame, as a share of the card's size, and the shape of that picture (2.35 to 1, common practice, no source). */
const BAR = 0.065
const CINEMA = 2.35

/** The gap between a postcard and its pin, and the least gap to the frame's edges. */
const GAP = 16
const MARGIN = 24

export interface CardLayout extends Size {
  border: number
  photo: Box | undefined
  lines: readonly string[]
  /** The letters' size. */
  letters: number
  /** What the text is centred in: a band of its own in some frames. */
  text: Box
}

/** The layout of a card; the same object for the same card. */
export const layoutOf = remembered((card: Postcard): CardLayout => (card.photo ? aroundPhoto(card, photoSize(card)!) : alone(card)))

/** The part of its photo that a card shows, as shares of the photo's width and height: what it is cropped to, and of that what its frame takes. */
export function shownPart({ photo, crop, frame }: Pick<Postcard, 'photo' | 'crop' | 'frame'>): PhotoCrop {
  const part = crop ?? { left: 0, top: 0, right: 1, bottom: 1 }
  const wanted = frame === 'round' ? 1 : frame === 'cinema' ? CINEMA : undefined
  if (!photo || wanted === undefined) return part
  const [width, height] = [(part.right - part.left) * photo.width, (part.bottom - part.top) * photo.height]
  const [x, y] = [(part.left + part.right) / 2, (part.top + part.bottom) / 2]
  // From the middle, the largest part of the wanted shape.
  const [halfWidth, halfHeight] = [Math.min(width, height * wanted) / photo.width / 2, Math.min(height, width / wanted) / photo.height / 2]
  return { left: x - halfWidth, right: x + halfWidth, top: y - halfHeight, bottom: y + halfHeight }
}

/** The size of what is seen of a card's photo. */
function photoSize(card: Postcard): Size | undefined {
  const { photo, size, frame } = card
  if (!photo) return undefined
  const { left, top, right, bottom } = shownPart(card)
  const [width, height] = [(right - left) * photo.width, (bottom - top) * photo.height]
  const k = (size * (1 - 2 * BORDER[frame])) / Math.max(width, height)
  return { width: width * k, height: height * k }
}

/** How wide the whole photo of a card would be in the output, in pixels, part of which is seen. @param scale output pixels per reference pixel */
export function wholeWidth(card: Postcard, scale: number): number {
  const { left, right } = shownPart(card)
  return ((photoSize(card)?.width ?? 0) * scale) / (right - left)
}

const linesOf = (text: string, widest: number): string[] => (text.trim() === '' ? [] : brokenInto(text, HOUSE_FACE, widest))

function aroundPhoto({ size, frame, text }: Postcard, { width, height }: Size): CardLayout {
  const border = size * BORDER[frame]
  const letters = size * CAPTION
  const lines = linesOf(text, width / letters)
  const words = lines.length * letters * CARD_LEADING
  // In a band of its own a text needs air; in a border there is some.
  const isBanded = frame === 'plate' || frame === 'plain'
  const band = lines.length === 0 ? 0 : words + (isBanded ? AIR * letters : 0)
  const half = { x: width / 2, y: height / 2 }
  const photo = (top: number): Box => ({ left: -half.x, right: half.x, top, bottom: top + height })
  switch (frame) {
    case 'print':
    case 'plate':
    case 'torn':
    case 'plain': {
      const whole = { width: width + 2 * border, height: height + 2 * border + band }
      const top = -whole.height / 2 + border
      // A text in the border is in the middle of the room below the photo.
      const below = { left: -half.x, right: half.x, top: top + height, bottom: isBanded ? top + height + band : whole.height / 2 }
      return { ...whole, border, photo: photo(top), lines, letters, text: below }
    }
    case 'cinema': {
      const bar = size * BAR
      const foot = Math.max(bar, lines.length === 0 ? 0 : words + AIR * letters)
      const whole = { width, height: height + bar + foot }
      const top = -whole.height / 2 + bar
      return {
        ...whole,
        border,
        photo: photo(top),
        lines,
        letters,
        text: { left: -half.x, right: half.x, top: top + height, bottom: whole.height / 2 },
      }
    }
    case 'round': {
      const pill = pillOf(lines, letters)
      // The text lies half over the disc's lower edge.
      const whole = { width: Math.max(size, pill.width), height: size + pill.height / 2 }
      const top = -whole.height / 2 + border
      const bottom = whole.height / 2
      return {
        ...whole,
        border,
        photo: photo(top),
        lines,
        letters,
        text: { left: -pill.width / 2, right: pill.width / 2, top: bottom - pill.height, bottom },
      }
    }
    default:
      return frame satisfies never
  }
}

function pillOf(lines: readonly string[], letters: number): Size {
  if (lines.length === 0) return { width: 0, height: 0 }
  const widest = greatest(lines.map((line) => textWidth(line, HOUSE_FACE)))
  return { width: (widest + 2 * AIR) * letters, height: (lines.length * CARD_LEADING + AIR) * letters }
}

function alone({ size, frame, text }: Postcard): CardLayout {
  const border = size * BORDER.print
  const letters = size * LETTERS
  const lines = linesOf(text, (size - 4 * border) / letters)
  const height = Math.max(lines.length * letters * CARD_LEADING + 4 * border, size * (frame === 'round' ? 0.2 : 0.3))
  return {
    width: size,
    height,
    border,
    photo: undefined,
    lines,
    letters,
    text: { left: -size / 2, right: size / 2, top: -height / 2, bottom: height / 2 },
  }
}

/** The upright bounding box of a card in its tilt. */
function tiltedSize({ width, height }: Size, { tilt }: Pick<Postcard, 'tilt'>): Size {
  const [cos, sin] = [Math.cos(radians(tilt)), Math.abs(Math.sin(radians(tilt)))]
  return { width: width * cos + height * sin, height: width * sin + height * cos }
}

/** Where a stop is in the frame, and how large what stands there is seen. */
export interface Home extends Point {
  scale: number
}

/** What a card lies beside: its pin, and what vehicles cover that rest there, about its stop. */
export interface CardNeighbours {
  pin: Pin
  clearOf: Box
}

/** The middle of a card, in reference pixels from its stop. One beside its pin is moved just far enough to lie within the frame, if its stop does. */
export function cardMiddle(card: Postcard, { pin, clearOf }: CardNeighbours, home: Home, reference: Size): Point {
  if (card.place.kind === 'free') return { x: card.place.x, y: card.place.y }
  const upright = tiltedSize(layoutOf(card), card)
  const middle = besidePin(pin, clearOf, card.place.side, upright, GAP)
  const { x, y, scale: k } = home
  if (x < 0 || y < 0 || x > reference.width || y > reference.height) return middle
  const within = (at: number, half: number, side: number) => {
    const most = side - MARGIN - half
    return MARGIN + half > most ? side / 2 : clamp(at, MARGIN + half, most)
  }
  return {
    x: (within(x + k * middle.x, (k * upright.width) / 2, reference.width) - x) / k,
    y: (within(y + k * middle.y, (k * upright.height) / 2, reference.height) - y) / k,
  }
}

/** What a card covers about its stop, in reference pixels. */
export function cardBox(card: Postcard, neighbours: CardNeighbours, home: Home, reference: Size): Box {
  const { width, height } = tiltedSize(layoutOf(card), card)
  const { x, y } = cardMiddle(card, neighbours, home, reference)
  return movedBox({ left: -width / 2, right: width / 2, top: -height / 2, bottom: height / 2 }, x, y)
}
