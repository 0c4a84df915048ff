import { greatest } from '#core/geometry/extremes'
import { rgbOf } from '#core/colour/srgb'
import { clamp } from '#core/geometry/clamp'
import type { Point } from '#core/geometry/point'
import type { Size } from '#core/geometry/size'
import type { CanvasSpace } from '../canvas-space'
import type { ModuleCode } from '../module'
import { startModule } from '../module'
import type { Region } from '../region'
import { isEmpty, onCanvas, unionOf } from '../region'
import type { Studio, Surface } from '../studio'
import type { CutStrand } from './cut'
import { cutPart } from './cut'
import { paintShapes } from './ground-shape'
import type { InkPart } from './ink-parts'
import type { Strand } from './strand'
import { STRIDE } from './strand'
import { paintStrands } from './stroke'

/** What is soft is painted with so many pixels to the reference pixel, whatever the output's size: so it looks the same at every size, and costs little. */
export const SOFT_SCALE = 1 / 3

/** A Gaussian has faded to a hundredth at so many standard deviations, and ends there. */
export const GAUSSIAN_REACH = 3

/** A Gaussian that parts of a line are blurred by. */
export interface Softness {
  /** Its standard deviation, in reference pixels at the middle of the view; 0 for none. */
  sigma: number
  /** What it is multiplied by. */
  gain: number
}

/** A soft picture: so much of an image from its upper left corner, and the part of the frame that it covers, in output pixels. */
export interface SoftPicture {
  image: CanvasImageSource
  pixels: Size
  covers: Region
}

/** Takes from what is painted on a canvas that draws in the frame's reference pixels. */
export type Erase = (context: CanvasRenderingContext2D) => void

/** The kernel's sums take four floats at a time. */
const LANES = 4

/** Bytes that may be read beyond the end of a block. */
const SPARE = 64

