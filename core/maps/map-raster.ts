import { rgbOf } from '../colour/srgb'
import type { Rgb } from '../colour/srgb'
import { clamp } from '../geometry/clamp'
import type { Size } from '../geometry/size'
import type { LonLat } from '../geo/lon-lat'
import type { BlockPlan } from './map-block'
import type { StyleSheet } from './map-styles'
import type { EarthGrid } from './relief'
import { valueAt } from './relief'

/** What of the Earth's surface is known in even cells all over: none has lines. */
export interface EarthSurface {
  /** Metres above the sea. */
  height: EarthGrid
  /** How much lighter or darker than level ground a slope is, -1..1. */
  shade: EarthGrid
  /** How deep the sea is, from 0 at the coast to 1. */
  depth: EarthGrid
}

/** A picture of the whole Earth in plate carrée: three bytes to a pixel. */
export interface EarthPicture extends Size {
  rgb: Uint8Array
}

/** Pixels of a block and `BEYOND` more on each side of it, each of which stands for a square of several: RGBA. */
export interface MapRaster extends Size {
  pixels: Uint8ClampedArray<ArrayBuffer>
}

/** A raster reaches so many of its pixels beyond its block, so that enlarged it fits those of the blocks beside it. */
export const BEYOND = 3

/** Places are worked out every so many pixels, and between them where they lie evenly. */
const NODE = 8

/** Between nodes further apart than this in degrees the map is cut or folded: there each pixel's place is worked out. */
const CUT = 12

/** Goes through a block in squares of so many pixels a side: a picture with a pixel for each, of what `paint` puts there. Off the Earth it is transparent. */
export function rasterOf(plan: BlockPlan, side: number, paint: (at: LonLat, pixels: Uint8ClampedArray, i: number) => void): MapRaster {
  const [width, height] = [Math.ceil(plan.width / side) + 2 * BEYOND, Math.ceil(plan.height / side) + 2 * BEYOND]
  const pixels = new Uint8ClampedArray(4 * width * height)
  const placeOf = (x: number, y: number) => plan.toLonLat({ x: (x - BEYOND + 0.5) * side, y: (y - BEYOND + 0.5) * side })
  const nodes = (y: number) => Array.from({ length: Math.ceil(width / NODE) + 1 }, (_, i) => placeOf(i * NODE, y))
  let above = nodes(0)
  for (let top = 0; top < height; top += NODE) {
    const below = nodes(top + NODE)
    for (let left = 0, n = 0; left < width; left += NODE, n++) {
      const corners = [above[n], above[n + 1], below[n], below[n + 1]] as const
      const between = isEven(corners) ? interpolated(corners) : undefined
      for (let y = top; y < Math.min(height, top + NODE); y++) {
        for (let x = left; x < Math.min(width, left + NODE); x++) {
          const at = between ? between((x - left) / NODE, (y - top) / NODE) : placeOf(x, y)
          if (at) paint(at, pixels, 4 * (y * width + x))
        }
      }
    }
    above = below
  }
  return { width, height, pixels }
}

type Corners<T> = readonly [T, T, T, T]

function isEven(corners: Corners<LonLat | undefined>): corners is Corners<LonLat> {
  if (!corners.every((corner) => corner !== undefined)) return false
  const [a, ...others] = corners
  return others.every((b) => Math.abs(b!.lon - a!.lon) < CUT && Math.abs(b!.lat - a!.lat) < CUT && Math.abs(b!.lat) < 85)
}

const interpolated =
  ([a, b, c, d]: Corners<LonLat>) =>
  (u: number, v: number): LonLat => {
    const mix = (p: number, q: number, r: number, s: number) => (p * (1 - u) + q * u) * (1 - v) + (r * (1 - u) + s * u) * v
    return { lon: mix(a.lon, b.lon, c.lon, d.lon), lat: mix(a.lat, b.lat, c.lat, d.lat) }
  }

