import { clamp } from '../geometry/clamp'
import type { Postcard } from '../journey/schema'
import { overshoot, smooth } from '../pace/easing'

/** When the cards of a stop are seen, and how they come and go. All times in seconds. */

/** The delay of the first card after arrival, when the pin has settled. */
const LAG = 0.2

/** How long a card takes to come, and to go, in seconds, where nothing else is said. */
export const USUAL_CARD = { coming: 0.4, going: 0.3 } as const
const comingOf = ({ comesIn = USUAL_CARD.coming }: Pick<Postcard, 'comesIn'>): number => comesIn

/** Times that differ by less are the same. */
const INSTANT = 1e-6

/** The times at which a card begins to come and is gone; `to` is Infinity for one that stays. */
export interface CardTimes {
  from: number
  to: number
}

/** Seconds needed to take in a postcard: 1 s and 0.3 s a word for a text, 1.5 s for a photo (common practice, no source). */
export function readingSeconds({ photo, text }: Pick<Postcard, 'photo' | 'text'>): number {
  const words = text.split(/\s+/).filter(Boolean).length
  return Math.max(photo ? 1.5 : 0, words > 0 ? 1 + 0.3 * words : 0)
}

/**
 * When the cards of a stop that is reached and left at given times are shown, one after the other. Those that stay for the rest share it, each long enough
 * to be taken in; where the film is too short for all, they come earlier and each is shown a shorter time.
 */
export function cardTimes(cards: readonly Postcard[], arrive: number, leave: number, lastTime: number): CardTimes[] {
  const start = clamp(arrive + LAG, 0, Math.max(0, lastTime - cards.reduce((sum, card) => sum + comingOf(card), 0)))
  const fixed = cards.reduce((sum, { stays }) => sum + (typeof stays === 'number' ? stays : 0), 0)
  const resting = cards.filter(({ stays }) => stays === 'rest').length
  const share = resting > 0 ? (leave - start - fixed) / resting : 0
  const wanted = cards.map((card, i) => {
    if (typeof card.stays === 'number') return card.stays
    const needed = comingOf(card) + readingSeconds(card)
    return card.stays === 'rest' ? Math.max(share, needed) : i < cards.length - 1 ? needed : 0
  })
  const room = lastTime - start
  const sum = wanted.slice(0, -1).reduce((total, seconds) => total + seconds, 0)
  // The last one must be whole before the film ends.
  const squeeze = Math.min(1, Math.max(0, room - comingOf(cards.at(-1) ?? {})) / Math.max(sum, 1e-9))
  let next = start
  let later = 0
  return cards.map(({ stays, delay, comesIn = USUAL_CARD.coming, goesIn = USUAL_CARD.going }, i) => {
    later += delay
    const from = clamp(next + later, 0, Math.max(0, lastTime - comesIn))
    next += wanted[i]! * (i < cards.length - 1 ? squeeze : 1)
    // One that is moved on its own is seen whole; those that are squeezed follow one another.
    const to = Math.max(next + later, later === 0 ? 0 : from + comesIn + goesIn)
    // A card that would vanish with the last frame stays; so does, under the others, one that is to stay.
    return { from, to: stays === 'end' || to >= lastTime - INSTANT ? Infinity : to }
  })
}

/** How a card looks on its way in or out. */
export interface CardPose {
  scale: number
  opacity: number
  /** How far below its place it is, in its heights, and by how many degrees it is turned further. */
  shift: number
  turn: number
  /** The share of it that can be seen, from its upper edge. */
  unrolled: number
}

const AT_REST: CardPose = { scale: 1, opacity: 1, shift: 0, turn: 0, unrolled: 1 }

/** How far below its place a card comes from, or sinks to, in its heights; and from how many degrees it swings in. */
export const CARD_SHIFT = 0.35
const SWING = 28

/** How a card has come, or is going, at time t; undefined while there is nothing to see. */
export function cardPoseAt(
  t: number,
  { from, to }: CardTimes,
  { comes, goes, comesIn = USUAL_CARD.coming, goesIn = USUAL_CARD.going }: Pick<Postcard, 'comes' | 'goes' | 'comesIn' | 'goesIn'>,
): CardPose | undefined {
  if (t <= from || t >= to) return undefined
  const u = (t - from) / comesIn
  if (u < 1 && comes !== 'none') return comingPose(comes, u)
  const v = (to - t) / goesIn
  return v < 1 && goes !== 'none' ? goingPose(goes, v) : AT_REST
}

/** @param u the share of its coming, 0 to 1 */
function comingPose(comes: Exclude<Postcard['comes'], 'none'>, u: number): CardPose {
  switch (comes) {
    case 'pop':
      return { ...AT_REST, scale: overshoot(u), opacity: smooth(2 * u) }
    case 'fade':
      return { ...AT_REST, opacity: smooth(u) }
    case 'rise':
      return { ...AT_REST, shift: CARD_SHIFT * (1 - u) ** 3, opacity: smooth(1.5 * u) }
    case 'swing':
      return { ...AT_REST, turn: -SWING * (1 - overshoot(u)), opacity: smooth(3 * u) }
    case 'unroll':
      return { ...AT_REST, unrolled: smooth(u) }
    default:
      return comes satisfies never
  }
}

/** @param v the share of it that is left, 1 to 0 */
function goingPose(goes: Exclude<Postcard['goes'], 'none'>, v: number): CardPose {
  switch (goes) {
    case 'fade':
      return { ...AT_REST, opacity: smooth(v) }
    case 'shrink':
      return { ...AT_REST, scale: smooth(v), opacity: smooth(2 * v) }
    case 'sink':
      return { ...AT_REST, shift: CARD_SHIFT * (1 - v) ** 2, opacity: smooth(v) }
    case 'roll-up':
      return { ...AT_REST, unrolled: smooth(v) }
    default:
      return goes satisfies never
  }
}
