import type { Easing } from '#core/journey/schema'
import type { EasingFunction } from '#core/pace/easing'
import { cubicBezier, hermite, NAMED_CURVES, smooth } from '#core/pace/easing'
import { ramps } from '#core/pace/profile'

/** A pace on offer: its name, what a leg gets when it is chosen, and a curve that shows it. */
export interface EasingChoice {
  value: string
  title: string
  easing: Easing
  ease: EasingFunction
}

/** A natural pace, drawn as on a way with one bend. */
const withABend: EasingFunction = (u) => {
  const v = smooth(u)
  return v + 0.09 * Math.sin(2 * Math.PI * v)
}

type Points = readonly [x1: number, y1: number, x2: number, y2: number]
const curve = (value: string, title: string, [x1, y1, x2, y2]: Points): EasingChoice => ({
  value,
  title,
  easing: [x1, y1, x2, y2],
  ease: cubicBezier(x1, y1, x2, y2),
})
const named = (value: keyof typeof NAMED_CURVES, title: string): EasingChoice => ({
  ...curve(value, title, NAMED_CURVES[value]),
  easing: value,
})

/** The paces on offer, the usual ones first. */
export const EASING_CHOICES: readonly EasingChoice[] = [
  { value: 'gentle', title: 'Gentle: soft at layovers, at speed through stops', easing: 'gentle', ease: hermite(0, 0) },
  { value: 'natural', title: 'Natural: slower in bends', easing: { kind: 'natural', bends: 1 }, ease: withABend },
  {
    value: 'cruise',
    title: 'Cruise: speeds up, holds, brakes',
    easing: { kind: 'cruise', accelerate: 1, brake: 1 },
    ease: ramps(0.3, 0.3, 0, 0),
  },
  named('linear', 'Even: the same speed all the way'),
  named('ease-in', 'Starts slowly, arrives at speed'),
  named('ease-out', 'Starts at speed, slows down to the end'),
  named('ease-in-out', 'Slow at both ends, quick in between'),
  curve('rush', 'Rush: slow, then all at once', [0.8, 0, 0.2, 1]),
  curve('take-off', 'Take-off: gathers speed to the end', [0.75, 0, 0.9, 0.6]),
  curve('landing', 'Landing: brakes from the start on', [0.1, 0.4, 0.25, 1]),
  curve('stroll', 'Stroll: nearly even', [0.3, 0.2, 0.7, 0.8]),
]

/** The choice that a leg's pace is, or 'own' for a curve that is none of them. */
export function easingChoiceOf(easing: Easing): string {
  if (typeof easing === 'string') return easing
  if (!Array.isArray(easing)) return easing.kind
  const known = EASING_CHOICES.find((choice) => Array.isArray(choice.easing) && choice.easing.every((value, k) => value === easing[k]))
  return known?.value ?? 'own'
}
