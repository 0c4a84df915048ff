import type { BentGround } from '#core/camera/globe-projection'
import type { AirItem, SheetItem } from '#core/frame/frame'
import { rgbOf } from '#core/colour/srgb'
import { clamp } from '#core/geometry/clamp'
import { degrees, wrapDegrees } from '#core/geometry/angle'
import type { CanvasSpace } from './canvas-space'
import { cloudAt } from './clouds'
import type { Surface } from './studio'
import { SOFT_SCALE } from './glow'
import { fillSquare, meshOf, squaresOf } from './globe-mesh'
import type { Texture } from './texture'
import { edgeColour } from './texture'

/** Painting ground that is bent to a globe: sheets by their meshes, and over them the sky, the air and the clouds. */

type Layer = (width: number, height: number) => Surface

/** The sky is laid in squares that are so large at first, in output pixels; those on the edge of the globe are cut in four, down to pixels. */
const LARGEST = 16

const sizeOf = ({ reference, scale }: CanvasSpace) => ({
  width: Math.round(reference.width * scale),
  height: Math.round(reference.height * scale),
})

/** The sky beside a globe, up to its very edge: it covers what is there of the ground. */
function paintSky(context: CanvasRenderingContext2D, space: CanvasSpace, { inside }: BentGround, colour: string): void {
  const { width, height } = sizeOf(space)
  const { scale } = space
  context.setTransform(1, 0, 0, 1, 0, 0)
  context.fillStyle = colour
  /** How much of the square about a place is beside the globe, in squares of a pixel. */
  const beside = (x: number, y: number) => inside({ x: x / scale, y: y / scale }) * scale
  const fill = (x: number, y: number, size: number): void => {
    const middle = beside(x + size / 2, y + size / 2)
    if (middle > size) return
    if (middle < -size || size === 1) {
      context.globalAlpha = clamp(0.5 - middle, 0, 1)
      context.fillRect(x, y, size, size)
      return
    }
    for (const [dx, dy] of QUARTERS) fill(x + (dx * size) / 2, y + (dy * size) / 2, size / 2)
  }
  for (let y = 0; y < height; y += LARGEST) for (let x = 0; x < width; x += LARGEST) fill(x, y, LARGEST)
  context.globalAlpha = 1
}

const QUARTERS = [[0, 0], [1, 0], [0, 1], [1, 1]] as const // prettier-ignore

/** A sheet on bent ground. @param texture its finest picture, which may have a wash */
export function paintBentSheet(
  context: CanvasRenderingContext2D,
  space: CanvasSpace,
  bent: BentGround,
  { sheet, opacity }: SheetItem,
  texture: Texture,
  layer: Layer,
): void {
  const { projection, scale } = space
  const { width, height } = sizeOf(space)
  const surface = layer(width, height)
  const image = surface.context.createImageData(width, height)
  const mesh = meshOf(texture, sheet, projection.view.bend!.globe)
  const target = { data: new Uint32Array(image.data.buffer), width, height }
  // Where a map of the world is folded while it is flattened, near the poles, nothing of it is seen.
  if (mesh.clamps) target.data.fill(edgeColour(texture))
  for (const square of squaresOf(mesh, projection, bent, scale)) fillSquare(target, square, texture, mesh)
  surface.context.putImageData(image, 0, 0)
  context.setTransform(1, 0, 0, 1, 0, 0)
  context.globalAlpha = opacity
  context.drawImage(surface.image, 0, 0)
  context.globalAlpha = 1
}

/** The halo reaches so far beyond the globe: the length over which it falls to 1/e, as a share of the frame's height. */
const HALO = 0.022
/** How much of its colour the air has at the edge, and in the middle. */
const AIR_AT_EDGE = 0.8
const AIR_IN_MIDDLE = 0.05
/** How soon the air gives way towards the middle. */
const AIR_POWER = 3.5
const CLOUD = [250, 252, 255] as const
/** The thickest clouds let a little through. */
const CLOUD_OPACITY = 0.9

