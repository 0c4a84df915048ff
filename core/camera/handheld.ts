import { radians, wrapDegrees } from '../geometry/angle'
import { spaceNoise } from '../geometry/noise'
import { rotate } from '../geometry/point'
import type { Size } from '../geometry/size'
import type { View } from './view'

/** How a camera sways that is held by hand: at most so many reference pixels and degrees to either side; another seed sways in another way. */
export interface Handheld {
  px: number
  degrees: number
  seed: number
}

/**
 * What it is made of: how often a second, and how much of the whole. Breathing at rest is at 12 to 20 breaths a minute (physiology handbooks, from memory); that a hand
 * also trembles faster, and less, is common practice, no source.
 */
const SWAYS = [
  { perSecond: 0.45, share: 0.78 },
  { perSecond: 1.4, share: 0.22 },
] as const

/** Smooth to the second derivative, within -1..1. */
const swayAt = (time: number, axis: number, seed: number): number =>
  SWAYS.reduce((sum, { perSecond, share }, k) => sum + share * spaceNoise(time * perSecond, 3 * k + axis + 0.5, 7 * seed + 0.5), 0)

/**
 * A view as it is seen through a camera that is held by hand. It is a little closer, by as much as the camera sways, so that nothing comes into the frame that was not in it
 * on flat ground that is looked down at.
 */
export function swayed(view: View, { px, degrees, seed }: Handheld, time: number, { width, height }: Size): View {
  const [across, down, roll] = [0, 1, 2].map((axis) => swayAt(time, axis, seed)) as [number, number, number]
  const angle = radians(degrees)
  // What turns about the middle needs room at the corners; and on either side as far as it sways.
  const turned = Math.cos(angle) + (Math.sin(angle) * Math.max(width, height)) / Math.min(width, height)
  const zoom = view.zoom * turned * (1 + (2 * Math.SQRT2 * px) / Math.min(width, height))
  const by = rotate({ x: (px * across) / zoom, y: (px * down) / zoom }, radians(view.bearing))
  return {
    ...view,
    centre: { x: view.centre.x + by.x, y: view.centre.y + by.y },
    zoom,
    bearing: wrapDegrees(view.bearing + degrees * roll),
  }
}
