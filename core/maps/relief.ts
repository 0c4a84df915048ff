import { radians } from '../geometry/angle'
import { MEAN_RADIUS } from '../geo/earth'

/** Numbers for each cell of a plate carrée of the whole Earth, row by row from the north-west. */
export interface EarthGrid {
  width: number
  height: number
  values: Float32Array
}

/** Rise over run towards the east and the north in the middle of a cell. */
export interface Slope {
  east: number
  north: number
}

/**
 * The slope of a cell of a grid of heights, from the eight round it; its rows end at the poles, and its columns go round.
 * Source: B. K. P. Horn, Hill shading and the reflectance map, Proceedings of the IEEE 69 (1981): the weights 1, 2, 1.
 * @param across a cell's width in the unit of the heights
 * @param along a cell's height in it
 */
export function hornSlope({ width, height, values }: EarthGrid, column: number, row: number, across: number, along: number): Slope {
  const [left, right] = [(column + width - 1) % width, (column + 1) % width]
  const [above, here, below] = [Math.max(0, row - 1) * width, row * width, Math.min(height - 1, row + 1) * width]
  const [a, b, c] = [values[above + left]!, values[above + column]!, values[above + right]!]
  const [d, f] = [values[here + left]!, values[here + right]!]
  const [g, h, i] = [values[below + left]!, values[below + column]!, values[below + right]!]
  return { east: (c + 2 * f + i - (a + 2 * d + g)) / (8 * across), north: (a + 2 * b + c - (g + 2 * h + i)) / (8 * along) }
}

export interface Light {
  /** Where the light is, in degrees clockwise from the north, and above the horizon. */
  azimuth: number
  altitude: number
}

/** How much light a slope gets: the cosine of the angle between it and the light, 0 where it is turned away. */
export const lightOn = ({ east, north }: Slope, light: Light): number => lit(east, north, towards(light))

/** The direction to a light: east, north, up. */
function towards({ azimuth, altitude }: Light): readonly [number, number, number] {
  const [a, h] = [radians(azimuth), radians(altitude)]
  return [Math.cos(h) * Math.sin(a), Math.cos(h) * Math.cos(a), Math.sin(h)]
}

const lit = (east: number, north: number, [x, y, z]: readonly [number, number, number]): number =>
  Math.max(0, (z - east * x - north * y) / Math.sqrt(1 + east * east + north * north))

/**
 * Several lights, so that a ridge that runs towards one is still seen: most from the north-west, as on maps. The directions and shares are common practice,
 * no source.
 */
const LIGHTS = [
  { azimuth: 315, altitude: 45, share: 0.55 },
  { azimuth: 270, altitude: 45, share: 0.2 },
  { azimuth: 0, altitude: 45, share: 0.15 },
  { azimuth: 225, altitude: 60, share: 0.1 },
].map(({ share, ...light }) => ({ share, direction: towards(light) }))

function lightFromAll(east: number, north: number): number {
  let sum = 0
  for (const { share, direction } of LIGHTS) sum += share * lit(east, north, direction)
  return sum
}

const LEVEL = lightFromAll(0, 0)

/** How much lighter (1) or darker (-1) than level ground a slope is under all lights. */
function shadeOf({ east, north }: Slope): number {
  const light = lightFromAll(east, north)
  return light < LEVEL ? light / LEVEL - 1 : (light - LEVEL) / (1 - LEVEL)
}

/** Slopes are drawn so many times as steep: heights are few kilometres where a cell of the grid is twenty. */
const EXAGGERATION = 14

/** The shade of every cell of a grid of heights in metres, -1..1. */
export function shadeGrid(grid: EarthGrid): EarthGrid {
  const { width, height } = grid
  const shades = new Float32Array(width * height)
  const along = (Math.PI * MEAN_RADIUS) / height
  for (let row = 0; row < height; row++) {
    const across = ((2 * Math.PI * MEAN_RADIUS) / width) * Math.max(0.05, Math.cos(Math.PI * (0.5 - (row + 0.5) / height)))
    for (let column = 0; column < width; column++) {
      const slope = hornSlope(grid, column, row, across / EXAGGERATION, along / EXAGGERATION)
      // Most of the Earth is sea.
      if (slope.east !== 0 || slope.north !== 0) shades[row * width + column] = shadeOf(slope)
    }
  }
  return { width, height, values: shades }
}

/**
 * The value of a grid at a place, smooth between its cells: a quadratic B-spline over the nearest nine. Longitudes go round.
 * @param lon in degrees
 * @param lat in degrees
 */
export function valueAt({ width, height, values }: EarthGrid, lon: number, lat: number): number {
  const x = ((lon + 180) / 360) * width - 0.5
  const y = ((90 - lat) / 180) * height - 0.5
  const [column, row] = [Math.round(x), Math.round(y)]
  const [u, v] = [x - column, y - row]
  let sum = 0
  for (let r = -1; r <= 1; r++) {
    const at = Math.min(height - 1, Math.max(0, row + r)) * width
    const across = r === 0 ? 0.75 - v * v : 0.5 * (0.5 + r * v) ** 2
    for (let c = -1; c <= 1; c++) {
      const i = (((column + c) % width) + width) % width
      sum += values[at + i]! * across * (c === 0 ? 0.75 - u * u : 0.5 * (0.5 + c * u) ** 2)
    }
  }
  return sum
}