/** Spots on the Earth are worked out for each of so many pixels, either way, and interpolated. */
const APART = 4

/** How thick the clouds are at each pixel of a soft layer; undefined where there are none. */
function cloudsOver(
  bent: BentGround,
  cover: number,
  drift: number,
  width: number,
  height: number,
): ((x: number, y: number) => number) | undefined {
  if (cover <= 0) return undefined
  const columns = Math.ceil(width / APART) + 1
  const rows = Math.ceil(height / APART) + 1
  const [lons, lats] = [new Float64Array(columns * rows), new Float64Array(columns * rows)]
  for (let row = 0; row < rows; row++) {
    for (let column = 0; column < columns; column++) {
      const { lon, lat } = bent.spotBy({ x: (column * APART + 0.5) / SOFT_SCALE, y: (row * APART + 0.5) / SOFT_SCALE })
      lons[row * columns + column] = degrees(lon) - drift
      lats[row * columns + column] = degrees(lat)
    }
  }
  return (x, y) => {
    const column = Math.floor(x / APART)
    const row = Math.floor(y / APART)
    const fx = x / APART - column
    const fy = y / APART - row
    const i = row * columns + column
    const lon = lons[i]!
    // As turns from the first corner, wherever longitudes are counted from.
    const right = wrapDegrees(lons[i + 1]! - lon) * fx
    const left = wrapDegrees(lons[i + columns]! - lon)
    const across = left + (wrapDegrees(lons[i + columns + 1]! - lon) - left) * fx
    const north = lats[i]! + (lats[i + 1]! - lats[i]!) * fx
    const south = lats[i + columns]! + (lats[i + columns + 1]! - lats[i + columns]!) * fx
    return cloudAt(lon + right + (across - right) * fy, north + (south - north) * fy, cover)
  }
}

/**
 * What is round a globe: the sky, the air along its edge and the light beyond it, and clouds, which give way as the ground is flattened. All but the sky is painted at
 * the resolution of all that is soft, so that it looks the same at every size.
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
  const [red, green, blue] = rgbOf(sky.air)
  const { share } = bent
  const clouds = cloudsOver(bent, sky.clouds * share * share, drift, width, height)
  const seen = new Float64Array(2)
  for (let y = 0; y < height; y++) {
    for (let x = 0; x < width; x++) {
      bent.look((x + 0.5) / SOFT_SCALE, (y + 0.5) / SOFT_SCALE, seen)
      const inside = seen[0]!
      const grazing = 1 - seen[1]!
      const air =
        inside < 0
          ? AIR_AT_EDGE * Math.exp(inside / (HALO * reference.height))
          : AIR_IN_MIDDLE * share + (AIR_AT_EDGE - AIR_IN_MIDDLE * share) * grazing ** AIR_POWER
      // Towards the edge the clouds fade into the air, which lies over them.
      const cloud = inside < 0 || !clouds ? 0 : CLOUD_OPACITY * clouds(x, y) * (1 - grazing ** 4) * (1 - air)
      const whole = air + cloud
      if (whole < 1 / 510) continue
      const i = 4 * (y * width + x)
      data[i] = (red! * air + CLOUD[0] * cloud) / whole
      data[i + 1] = (green! * air + CLOUD[1] * cloud) / whole
      data[i + 2] = (blue! * air + CLOUD[2] * cloud) / whole
      data[i + 3] = 255 * whole
    }
  }
  surface.context.putImageData(image, 0, 0)
  context.setTransform(1, 0, 0, 1, 0, 0)
  context.imageSmoothingEnabled = true
  context.imageSmoothingQuality = 'low'
  context.drawImage(surface.image, 0, 0, width, height, 0, 0, (width / SOFT_SCALE) * scale, (height / SOFT_SCALE) * scale)
}
