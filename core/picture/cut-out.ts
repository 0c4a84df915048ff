import { clamp } from '../geometry/clamp'

/** A small picture: RGBA, row by row, alpha not premultiplied. */
export interface Rgba {
  width: number
  height: number
  pixels: Uint8ClampedArray
}

type Colour = readonly [red: number, green: number, blue: number]

/** What lies round a thing that was pictured in a box: one colour, or the two of a painted checkerboard. */
export type Background = readonly [Colour] | readonly [Colour, Colour]

/** Less alpha than this counts as nothing, of 255. */
const FAINT = 8

/** The part of a picture that is not transparent; undefined if all of it is. */
export function opaquePart({ width, height, pixels }: Rgba): { left: number; top: number; width: number; height: number } | undefined {
  let [left, top, right, bottom] = [width, height, -1, -1]
  for (let y = 0; y < height; y++)
    for (let x = 0; x < width; x++) {
      if (pixels[4 * (y * width + x) + 3]! < FAINT) continue
      left = Math.min(left, x)
      right = Math.max(right, x)
      top = Math.min(top, y)
      bottom = Math.max(bottom, y)
    }
  return right < left ? undefined : { left, top, width: right - left + 1, height: bottom - top + 1 }
}

/** Colours closer to each other than this count as one, as a JPEG changes them a little; the distance of red, green and blue, each of 255. */
const ALIKE = 26

/** The share of a picture's outermost pixels that a box must cover, and how often a checkerboard changes along them. */
const MOST_OF = 0.94
const CHANGES = 8

/** The background of a picture that stands in an opaque box; undefined if there is none to be seen. */
export function noticedBackground({ width, height, pixels }: Rgba): Background | undefined {
  const border: Colour[] = []
  const add = (x: number, y: number) => {
    const i = 4 * (y * width + x)
    if (pixels[i + 3]! >= 250) border.push([pixels[i]!, pixels[i + 1]!, pixels[i + 2]!])
  }
  for (let x = 0; x < width; x++) add(x, 0)
  for (let y = 1; y < height; y++) add(width - 1, y)
  for (let x = width - 2; x >= 0; x--) add(x, height - 1)
  for (let y = height - 2; y > 0; y--) add(0, y)
  const all = 2 * (width + height) - 4
  if (width < 3 || height < 3 || border.length < MOST_OF * all) return undefined
  const first = meanOf(border.filter((colour) => distance(colour, border[0]!) < ALIKE))
  const others = border.filter((colour) => distance(colour, first) >= ALIKE)
  if (others.length <= (1 - MOST_OF) * border.length) return [first]
  const second = meanOf(others.filter((colour) => distance(colour, others[0]!) < ALIKE))
  const isNear = (colour: Colour) => toSegment(colour, first, second) < ALIKE
  const changes = border.filter((colour, i) => i > 0 && isFirst(colour, first, second) !== isFirst(border[i - 1]!, first, second)).length
  return changes >= CHANGES && border.filter(isNear).length >= MOST_OF * border.length ? [first, second] : undefined
}

const isFirst = (colour: Colour, first: Colour, second: Colour): boolean => distance(colour, first) < distance(colour, second)

/**
 * A picture without its background: what is connected to its edges and like the background in colour becomes transparent.
 * @param tolerance how unlike the background a colour may be, as a distance of red, green and blue of 255 each
 * @param feather how far the new edge is softened, in pixels
 */
export function cutOut({ width, height, pixels }: Rgba, background: Background, tolerance: number, feather: number): Rgba {
  const [first, second = first] = background
  const isBackground = (i: number) =>
    pixels[4 * i + 3]! < FAINT || toSegment([pixels[4 * i]!, pixels[4 * i + 1]!, pixels[4 * i + 2]!], first, second) <= tolerance
  const kept = new Float32Array(width * height).fill(1)
  const open: number[] = []
  const visit = (i: number) => {
    if (kept[i] === 0 || !isBackground(i)) return
    kept[i] = 0
    open.push(i)
  }
  for (let x = 0; x < width; x++) {
    visit(x)
    visit((height - 1) * width + x)
  }
  for (let y = 0; y < height; y++) {
    visit(y * width)
    visit(y * width + width - 1)
  }
  for (let i = open.pop(); i !== undefined; i = open.pop()) {
    const x = i % width
    if (x > 0) visit(i - 1)
    if (x + 1 < width) visit(i + 1)
    if (i >= width) visit(i - width)
    if (i + width < kept.length) visit(i + width)
  }
  // The soft edge lies on the inner side: of the outermost pixels some of the colour is the background's.
  const soft = feather > 0 ? blurred(kept, width, height, Math.max(1, Math.round(feather))) : kept
  const cut = pixels.slice()
  for (let i = 0; i < kept.length; i++)
    cut[4 * i + 3] = kept[i] === 0 ? 0 : pixels[4 * i + 3]! * (feather > 0 ? clamp(2 * soft[i]! - 1, 0, 1) : 1)
  return { width, height, pixels: cut }
}

/** Values averaged over squares of 2 r + 1; beyond the edges there is nothing. */
function blurred(values: Float32Array, width: number, height: number, r: number): Float32Array {
  const pass = (from: Float32Array, count: number, length: number, step: number, stride: number): Float32Array => {
    const to = new Float32Array(from.length)
    for (let line = 0; line < count; line++) {
      const start = line * stride
      let sum = 0
      for (let k = 0; k < Math.min(r, length); k++) sum += from[start + k * step]!
      for (let k = 0; k < length; k++) {
        if (k + r < length) sum += from[start + (k + r) * step]!
        if (k - r - 1 >= 0) sum -= from[start + (k - r - 1) * step]!
        to[start + k * step] = sum / (2 * r + 1)
      }
    }
    return to
  }
  return pass(pass(values, height, width, 1, width), width, height, width, 1)
}

const distance = (a: Colour, b: Colour): number => Math.hypot(a[0] - b[0], a[1] - b[1], a[2] - b[2])

/** The distance of a colour from those between two others. */
function toSegment(colour: Colour, a: Colour, b: Colour): number {
  const [dr, dg, db] = [b[0] - a[0], b[1] - a[1], b[2] - a[2]]
  const square = dr * dr + dg * dg + db * db
  const u = square > 0 ? clamp(((colour[0] - a[0]) * dr + (colour[1] - a[1]) * dg + (colour[2] - a[2]) * db) / square, 0, 1) : 0
  return distance(colour, [a[0] + u * dr, a[1] + u * dg, a[2] + u * db])
}

const meanOf = (colours: readonly Colour[]): Colour =>
  colours
    .reduce((sum, colour) => [sum[0] + colour[0], sum[1] + colour[1], sum[2] + colour[2]], [0, 0, 0])
    .map((value) => value / Math.max(1, colours.length)) as unknown as Colour
