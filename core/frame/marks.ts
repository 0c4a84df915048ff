import type { Size } from '../geometry/size'
import type { Point } from '../geometry/point'
import type { Label, Pin, Postcard } from '../journey/schema'
import { overshoot, smooth } from '../pace/easing'

/** Pins and labels begin to appear this many seconds before arrival, labels a little later, and take a moment to settle. */
const LEAD = 0.2
const MOMENT = 0.4
const LABEL_LAG = 0.12

/** The delay of a postcard after arrival, when the pin has settled, and how long it takes to disappear, in seconds. */
const POSTCARD_LAG = 0.2
const POSTCARD_LEAVE = 0.3

export interface Appearance {
  scale: number
  opacity: number
}

/** What a mark has come to in the end. */
export const SETTLED: Appearance = { scale: 1, opacity: 1 }

/** How far a mark has appeared at time t; undefined while there is nothing to see. It has settled by the last frame shown. */
export function appearanceAt(t: number, arrive: number, lastTime: number, lag: number): Appearance | undefined {
  const start = Math.max(0, Math.min(arrive - LEAD + lag, lastTime - MOMENT))
  const u = (t - start) / MOMENT
  if (u >= 1) return SETTLED
  return u > 0 ? { scale: overshoot(u), opacity: smooth(u * 2) } : undefined
}

export const pinAppearanceAt = (t: number, arrive: number, lastTime: number) => appearanceAt(t, arrive, lastTime, 0)
export const labelAppearanceAt = (t: number, arrive: number, lastTime: number) => appearanceAt(t, arrive, lastTime, LABEL_LAG)

/** The times at which a postcard begins to appear and is gone; `to` is Infinity for one that stays. */
export interface PostcardTimes {
  from: number
  to: number
}

/** Seconds needed to take in a postcard: 1 s and 0.3 s a word for a text, 1.5 s for a photo (common practice, no source). */
export function readingSeconds({ photo, text }: Pick<Postcard, 'photo' | 'text'>): number {
  const words = text.split(/\s+/).filter(Boolean).length
  return Math.max(photo ? 1.5 : 0, words > 0 ? 1 + 0.3 * words : 0)
}

/** When a postcard is shown at a stop that is reached and left at given times. */
export function postcardTimes(postcard: Postcard, arrive: number, leave: number, lastTime: number): PostcardTimes {
  const from = Math.max(0, Math.min(arrive + POSTCARD_LAG, lastTime - MOMENT))
  const { stays } = postcard
  if (stays === 'end') return { from, to: Infinity }
  const to = stays === 'rest' ? Math.max(leave, from + MOMENT + readingSeconds(postcard)) : from + stays
  // A postcard that would vanish with the last frame stays.
  return { from, to: to >= lastTime ? Infinity : to }
}

/** How far a postcard has appeared, or gone, at time t; undefined while there is nothing to see. */
export function postcardAppearanceAt(t: number, { from, to }: PostcardTimes): Appearance | undefined {
  if (t <= from || t >= to) return undefined
  const coming = Math.min(1, (t - from) / MOMENT)
  const going = Math.min(1, (to - t) / POSTCARD_LEAVE)
  return { scale: coming < 1 ? overshoot(coming) : 1, opacity: smooth(coming * 2) * smooth(going) }
}

export interface Box {
  left: number
  right: number
  top: number
  bottom: number
}

/** The box of a pin around its place, as shares of its size: a lantern and a pennant stand on their foot, a bead is centred. */
export const PIN_BOXES: Record<Pin['shape'], Box> = {
  lantern: { left: -0.34, right: 0.34, top: -1, bottom: 0 },
  pennant: { left: -0.08, right: 0.66, top: -1, bottom: 0.06 },
  bead: { left: -0.3, right: 0.3, top: -0.3, bottom: 0.3 },
  none: { left: 0, right: 0, top: 0, bottom: 0 },
}

export interface LabelPlace {
  /** Where the text's baseline begins, is centred or ends, in reference pixels from the stop. */
  offset: Point
  align: 'left' | 'center' | 'right'
}

/** The middle of a card beside a pin, in reference pixels from the stop, with its nearest side or corner next to the pin. */
export function besidePin(pin: Pin, side: Label['side'], { width, height }: Size, gap: number): Point {
  const box = PIN_BOXES[pin.shape]
  const isRight = side.endsWith('right')
  const isLeft = side.endsWith('left')
  const x = isRight ? box.right * pin.size + gap + width / 2 : isLeft ? box.left * pin.size - gap - width / 2 : 0
  const isTop = side.startsWith('top')
  const isBottom = side.startsWith('bottom')
  const middle = ((box.top + box.bottom) / 2) * pin.size
  const y = isTop ? box.top * pin.size - gap - height / 2 : isBottom ? box.bottom * pin.size + gap + height / 2 : middle
  return { x, y }
}

/** Height of capitals and the room above the baseline, as shares of the letter size; measured on the label font, Alegreya 700. */
const CAPITAL = 0.64

/** Places a label on its side of the pin. */
export function labelPlace(pin: Pin, label: Label): LabelPlace {
  const box = PIN_BOXES[pin.shape]
  const gap = label.size * 0.32
  const corner = label.side.includes('-')
  const aside = corner ? gap * 0.4 : gap
  const [left, right, top, bottom] = [box.left * pin.size, box.right * pin.size, box.top * pin.size, box.bottom * pin.size]
  const toRight = label.side.endsWith('right')
  const toLeft = label.side.endsWith('left')
  const x = toRight ? right + aside : toLeft ? left - aside : (left + right) / 2
  const y = label.side.startsWith('top')
    ? top - aside
    : label.side.startsWith('bottom')
      ? bottom + aside + label.size * CAPITAL
      : (top + bottom) / 2 + (label.size * CAPITAL) / 2
  return { offset: { x, y }, align: toRight ? 'left' : toLeft ? 'right' : 'center' }
}