/** Blurs lines. The pixels of a mask are read and blurred by our own module: canvases take several times as long, and each for itself. */
export function createSoftener(studio: Studio) {
  let code: ModuleCode | undefined
  let mask: Surface | undefined
  let light: Surface | undefined
  const blocks = { rgba: { at: 0, bytes: 0 }, rows: { at: 0, bytes: 0 }, columns: { at: 0, bytes: 0 }, sum: { at: 0, bytes: 0 }, weights: { at: 0, bytes: 0 } } // prettier-ignore

  /** A block of the module's memory with room for so many bytes, all zero. */
  function block(name: keyof typeof blocks, bytes: number): number {
    code ??= startModule()
    const known = blocks[name]
    if (known.bytes < bytes) {
      if (known.bytes > 0) code.release(known.at)
      blocks[name] = { at: code.allocate(bytes + SPARE), bytes }
    }
    code.clear(blocks[name].at, Math.ceil(bytes / 4))
    return blocks[name].at
  }

  /** The mask of what is painted within a region, in soft pixels of the frame, which may go beyond its edges. */
  function maskOf(region: Region, paint: (context: CanvasRenderingContext2D) => void): ImageData {
    const { x, y, width, height } = region
    if (!mask || mask.width < width || mask.height < height)
      mask = studio.createSurface(Math.max(width, mask?.width ?? 0), Math.max(height, mask?.height ?? 0), true)
    const { context } = mask
    context.setTransform(1, 0, 0, 1, 0, 0)
    context.clearRect(0, 0, width, height)
    context.setTransform(SOFT_SCALE, 0, 0, SOFT_SCALE, -x, -y)
    paint(context)
    return context.getImageData(0, 0, width, height)
  }

  return {
    /**
     * Paints the sum of parts of a line blurred by several Gaussians, those further away less, in one colour.
     * @param over regions of the output in which it is wanted, in whole pixels
     * @param shape.grow reference pixels by which the parts are larger all round; `erase` takes from their shape before it is blurred
     * @returns undefined where none of it is to be seen; good until the next is painted
     */
    soften(
      space: CanvasSpace,
      parts: readonly InkPart[],
      colour: string,
      softness: readonly Softness[],
      over: readonly Region[],
      { grow = 0, erase }: { grow?: number; erase?: Erase | undefined } = {},
    ): SoftPicture | undefined {
      const wanted = softRegion(space, over)
      if (!wanted) return undefined
      const sumStride = wanted.width + LANES
      const sum = block('sum', 4 * sumStride * wanted.height)
      for (const { depth, parts: near } of byDepth(parts, space.projection.isFlat)) {
        const sigmas = softness.map(({ sigma }) => sigma * depth * SOFT_SCALE)
        const most = Math.ceil(GAUSSIAN_REACH * greatest(sigmas))
        const seen = wholeLanes(overlapOf(grown(boundsOf(near, grow), most), wanted))
        if (isEmpty(seen)) continue
        // What is blurred into what is seen lies as far round it.
        const { data, width, height } = maskOf(grown(seen, most), (context) => {
          paintMask(context, near, grow)
          erase?.(context)
        })
        const rgba = block('rgba', data.length)
        new Uint8Array(code!.memory.buffer, rgba, data.length).set(data)
        const rows = block('rows', 4 * width * height)
        code!.takeAlpha(rgba, width, height, rows, width)
        for (const [i, { gain }] of softness.entries()) {
          const reach = Math.ceil(GAUSSIAN_REACH * sigmas[i]!)
          const kernel = gaussian(sigmas[i]!, reach)
          const columns = block('columns', 4 * seen.width * (seen.height + 2 * reach))
          const from = rows + 4 * (most - reach) * (width + 1)
          code!.blurRows(from, width, columns, seen.width, seen.width, seen.height + 2 * reach, weightsOf(kernel, 1), kernel.length)
          const to = sum + 4 * (sumStride * (seen.y - wanted.y) + seen.x - wanted.x)
          code!.blurColumns(columns, seen.width, to, sumStride, seen.width, seen.height, weightsOf(kernel, gain), kernel.length)
        }
      }
      return pictureOf(space, wanted, sum, sumStride, colour)
    },
  }

  function weightsOf(kernel: readonly number[], gain: number): number {
    const at = block('weights', 4 * kernel.length)
    new Float32Array(code!.memory.buffer, at, kernel.length).set(kernel.map((weight) => weight * gain))
    return at
  }

  function pictureOf(space: CanvasSpace, { x, y, width, height }: Region, sum: number, stride: number, colour: string): SoftPicture {
    const rgba = block('rgba', 4 * width * height)
    const [r, g, b] = rgbOf(colour)
    code!.paintAlpha(sum, stride, width, height, r! | (g! << 8) | (b! << 16), rgba)
    const pixels = new Uint8ClampedArray(code!.memory.buffer as ArrayBuffer, rgba, 4 * width * height)
    if (!light || light.width < width || light.height < height)
      light = studio.createSurface(Math.max(width, light?.width ?? 0), Math.max(height, light?.height ?? 0))
    light.context.putImageData(studio.imageOf(pixels, width, height), 0, 0)
    const k = space.scale / SOFT_SCALE
    return { image: light.image, pixels: { width, height }, covers: { x: x * k, y: y * k, width: width * k, height: height * k } }
  }
}

export type Softener = ReturnType<typeof createSoftener>

/** Lays a soft picture on the frame, within regions of it: along a line they are a small part of its bounds. @param by how far it is moved, in output pixels */
export function laySoft(
  context: CanvasRenderingContext2D,
  { image, pixels, covers }: SoftPicture,
  over: readonly Region[],
  by: Point,
): void {
  context.save()
  context.setTransform(1, 0, 0, 1, 0, 0)
  context.beginPath()
  for (const { x, y, width, height } of over) context.rect(x, y, width, height)
  context.clip()
  context.drawImage(image, 0, 0, pixels.width, pixels.height, covers.x + by.x, covers.y + by.y, covers.width, covers.height)
  context.restore()
}

/** The weights of a Gaussian, which add up to 1. */
function gaussian(sigma: number, reach: number): number[] {
  const weights = Array.from({ length: 2 * reach + 1 }, (_, i) => (sigma > 0 ? Math.exp(-((i - reach) ** 2) / (2 * sigma * sigma)) : 1))
  const sum = weights.reduce((a, b) => a + b)
  return weights.map((weight) => weight / sum)
}

function paintMask(context: CanvasRenderingContext2D, parts: readonly InkPart[], grow: number): void {
  context.strokeStyle = '#000000'
  for (const part of parts) {
    if (part.kind === 'strands') paintStrands(context, part.strands, { ...part.stroke, width: part.stroke.width + 2 * grow })
    else paintShapes(context, part.shapes, '#000000', grow)
  }
}

