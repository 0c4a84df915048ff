import { degrees, radians, turnBetween } from '../geometry/angle'
import type { Size } from '../geometry/size'
import type { View } from './view'

/** How fast the picture moves: what is too fast makes one giddy, or judders. */
export interface Rates {
  /** Frame widths a second by which the ground passes the middle. */
  pan: number
  /** Degrees a second. */
  turn: number
  /** Doublings or halvings of the zoom a second. */
  zoom: number
  /** Degrees a second by which the pitch changes. */
  tilt: number
}

export type RateKind = keyof Rates
const RATE_KINDS = ['pan', 'turn', 'zoom', 'tilt'] as const satisfies readonly RateKind[]

/** What is still pleasant to watch: common practice, no source. */
export const COMFORT: Rates = { pan: 0.6, turn: 45, zoom: 1.3, tilt: 35 }

/** The mean rates between two views that are so many seconds apart. */
export function ratesBetween(a: View, b: View, seconds: number, { width }: Size): Rates {
  const zoom = Math.sqrt(a.zoom * b.zoom)
  return {
    pan: (Math.hypot(b.centre.x - a.centre.x, b.centre.y - a.centre.y) * zoom) / width / seconds,
    turn: Math.abs(degrees(turnBetween(radians(a.bearing), radians(b.bearing)))) / seconds,
    zoom: Math.abs(Math.log2(b.zoom / a.zoom)) / seconds,
    tilt: Math.abs(b.pitch - a.pitch) / seconds,
  }
}

/** The rate that is worst, and how many times as fast as is pleasant, or as other limits allow, it is. */
export function worstOf(rates: Rates, limits: Rates = COMFORT): { kind: RateKind; excess: number } {
  const excess = (kind: RateKind) => rates[kind] / limits[kind]
  const kind = RATE_KINDS.reduce((a, b) => (excess(b) > excess(a) ? b : a))
  return { kind, excess: excess(kind) }
}
