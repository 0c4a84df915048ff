import type { Point } from '../geometry/point'
import type { Label, Pin } from '../journey/schema'
import { overshoot, smooth } from '../pace/easing'

/** Pins and labels begin to appear this many seconds before arrival, labels a little later, and take a moment to settle. */
const LEAD = 0.2
const MOMENT = 0.4
const LABEL_LAG = 0.12

export interface Appearance {
  scale: number
  opacity: number
}

/** How far a mark has appeared at time t; undefined while there is nothing to see. It has settled by the last frame shown. */
export function appearanceAt(t: number, arrive: number, lastTime: number, lag: number): Appearance | undefined {
  const start = Math.max(0, Math.min(arrive - LEAD + lag, lastTime - MOMENT))
  const u = (t - start) / MOMENT
  if (u >= 1) return { scale: 1, opacity: 1 }
  return u > 0 ? { scale: overshoot(u), opacity: smooth(u * 2) } : undefined
}

export const pinAppearanceAt = (t: number, arrive: number, lastTime: number) => appearanceAt(t, arrive, lastTime, 0)
export const labelAppearanceAt = (t: number, arrive: number, lastTime: number) => appearanceAt(t, arrive, lastTime, LABEL_LAG)

export interface Box {
  left: number
  right: number
  top: number
  bottom: number
}

/** What a pin covers around its place, as shares of its size: a lantern and a pennant stand on their foot, a bead lies round it. */
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