/** The whole soft pixels that regions of the output are painted from; undefined where these are empty. */
function softRegion({ reference, scale }: CanvasSpace, over: readonly Region[]): Region | undefined {
  const bounds = unionOf(over)
  if (!bounds) return undefined
  const k = SOFT_SCALE / scale
  const frame = { width: Math.ceil(reference.width * SOFT_SCALE), height: Math.ceil(reference.height * SOFT_SCALE) }
  const region = onCanvas({ x: bounds.x * k, y: bounds.y * k, width: bounds.width * k, height: bounds.height * k }, 1, frame)
  return isEmpty(region) ? undefined : region
}

const grown = ({ x, y, width, height }: Region, by: number): Region => ({ x: x - by, y: y - by, width: width + 2 * by, height: height + 2 * by }) // prettier-ignore

function overlapOf(a: Region, b: Region): Region {
  const [x, y] = [Math.max(a.x, b.x), Math.max(a.y, b.y)]
  return { x, y, width: Math.min(a.x + a.width, b.x + b.width) - x, height: Math.min(a.y + a.height, b.y + b.height) - y }
}

const wholeLanes = (region: Region): Region => ({ ...region, width: LANES * Math.ceil(region.width / LANES) })

/** What parts cover, in whole soft pixels. */
function boundsOf(parts: readonly InkPart[], grow: number): Region {
  let [left, right, top, bottom] = [Infinity, -Infinity, Infinity, -Infinity]
  const include = (x: number, y: number, reach: number) => {
    left = Math.min(left, x - reach)
    right = Math.max(right, x + reach)
    top = Math.min(top, y - reach)
    bottom = Math.max(bottom, y + reach)
  }
  for (const part of parts) {
    if (part.kind === 'strands') {
      // The corner of a square cap reaches furthest.
      const half = (part.stroke.width + 2 * grow) * Math.SQRT1_2
      for (const { points } of part.strands)
        for (let i = 0; i < points.length; i += STRIDE) include(points[i]!, points[i + 1]!, half * points[i + 2]!)
    } else
      for (const { rings } of part.shapes)
        for (const ring of rings) for (let i = 0; i < ring.length; i += 2) include(ring[i]!, ring[i + 1]!, grow)
  }
  if (left > right) return { x: 0, y: 0, width: 0, height: 0 }
  const [x, y] = [Math.floor(left * SOFT_SCALE) - 1, Math.floor(top * SOFT_SCALE) - 1]
  return { x, y, width: Math.ceil(right * SOFT_SCALE) + 1 - x, height: Math.ceil(bottom * SOFT_SCALE) + 1 - y }
}

/** What lies within a band of depth is blurred by one radius; from one band to the next it grows by this factor. */
const BAND = 1.25

/** What is drawn smaller or larger than this is blurred as if it were as small or as large: in the frame nothing is as near. */
const LEAST_DEPTH = 0.1
const MOST_DEPTH = 3

const bandOf = (depth: number): number => Math.round(Math.log(clamp(depth, LEAST_DEPTH, MOST_DEPTH)) / Math.log(BAND))

/** Parts cut into bands by how far away they are, and the scale in the middle of each. */
function byDepth(parts: readonly InkPart[], isFlat: boolean): { depth: number; parts: InkPart[] }[] {
  if (isFlat) return [{ depth: 1, parts: [...parts] }]
  const bands = new Map<number, InkPart[]>()
  const add = (band: number, part: InkPart) => {
    const known = bands.get(band)
    if (known) known.push(part)
    else bands.set(band, [part])
  }
  for (const part of parts) {
    if (part.kind === 'shapes') for (const shape of part.shapes) add(bandOf(shape.depth), { kind: 'shapes', shapes: [shape] })
    else
      for (const strand of part.strands)
        for (const { band, ...cut } of cutByBand(strand)) for (const piece of cutPart(part, cut)) add(band, piece)
  }
  return [...bands].map(([band, near]) => ({ depth: BAND ** band, parts: near }))
}

/** A strand cut where it passes from one band to the next. Bands are added up, so caps there would be counted twice. */
function cutByBand({ points, isEven }: Strand): (CutStrand & { band: number })[] {
  const pieces: (CutStrand & { band: number })[] = []
  let start = 0
  const band = (i: number) => bandOf(points[i + 2]!)
  for (let i = STRIDE; i < points.length; i += STRIDE) {
    const isLast = i + STRIDE >= points.length
    if (!isLast && band(i) === band(start)) continue
    pieces.push({ band: band(start), strand: { points: points.slice(start, i + STRIDE), isEven }, isFirst: start === 0, isLast })
    start = i
  }
  return pieces
}
