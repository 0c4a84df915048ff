import type { Box } from '../geometry/box'
import { movedBox, scaledBox, unionOf } from '../geometry/box'
import type { Size } from '../geometry/size'
import { clamp } from '../geometry/clamp'
import type { Point } from '../geometry/point'
import type { Pin, PinCircle, Side } from '../journey/schema'
import { pinDrawing, PINS } from '../pins/catalogue'
import { overshoot, smooth } from '../pace/easing'

/** Pins and labels begin to appear this many seconds before arrival, labels a little later. */
const LEAD = 0.2
/** How long a pin takes to come, in seconds, where nothing else is said. */
export const USUAL_PIN_COMING = 0.4
const LABEL_LAG = 0.12

/** How dark the shadow of a pin is where nothing is said, and no sun shines. */
export const PIN_SHADOW = 0.28

export interface Appearance {
  scale: number
  opacity: number
  /** How far above its place it is, in its heights. */
  raised: number
}

/** What a mark has come to in the end. */
export const SETTLED: Appearance = { scale: 1, opacity: 1, raised: 0 }

/** When the pin of what is reached at a time begins to appear, early enough to have settled in the last frame. */
export const pinStart = (arrive: number, { delay, comesIn = USUAL_PIN_COMING }: Pick<Pin, 'delay' | 'comesIn'>, lastTime: number): number =>
  Math.max(0, Math.min(arrive + delay - LEAD, lastTime - comesIn))

/** How far a mark has appeared at time t (a mark that is there for the whole film arrives at -Infinity); undefined while there is nothing to see. It has settled by the last frame shown. */
function appearanceAt(t: number, arrive: number, lastTime: number, pin: PinTiming): Appearance | undefined {
  if (arrive === -Infinity) return SETTLED
  const u = (t - pinStart(arrive, pin, lastTime)) / (pin.comesIn ?? USUAL_PIN_COMING)
  if (u >= 1) return SETTLED
  return u > 0 ? comingAt(pin, u) : undefined
}

/** From how many of its heights a pin drops, at which share of its coming it lands, and how high it springs back after that. */
const DROP = 1.6
const LANDS = 0.7
const SPRING = 0.12

/** A pin at a share of its coming, 0 to 1. */
function comingAt({ comes, before }: PinTiming, u: number): Appearance {
  // One that can be seen already neither drops nor is at once as large as in the end.
  if (before === 'faint' && comes !== 'pop' && comes !== 'none') return { scale: smooth(u), opacity: smooth(u), raised: 0 }
  switch (comes) {
    case 'pop':
      return { ...SETTLED, scale: overshoot(u), opacity: smooth(u * 2) }
    case 'grow':
      return { ...SETTLED, scale: smooth(u) }
    case 'fade':
      return { ...SETTLED, opacity: smooth(u) }
    case 'drop': {
      // It falls as things do, and springs back once.
      const v = (u - LANDS) / (1 - LANDS)
      return { ...SETTLED, opacity: smooth(3 * u), raised: u < LANDS ? DROP * (1 - (u / LANDS) ** 2) : SPRING * 4 * v * (1 - v) }
    }
    case 'none':
      return SETTLED
    default:
      return comes satisfies never
  }
}

type PinTiming = Pick<Pin, 'before' | 'delay' | 'comes' | 'comesIn'>

/** A pin that is faint before it is reached, until it appears. */
const FAINT: Appearance = { scale: 0.85, opacity: 0.4, raised: 0 }

/** How far a pin has appeared at time t, or what can be seen of it before. */
export function pinAppearanceAt(t: number, arrive: number, lastTime: number, pin: PinTiming = AT_ONCE): Appearance | undefined {
  const { before } = pin
  if (before === 'shown') return SETTLED
  const seen = appearanceAt(t, arrive, lastTime, pin)
  if (before === 'hidden' || seen === SETTLED) return seen
  if (!seen) return FAINT
  const grown = (of: keyof Appearance) => FAINT[of] + (1 - FAINT[of]) * seen[of]
  return { scale: grown('scale'), opacity: grown('opacity'), raised: seen.raised }
}

const AT_ONCE: PinTiming = { before: 'hidden', delay: 0, comes: 'pop' }

