import type { Rates } from './comfort'
import { COMFORT } from './comfort'

/** How the camera films by itself, as long as nobody has set a shot: see core/shots/shot-plan.ts. */
export const TEMPERAMENTS = ['calm', 'lively', 'steady'] as const
export type Temperament = (typeof TEMPERAMENTS)[number]

/**
 * How fast the picture may move at any moment of a film that is filmed by itself. Calm: what crosses the frame takes five seconds, so that it can be followed;
 * lively: two. Common practice, no source. What is steady only moves where it comes down from a globe.
 */
export const LIMITS: Readonly<Record<Temperament, Rates>> = {
  calm: { pan: 0.2, turn: 8, zoom: 0.5, tilt: 8 },
  lively: { pan: 0.5, turn: 40, zoom: 1.1, tilt: 35 },
  steady: COMFORT,
}
