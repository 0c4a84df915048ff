import { radians } from '../geometry/angle'
import { smooth } from '../pace/easing'
import type { Vehicle } from '../dress/vehicle'

/** How a vehicle moves about its place while it travels. It stays on its line: only its picture moves. */
export interface Liveliness {
  /** How far it is lifted, in its lengths. */
  rise: number
  /** How far it is turned further, clockwise, in radians. */
  roll: number
  /** How far its wheels have turned, in radians for a wheel as large as the vehicle is long; null where they are not to be seen turning. */
  wheels: number | null
}

const STILL: Liveliness = { rise: 0, roll: 0, wheels: null }

/** The most that vehicles bounce and bob, in their lengths, and roll and sway, in degrees. */
const BOUNCE = 0.035
const BOB = 0.02
const ROLL = 5
const SWAY = 2.5

/** A vehicle on land bounces once in so many of its lengths; it comes to rest within the last. */
const BOUNCE_LENGTH = 0.9

/** Seconds of a swell, of a wave, and of a sway in the air. */
const SWELL = 2.6
const WAVE = 1.7
const GUST = 3.4

const wave = (t: number, period: number): number => Math.sin((2 * Math.PI * t) / period)

/** The furthest that a vehicle is lifted, in its lengths. */
export const MOST_RISE = Math.max(BOUNCE, BOB)

/**
 * How a vehicle moves about its place at a time. @param done how far it has travelled on its leg, in its lengths @param left and how far it still has to go
 * @param t seconds
 */
export function livelinessOf({ lively, medium, posture: { view } }: Vehicle, done: number, left: number, t: number): Liveliness {
  if (lively === 0) return STILL
  switch (medium) {
    case 'land': {
      if (view === 'above') return STILL
      const moving = smooth(Math.min(done, left) / BOUNCE_LENGTH)
      return { rise: lively * BOUNCE * moving * Math.abs(Math.sin((Math.PI * done) / BOUNCE_LENGTH)), roll: 0, wheels: done }
    }
    case 'water': {
      const roll = radians(lively * (view === 'above' ? SWAY : ROLL)) * wave(t, SWELL)
      return { rise: view === 'above' ? 0 : lively * BOB * wave(t, WAVE), roll, wheels: null }
    }
    case 'air':
      return { rise: 0, roll: radians(lively * SWAY) * wave(t, GUST), wheels: null }
    default:
      return medium satisfies never
  }
}