/** When a label begins to appear: with its pin, a little later, and early enough to be whole in the last frame. @param delay by how much later than usual @param lasts how long it takes */
export const labelStart = (arrive: number, delay: number, lasts: number, lastTime: number): number =>
  arrive === -Infinity ? -Infinity : Math.max(0, Math.min(arrive + delay - LEAD + LABEL_LAG, lastTime - lasts))

/** How long the circles round pins take, in seconds: to run outwards, to settle, to be drawn. */
const CIRCLE_SECONDS = { pulse: 1.3, settling: 0.7, 'by-hand': 0.8 } as const satisfies Record<PinCircle['kind'], number>

export interface CircleState {
  /** Of its own radius, so that it may be on its way outwards, or have come too large. */
  scale: number
  opacity: number
  /** The share of it that is drawn. */
  drawn: number
}

/** What a circle that stays has come to in the end. */
const WHOLE_CIRCLE: CircleState = { scale: 1, opacity: 1, drawn: 1 }

/** The circle round a pin at time t; undefined while there is none to be seen. */
export function circleAt({ kind }: PinCircle, t: number, arrive: number, lastTime: number, delay: number): CircleState | undefined {
  const lasts = CIRCLE_SECONDS[kind]
  // What there is no time for comes earlier, as pins do.
  const start = clamp(arrive + delay, 0, Math.max(0, lastTime - lasts))
  const u = (t - start) / lasts
  if (u <= 0) return undefined
  if (u >= 1) return kind === 'pulse' ? undefined : WHOLE_CIRCLE
  switch (kind) {
    case 'pulse':
      return { scale: 0.35 + 0.95 * (1 - (1 - u) ** 2), opacity: (1 - u) ** 1.5, drawn: 1 }
    case 'settling':
      return { scale: overshoot(u), opacity: smooth(3 * u), drawn: 1 }
    case 'by-hand':
      return { scale: 1, opacity: 1, drawn: smooth(u) }
    default:
      return kind satisfies never
  }
}

export const NOTHING: Box = { left: 0, right: 0, top: 0, bottom: 0 }

/** Whether a pin lies on the ground. */
export const liesFlat = ({ shape, lies }: Pick<Pin, 'shape' | 'lies'>): boolean =>
  shape !== 'none' && shape !== 'own' && lies && pinDrawing(shape).isCentred === true

/** How high over its place a pin floats, in its heights. */
export const liftOf = (pin: Pick<Pin, 'shape' | 'lies' | 'lift'>): number => (pin.shape === 'none' || liesFlat(pin) ? 0 : pin.lift)

/** The box of a pin that does not float, around its place, as shares of its size, which is its height. */
export function pinOutline({ shape, picture }: Pick<Pin, 'shape' | 'picture'>): Box {
  if (shape === 'none') return NOTHING
  if (shape !== 'own') return PINS[shape].box
  const { width, height, anchor } = picture!
  const across = width / height
  return { left: -anchor.x * across, right: (1 - anchor.x) * across, top: -anchor.y, bottom: 1 - anchor.y }
}

/** The same of a pin where it is. */
const pinShares = (pin: Pin): Box => movedBox(pinOutline(pin), 0, -liftOf(pin))

/** What a pin covers about its place, in reference pixels, with the circle that stays round it. */
export function pinBox(pin: Pin): Box {
  const { shape, size, circle } = pin
  const own = scaledBox(pinShares(pin), size)
  if (shape === 'none' || !circle || circle.kind === 'pulse') return own
  const reach = size * circle.radius
  return unionOf([own, { left: -reach, right: reach, top: -reach, bottom: reach }])
}

/**
 * The middle of a card beside a pin, in reference pixels from the stop, with its nearest side or corner next to the pin.
 * @param clearOf a box about the stop that it is beside too: of vehicles that rest there
 */
export function besidePin(pin: Pin, clearOf: Box, side: Side, { width, height }: Size, gap: number): Point {
  const { top: upper, bottom: lower } = pinShares(pin)
  const { left, right, top, bottom } = unionOf([scaledBox(pinShares(pin), pin.size), clearOf])
  const x = side.endsWith('right') ? right + gap + width / 2 : side.endsWith('left') ? left - gap - width / 2 : 0
  const middle = ((upper + lower) / 2) * pin.size
  const y = side.startsWith('top') ? top - gap - height / 2 : side.startsWith('bottom') ? bottom + gap + height / 2 : middle
  return { x, y }
}
