import { LEVEL_BLEND } from '#core/sheet/mosaic'
import type { SheetPicture, Studio } from '../studio'

/** A picture's pixels at halving sizes, premultiplied, to be sampled wherever the ground is bent: no canvas lays a picture on a sphere. */
export interface Texture {
  /** The sheet pixel at its upper left corner, and sheet pixels to each of its pixels. */
  x: number
  y: number
  step: number
  levels: readonly Pixels[]
}

/** Pixels as a canvas has them: red, green, blue and opacity from the lowest byte up. */
interface Pixels {
  data: Int32Array
  width: number
  height: number
}

/** The texture of a picture of a sheet. @param image the picture, or a washed one in its place */
export function textureOf(studio: Pick<Studio, 'createSurface'>, picture: SheetPicture, image: CanvasImageSource): Texture {
  const { width, height } = picture.pixels
  const { context } = studio.createSurface(width, height, true)
  context.drawImage(image, 0, 0, width, height)
  const { data } = context.getImageData(0, 0, width, height)
  premultiply(data)
  const levels: Pixels[] = [{ data: new Int32Array(data.buffer, data.byteOffset, width * height), width, height }]
  for (let last = levels[0]!; Math.min(last.width, last.height) > 1; levels.push(last)) last = halved(last)
  return { x: picture.x, y: picture.y, step: picture.step, levels }
}

function premultiply(data: Uint8ClampedArray): void {
  for (let i = 3; i < data.length; i += 4) {
    const alpha = data[i]!
    if (alpha === 255) continue
    for (let k = i - 3; k < i; k++) data[k] = (data[k]! * alpha) / 255
  }
}

/** Two of the four bytes of a pixel, with room between them: both are computed with at once. */
const TWO = 0xff00ff

/** Each pixel the mean of four; what is left over at an odd edge counts twice. */
function halved({ data, width, height }: Pixels): Pixels {
  const [w, h] = [Math.ceil(width / 2), Math.ceil(height / 2)]
  const half = new Int32Array(w * h)
  for (let y = 0; y < h; y++) {
    const above = 2 * y * width
    const below = Math.min(height - 1, 2 * y + 1) * width
    for (let x = 0; x < w; x++) {
      const left = 2 * x
      const right = Math.min(width - 1, left + 1)
      const a = data[above + left]!
      const b = data[above + right]!
      const c = data[below + left]!
      const d = data[below + right]!
      const low = (((a & TWO) + (b & TWO) + (c & TWO) + (d & TWO) + 0x20002) >>> 2) & TWO
      const high = ((((a >>> 8) & TWO) + ((b >>> 8) & TWO) + ((c >>> 8) & TWO) + ((d >>> 8) & TWO) + 0x20002) >>> 2) & TWO
      half[y * w + x] = low | (high << 8)
    }
  }
  return { data: half, width: w, height: h }
}

/** The mean colour along the upper and lower edge of a texture, opaque. */
export function edgeColour({ levels }: Texture): number {
  const { data, width, height } = levels.findLast((level) => level.height >= COARSE_ROWS) ?? levels.at(-1)!
  const sums = [0, 0, 0]
  for (let x = 0; x < width; x++)
    for (const row of [0, height - 1]) for (let k = 0; k < 3; k++) sums[k]! += (data[row * width + x]! >>> (8 * k)) & 255
  const [red, green, blue] = sums.map((sum) => Math.round(sum / (2 * width)))
  return (255 << 24) | (blue! << 16) | (green! << 8) | red!
}

/** The edge of a picture is as it looks where it is so many pixels high. */
const COARSE_ROWS = 16

/** A mix of two pixels. @param share of the second one, 0..256 */
function mixed(a: number, b: number, share: number): number {
  if (a === b) return a
  const rest = 256 - share
  const low = ((Math.imul(a & TWO, rest) + Math.imul(b & TWO, share) + 0x800080) >>> 8) & TWO
  const high = (Math.imul((a >>> 8) & TWO, rest) + Math.imul((b >>> 8) & TWO, share) + 0x800080) & 0xff00ff00
  return low | high
}

/** A pixel, or the nearest at the edge, or nothing beyond it. */
function pixelAt({ data, width, height }: Pixels, x: number, y: number, clamps: boolean): number {
  if (!clamps && (x < 0 || y < 0 || x >= width || y >= height)) return 0
  const column = x < 0 ? 0 : x >= width ? width - 1 : x
  const row = y < 0 ? 0 : y >= height ? height - 1 : y
  return data[row * width + column]!
}

/** One level, bilinearly, at a place in its pixels, whose middles lie at halves. */
function bilinear(pixels: Pixels, u: number, v: number, clamps: boolean): number {
  const x = Math.floor(u - 0.5)
  const y = Math.floor(v - 0.5)
  const right = ((u - 0.5 - x) * 256) | 0
  const down = ((v - 0.5 - y) * 256) | 0
  const { data, width, height } = pixels
  if (x >= 0 && y >= 0 && x + 1 < width && y + 1 < height) {
    const i = y * width + x
    const a = data[i]!
    const b = data[i + 1]!
    const c = data[i + width]!
    const d = data[i + width + 1]!
    // Drawn maps have large areas of one colour.
    return a === b && c === d && a === c ? a : mixed(mixed(a, b, right), mixed(c, d, right), down)
  }
  const above = mixed(pixelAt(pixels, x, y, clamps), pixelAt(pixels, x + 1, y, clamps), right)
  return mixed(above, mixed(pixelAt(pixels, x, y + 1, clamps), pixelAt(pixels, x + 1, y + 1, clamps), right), down)
}

/**
 * Samples a texture along a row of pixels.
 * @param target pixels of the row that is written, not premultiplied, from `from` to before `to`; what is not there of the texture stays as it is
 * @param u @param v the place in pixels of the finest level at the first of them; `du` and `dv` to the next
 * @param detail how finely it is seen: the base-2 logarithm of its pixels to an output pixel
 * @param clamps whether the picture's edge goes on beyond it; else nothing is there
 */
export function sampleRow(
  target: Int32Array,
  from: number,
  to: number,
  { levels }: Texture,
  u: number,
  v: number,
  du: number,
  dv: number,
  detail: number,
  clamps: boolean,
): void {
  const level = Math.min(levels.length - 1, Math.max(0, detail))
  const fine = Math.floor(level)
  // As on tilted ground: the next level is laid over this one where the way to it is short.
  const share = Math.round((256 * Math.max(0, level - fine - LEVEL_BLEND)) / (1 - LEVEL_BLEND))
  const isMixed = share > 0
  const k = 2 ** -fine
  const pixels = levels[fine]!
  const coarser = isMixed ? levels[fine + 1]! : pixels
  const dx = du * k
  const dy = dv * k
  let x = u * k
  let y = v * k
  for (let i = from; i < to; i++) {
    let pixel = bilinear(pixels, x, y, clamps)
    if (isMixed) pixel = mixed(pixel, bilinear(coarser, x / 2, y / 2, clamps), share)
    const alpha = pixel >>> 24
    if (alpha === 255) target[i] = pixel
    else if (alpha > 0) target[i] = straight(pixel)
    x += dx
    y += dy
  }
}

/** A pixel that is no more premultiplied. */
function straight(pixel: number): number {
  const alpha = pixel >>> 24
  const of = (byte: number) => Math.min(255, Math.round(((byte & 255) * 255) / alpha))
  return of(pixel) | (of(pixel >>> 8) << 8) | (of(pixel >>> 16) << 16) | (alpha << 24)
}
