import type { BentGround } from '#core/camera/projection-type'
import type { AirItem } from '#core/frame/frame'
import { rgbOf } from '#core/colour/srgb'
import { degrees } from '#core/geometry/angle'
import type { Point } from '#core/geometry/point'
import type { Size } from '#core/geometry/size'
import type { CanvasSpace } from '../canvas-space'
import { placeInFrame } from '../canvas-space'
import { cloudAt } from './clouds'
import type { Surface } from '../studio'
import { SOFT_SCALE } from '../ink/soft'

/** What is painted over ground that is bent to a globe: the sky, the air and the clouds. */

type Layer = (width: number, height: number) => Surface

/** The edge of a globe is found in so many directions from the middle of the frame: what lies between two of them is straight to a fiftieth of a pixel. */
const DIRECTIONS = 768

/** The edge of a globe in the frame, in reference pixels; where it is further away than the frame is large, a place outside the frame. */
function edgeOf({ inside }: BentGround, { width, height }: Size): Point[] {
  const far = width + height
  return Array.from({ length: DIRECTIONS }, (_, i) => {
    const [x, y] = [Math.cos((2 * Math.PI * i) / DIRECTIONS), Math.sin((2 * Math.PI * i) / DIRECTIONS)]
    const at = (distance: number) => ({ x: width / 2 + x * distance, y: height / 2 + y * distance })
    return at(crossingOf((distance) => inside(at(distance)), far))
  })
}

/** How far the edge may be off, in reference pixels. */
const EXACT = 1e-3

/** Where a function that is above 0 at 0 comes to 0, by the Illinois method (Dowell and Jarratt 1971); the end, if it does not before that; 0 if it is not. */
function crossingOf(f: (x: number) => number, end: number): number {
  let [a, fa] = [0, f(0)]
  let [b, fb] = [end, f(end)]
  if (fa <= 0) return 0
  if (fb >= 0) return end
  for (let last = 0, i = 0; i < 60; i++) {
    const x = (a * fb - b * fa) / (fb - fa)
    const fx = f(x)
    if (Math.abs(fx) < EXACT || b - a < EXACT) return x
    if (fx > 0) {
      ;[a, fa] = [x, fx]
      if (last > 0) fb /= 2
      last = 1
    } else {
      ;[b, fb] = [x, fx]
      if (last < 0) fa /= 2
      last = -1
    }
  }
  return (a + b) / 2
}

/** The sky beside a globe, up to its very edge: it covers what is there of the ground. */
function paintSky(context: CanvasRenderingContext2D, space: CanvasSpace, bent: BentGround, colour: string): void {
  const { width, height } = space.reference
  placeInFrame(context, space)
  context.fillStyle = colour
  context.beginPath()
  context.rect(-1, -1, width + 2, height + 2)
  const [first, ...others] = edgeOf(bent, space.reference)
  context.moveTo(first!.x, first!.y)
  for (const { x, y } of others) context.lineTo(x, y)
  context.closePath()
  context.fill('evenodd')
}

/** The halo reaches so far beyond the globe: the length over which it falls to 1/e, as a share of the frame's height. */
const HALO = 0.022
/** How much of its colour the air has at the edge, and in the middle. */
const AIR_AT_EDGE = 0.8
const AIR_IN_MIDDLE = 0.05
const CLOUD = [250, 252, 255] as const
/** The thickest clouds let a little through. */
const CLOUD_OPACITY = 0.9

/** What is seen is worked out at the corners of squares of so many pixels, and interpolated where it changes little. */
const APART = 4
/** Where one looks more directly at the ground than this, it does. */
const DIRECT = 0.35
/** Beyond so many times the halo's length nothing is left of it. */
const HALO_END = 6

/**
 * What is round a globe: the sky, the air along its edge and the light beyond it, and clouds, which give way as the ground is flattened. All but the sky is
 * painted at the resolution of all that is soft, so that it looks the same at every size.
 */
