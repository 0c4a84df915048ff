import type { Projection } from '../camera/projection-type'
import { pointAt } from '../geometry/course'
import { latticeNoise, seedOf } from '../geometry/noise'
import type { Point } from '../geometry/point'
import { lengthAt } from '../trips/compiled'
import type { ParticlesItem } from './frame'
import type { LineOfLeg } from './ink-at'

/** One of the sparks or grains of dust that a traveller leaves behind: where on the ground it was left, and how far off it has drifted, in reference pixels. */
export interface Particle {
  at: Point
  x: number
  y: number
  /** Its radius, in reference pixels. */
  radius: number
  opacity: number
}

/** Particles live, drift and are as large as is set, or so much less, at random. */
const LEAST = { life: 0.55, drift: 0.3, size: 0.45 } as const

/** It comes within this share of its life, and fades over the rest. */
const COMES = 0.08

/**
 * The particles of a line at time t: one is left behind at the vehicle each `1 / perSecond` seconds of its way. Each has a seed of its own, by its leg and number, so
 * that any time gives the same ones, whatever was shown before. Undefined where none is to be seen.
 */
export function particlesAt({ compiled, i, layer, ink }: LineOfLeg, t: number, projection: Projection): ParticlesItem | undefined {
  const { particles } = ink
  const timed = compiled.legs[i]!
  if (!particles || timed.course.length === 0) return undefined
  const { perSecond, life, drift, rise, size, colour } = particles
  const { leg, course, depart, arrive } = timed
  const seed = seedOf(`${leg.id} ${layer}`)
  const first = Math.max(0, Math.ceil((t - life - depart) * perSecond))
  const last = Math.floor((Math.min(t, arrive) - depart) * perSecond)
  const seen: Particle[] = []
  for (let k = first; k <= last; k++) {
    const between = (row: number, least: number) => least + (1 - least) * (0.5 + 0.5 * latticeNoise(k, seed + row))
    const since = t - depart - k / perSecond
    const age = since / (life * between(0, LEAST.life))
    if (age >= 1) continue
    const at = pointAt(course, lengthAt(timed, t - since))
    if (projection.clearance(at) < 0) continue
    const angle = Math.PI * latticeNoise(k, seed + 1)
    // Air slows it down.
    const far = drift * between(2, LEAST.drift) * since * (1 - age / 2)
    seen.push({
      at,
      x: far * Math.cos(angle),
      y: far * Math.sin(angle) - rise * since,
      radius: (size / 2) * between(3, LEAST.size) * (1 - age / 2),
      opacity: Math.min(1, age / COMES) * (1 - age) ** 1.2,
    })
  }
  return seen.length > 0 ? { kind: 'particles', leg: leg.id, layer, colour, seen } : undefined
}
