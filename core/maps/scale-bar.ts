import type { DrawnMap } from '../journey/schema'
import { lonWidth } from './region'

/** Maps of more than this, in degrees, have no one scale. */
const WIDEST = 70

/** Whether one scale and one north hold for all of a map, near enough for a bar and an arrow in its corner. */
export const hasOneScale = ({ region }: Pick<DrawnMap, 'region'>): boolean =>
  region.north - region.south < WIDEST / 2 && lonWidth(region) < WIDEST

/** The longest round length of at most so many metres: 1, 2 or 5 with any number of noughts; and what it is called. */
export function roundLength(most: number): { metres: number; name: string } {
  const power = 10 ** Math.floor(Math.log10(most))
  const metres = power * ([5, 2].find((times) => times * power <= most) ?? 1)
  return { metres, name: metres >= 1000 ? `${metres / 1000} km` : `${metres} m` }
}
