import { radians } from '#core/geometry/angle'
import { clamp } from '#core/geometry/clamp'
import { spaceNoise } from '#core/geometry/noise'

/** Clouds of our own making: sums of smooth noise on the sphere, drawn out by other noise as the wind does. The same on every machine. */

/** A map of them, longitude across and latitude down, is made once. */
const WIDTH = 768
const HEIGHT = 384
const OCTAVES = 5
/** Waves of the widest noise round the sphere, about; and how far the wind draws it out. */
const COARSEST = 2.3
const WIND = 0.55

let map: Float32Array | undefined

/**
 * How thick the clouds over a spot are, 0..1.
 * @param lon @param lat in degrees, any longitude
 * @param cover how much of the sky they cover, 0..1
 */
export function cloudAt(lon: number, lat: number, cover: number): number {
  map ??= makeMap()
  const x = ((((lon + 180) / 360) % 1) + 1) % 1 * WIDTH // prettier-ignore
  const y = clamp(((90 - lat) / 180) * HEIGHT - 0.5, 0, HEIGHT - 1.001)
  const x0 = Math.floor(x) % WIDTH
  const y0 = Math.floor(y)
  const fx = x - Math.floor(x)
  const fy = y - y0
  const x1 = (x0 + 1) % WIDTH
  const above = map[y0 * WIDTH + x0]! * (1 - fx) + map[y0 * WIDTH + x1]! * fx
  const below = map[(y0 + 1) * WIDTH + x0]! * (1 - fx) + map[(y0 + 1) * WIDTH + x1]! * fx
  const noise = above * (1 - fy) + below * fy
  const edge = 1 - 0.75 * cover
  const u = clamp((noise - edge) / 0.32, 0, 1)
  return u * u * (3 - 2 * u) * Math.min(1, 4 * cover)
}

function makeMap(): Float32Array {
  const made = new Float32Array(WIDTH * HEIGHT)
  let [least, most] = [Infinity, -Infinity]
  for (let row = 0; row < HEIGHT; row++) {
    const lat = radians(90 - ((row + 0.5) * 180) / HEIGHT)
    for (let column = 0; column < WIDTH; column++) {
      const lon = radians((column * 360) / WIDTH - 180)
      const [x, y, z] = [Math.cos(lat) * Math.cos(lon), Math.cos(lat) * Math.sin(lon), Math.sin(lat)].map((part) => part * COARSEST) as [
        number,
        number,
        number,
      ]
      // The wind blows along the parallels: across them the noise is drawn out less.
      const [a, b] = [spaceNoise(x + 11.3, y + 4.1, 1.6 * z - 7.9), spaceNoise(x - 5.7, y + 21.7, 1.6 * z + 3.3)]
      let [sum, weight, amount] = [0, 0, 1]
      for (let octave = 0; octave < OCTAVES; octave++) {
        const k = 2 ** octave
        sum += amount * spaceNoise(k * (x + WIND * a) + 31 * octave, k * (y + WIND * b) - 17 * octave, k * 1.7 * z + 47 * octave)
        weight += amount
        amount *= 0.56
      }
      const value = sum / weight
      made[row * WIDTH + column] = value
      least = Math.min(least, value)
      most = Math.max(most, value)
    }
  }
  return made.map((value) => (value - least) / (most - least))
}