export function paintAir(
  context: CanvasRenderingContext2D,
  space: CanvasSpace,
  bent: BentGround,
  { sky, drift }: AirItem,
  layer: Layer,
): void {
  paintSky(context, space, bent, sky.colour)
  const { reference, scale } = space
  const [width, height] = [Math.ceil(reference.width * SOFT_SCALE), Math.ceil(reference.height * SOFT_SCALE)]
  const surface = layer(width, height)
  const image = surface.context.createImageData(width, height)
  const { data } = image
  const [red, green, blue] = rgbOf(sky.air) as [number, number, number]
  const { share } = bent
  const cover = sky.clouds * share * share
  const halo = HALO * reference.height
  const middle = AIR_IN_MIDDLE * share

  /** @param inside how far within the globe's edge @param facing how directly one looks at it @param cloud how thick the clouds are */
  const put = (x: number, y: number, inside: number, facing: number, cloud: number): void => {
    const grazing = 1 - facing
    const air = inside < 0 ? AIR_AT_EDGE * Math.exp(inside / halo) : middle + (AIR_AT_EDGE - middle) * grazing * grazing * grazing
    // Towards the edge the clouds fade into the air, which lies over them.
    const clouded = CLOUD_OPACITY * cloud * (1 - grazing * grazing * grazing * grazing) * (1 - air)
    const whole = air + clouded
    if (whole < 1 / 510) return
    const i = 4 * (y * width + x)
    data[i] = (red * air + CLOUD[0] * clouded) / whole
    data[i + 1] = (green * air + CLOUD[1] * clouded) / whole
    data[i + 2] = (blue * air + CLOUD[2] * clouded) / whole
    data[i + 3] = 255 * whole
  }
  const seen = new Float64Array(2)
  const cloudsBy = (place: Point): number => {
    const { lon, lat } = bent.spotBy(place)
    return cloudAt(degrees(lon) - drift, degrees(lat), cover)
  }

  const { inside, facing, cloud, columns } = cornersOf(bent, width, height, cover > 0 ? cloudsBy : undefined)
  for (let top = 0; top < height; top += APART) {
    for (let left = 0; left < width; left += APART) {
      const a = (top / APART) * columns + left / APART
      const [b, c, d] = [a + 1, a + columns, a + columns + 1]
      if (Math.max(inside[a]!, inside[b]!, inside[c]!, inside[d]!) < -HALO_END * halo) continue
      const isPlain = Math.min(facing[a]!, facing[b]!, facing[c]!, facing[d]!) > DIRECT
      for (let y = top; y < Math.min(height, top + APART); y++) {
        const fy = (y - top) / APART
        for (let x = left; x < Math.min(width, left + APART); x++) {
          const fx = (x - left) / APART
          const clouds = between(cloud, a, c, fx, fy)
          if (isPlain) {
            put(x, y, between(inside, a, c, fx, fy), between(facing, a, c, fx, fy), clouds)
            continue
          }
          bent.look((x + 0.5) / SOFT_SCALE, (y + 0.5) / SOFT_SCALE, seen)
          put(x, y, seen[0]!, seen[1]!, seen[0]! < 0 ? 0 : clouds)
        }
      }
    }
  }
  surface.context.putImageData(image, 0, 0)
  context.setTransform(1, 0, 0, 1, 0, 0)
  context.imageSmoothingEnabled = true
  context.imageSmoothingQuality = 'low'
  context.drawImage(surface.image, 0, 0, width, height, 0, 0, (width / SOFT_SCALE) * scale, (height / SOFT_SCALE) * scale)
}

/** Between four corners of a square, of which the upper two begin at `above` and the lower two at `below`. */
function between(values: Float64Array, above: number, below: number, fx: number, fy: number): number {
  const upper = values[above]! + (values[above + 1]! - values[above]!) * fx
  return upper + (values[below]! + (values[below + 1]! - values[below]!) * fx - upper) * fy
}

/** What is seen at the corners of the squares of a soft layer. */
function cornersOf(bent: BentGround, width: number, height: number, cloudsBy: ((place: Point) => number) | undefined) {
  const columns = Math.ceil(width / APART) + 1
  const rows = Math.ceil(height / APART) + 1
  const made = () => new Float64Array(columns * rows)
  const [inside, facing, cloud] = [made(), made(), made()]
  const seen = new Float64Array(2)
  for (let row = 0; row < rows; row++) {
    for (let column = 0; column < columns; column++) {
      const place = { x: (column * APART + 0.5) / SOFT_SCALE, y: (row * APART + 0.5) / SOFT_SCALE }
      const i = row * columns + column
      bent.look(place.x, place.y, seen)
      inside[i] = seen[0]!
      facing[i] = seen[1]!
      // Only what is near enough to mix with what is within the edge.
      cloud[i] = seen[0]! > -2 * (APART / SOFT_SCALE) ? (cloudsBy?.(place) ?? 0) : 0
    }
  }
  return { inside, facing, cloud, columns }
}
