import { createNoise2D } from 'simplex-noise'

/** A seeded source of numbers in 0..1: mulberry32, by T. Ettinger (public domain). */
export function seeded(seed: number): () => number {
  let state = seed
  return () => {
    state = (state + 0x6d2b79f5) | 0
    let t = Math.imul(state ^ (state >>> 15), 1 | state)
    t = (t + Math.imul(t ^ (t >>> 7), 61 | t)) ^ t
    return ((t ^ (t >>> 14)) >>> 0) / 2 ** 32
  }
}

export type Noise = (x: number, y: number) => number

/** Fractal noise within about -1..1: octaves of half the size and half the strength each. */
export function fractal(seed: number, size: number, octaves: number): Noise {
  const layers = Array.from({ length: octaves }, (_, i) => createNoise2D(seeded(seed + i * 101)))
  const total = 2 - 2 ** (1 - octaves)
  return (x, y) => {
    let sum = 0
    let strength = 1
    let k = 1 / size
    for (const layer of layers) {
      sum += layer(x * k, y * k) * strength
      strength /= 2
      k *= 2
    }
    return sum / total
  }
}