/** Colours along a scale, looked up in so many steps. */
function ramp(stops: readonly (readonly [at: number, colour: string])[], most: number): (value: number) => Rgb {
  const rgbs = stops.map(([at, colour]) => ({ at, rgb: rgbOf(colour) }))
  const STEPS = 512
  const table = Array.from({ length: STEPS + 1 }, (_, i): Rgb => {
    const value = (most * i) / STEPS
    const next = rgbs.findIndex(({ at }) => at > value)
    if (next <= 0) return rgbs.at(next)!.rgb
    const [from, to] = [rgbs[next - 1]!, rgbs[next]!]
    const u = (value - from.at) / (to.at - from.at)
    return from.rgb.map((channel, c) => channel + (to.rgb[c]! - channel) * u) as unknown as Rgb
  })
  return (value) => table[Math.round((clamp(value, 0, most) / most) * STEPS)]!
}

const put = (pixels: Uint8ClampedArray, i: number, [r, g, b]: Rgb, alpha: number) => {
  pixels[i] = r
  pixels[i + 1] = g
  pixels[i + 2] = b
  pixels[i + 3] = alpha
}

/** Higher than any land, in metres. */
const SUMMIT = 9000

/** Land in the colours of its heights. */
export function landRaster(plan: BlockPlan, side: number, { land, ice }: StyleSheet, { height }: EarthSurface): MapRaster {
  const colourOf = ramp(land, SUMMIT)
  const iceColour = ice === undefined ? undefined : rgbOf(ice)
  return rasterOf(plan, side, (at, pixels, i) => {
    const metres = valueAt(height, at.lon, at.lat)
    put(pixels, i, iceColour && isIceSheet(at, metres) ? iceColour : colourOf(metres), 255)
  })
}

/** The two ice sheets of the Earth, roughly: all of Antarctica, and of Greenland what is high. Bounds from general knowledge. */
const isIceSheet = ({ lon, lat }: LonLat, metres: number): boolean =>
  lat < -62 ||
  (metres > 700 && lat > 60 && lon > -58 && lon < -18 && !(lat < 67 && lon > -26)) ||
  (metres > 700 && lat > 75 && lon >= -70 && lon <= -58)

/** The sea in the colours of its depths. */
export function seaRaster(plan: BlockPlan, side: number, { sea, deep }: StyleSheet, { depth }: EarthSurface): MapRaster {
  const colourOf = ramp([[0, sea], [1, deep ?? sea]], 1) // prettier-ignore
  return rasterOf(plan, side, (at, pixels, i) => put(pixels, i, colourOf(valueAt(depth, at.lon, at.lat)), 255))
}

/** What is laid over the land so that it shows its slopes. @param strength 0..1 */
export function shadeRaster(
  plan: BlockPlan,
  side: number,
  { dark, light }: NonNullable<StyleSheet['shade']>,
  strength: number,
  { shade }: EarthSurface,
): MapRaster {
  const [darker, lighter] = [rgbOf(dark), rgbOf(light)]
  return rasterOf(plan, side, (at, pixels, i) => {
    const value = valueAt(shade, at.lon, at.lat)
    put(pixels, i, value < 0 ? darker : lighter, 255 * strength * (value < 0 ? -value : 0.7 * value))
  })
}

/** A picture of the Earth in the map's projection. */
export function pictureRaster(plan: BlockPlan, side: number, { width, height, rgb }: EarthPicture): MapRaster {
  return rasterOf(plan, side, ({ lon, lat }, pixels, i) => {
    const x = ((lon + 180) / 360) * width - 0.5
    const y = clamp(((90 - lat) / 180) * height - 0.5, 0, height - 1)
    const [column, row] = [Math.floor(x), Math.min(height - 2, Math.floor(y))]
    const [u, v] = [x - column, y - row]
    const [west, east] = [((column % width) + width) % width, (((column + 1) % width) + width) % width]
    const at = [row * width + west, row * width + east, (row + 1) * width + west, (row + 1) * width + east] as const
    for (let c = 0; c < 3; c++) {
      const top = rgb[3 * at[0] + c]! * (1 - u) + rgb[3 * at[1] + c]! * u
      const bottom = rgb[3 * at[2] + c]! * (1 - u) + rgb[3 * at[3] + c]! * u
      pixels[i + c] = top + (bottom - top) * v
    }
    pixels[i + 3] = 255
  })
}
