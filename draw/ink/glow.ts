import type { Glow } from '#core/journey/schema'
import type { CanvasSpace } from '../canvas-space'
import { placeInFrame } from '../canvas-space'
import { paintShapes } from './ground-shape'
import type { InkPart } from './ink-parts'
import type { Region } from '../region'
import { unionOf } from '../region'
import type { Strand } from './strand'
import { STRIDE } from './strand'
import { paintStrands } from './stroke'
import type { Surface } from '../studio'

/**
 * The light of a line: a sum of a narrow and a wide Gaussian, each as bright as asked right over the line, so that it falls off fast near the line and slowly
 * further out. It is added to what lies under it (screen), which is dyed in its colour first (multiply): that changes nothing on a dark map, and lets the
 * light be seen on a pale one.
 */
const LIGHTS = [
  { sigma: 0.16, share: 0.55 },
  { sigma: 0.46, share: 0.45 },
] as const

/** How much the light dyes what it falls on. */
const DYE = 0.75

/** What is soft is painted with so many pixels to the reference pixel, whatever the output's size: so it looks the same at every size, and costs little. */
export const SOFT_SCALE = 1 / 3

/** How far a glow reaches beyond the line, as a share of its radius: a Gaussian has faded to a hundredth at three standard deviations. */
export const GLOW_REACH = 3 * LIGHTS[1].sigma

/** Cleared surfaces of the size asked for. */
export interface SoftLayers {
  blurred: (width: number, height: number) => Surface
  light: (width: number, height: number) => Surface
}

/** The error function to 1.5e-7. Source: Abramowitz and Stegun, Handbook of Mathematical Functions, 7.1.26. */
function erf(x: number): number {
  const t = 1 / (1 + 0.3275911 * Math.abs(x))
  const y = 1 - ((((1.061405429 * t - 1.453152027) * t + 1.421413741) * t - 0.284496736) * t + 0.254829592) * t * Math.exp(-x * x)
  return x < 0 ? -y : y
}

/** Paints the glow of parts of a line. @param strength 0 to 1 @param over regions that hold all of it, in whole output pixels */
export function paintGlow(
  context: CanvasRenderingContext2D,
  space: CanvasSpace,
  parts: readonly InkPart[],
  width: number,
  { colour, radius }: Glow,
  strength: number,
  over: readonly Region[],
  layers: SoftLayers,
): void {
  const bounds = unionOf(over)
  if (!bounds) return
  const size = softSize(space)
  const seen = softRegion(space, bounds)
  const blurred = (paint: string, sigma: number): Surface => {
    const surface = layers.blurred(...size)
    within(surface.context, [seen], () => paintBlurred(surface.context, space, parts, paint, sigma))
    return surface
  }
  const lay = ({ image }: Surface, opacity: number, how: GlobalCompositeOperation) => {
    context.globalAlpha = opacity
    context.globalCompositeOperation = how
    laySoft(context, space, image, over, 0)
    context.globalCompositeOperation = 'source-over'
    context.globalAlpha = 1
  }
  const light = layers.light(...size)
  light.context.globalCompositeOperation = 'lighter'
  for (const { sigma, share } of LIGHTS) {
    const { image } = blurred(colour, sigma * radius)
    // A narrow line is faint once it is blurred, so it is laid over itself until it is as bright as asked.
    const gain = share / erf(width / (2 * Math.SQRT2 * sigma * radius))
    const times = Math.ceil(gain)
    const { x, y, width: across, height: down } = seen
    light.context.setTransform(1, 0, 0, 1, 0, 0)
    light.context.globalAlpha = gain / times
    for (let i = 0; i < times; i++) light.context.drawImage(image, x, y, across, down, x, y, across, down)
  }
  light.context.globalAlpha = 1
  light.context.globalCompositeOperation = 'source-over'
  lay(light, DYE * strength, 'multiply')
  lay(light, strength, 'screen')
}

/** The whole pixels of a soft surface that a region of the output is painted from. */
export function softRegion(space: CanvasSpace, { x, y, width, height }: Region): Region {
  const k = SOFT_SCALE / space.scale
  const [left, top] = [Math.max(0, Math.floor(x * k) - 1), Math.max(0, Math.floor(y * k) - 1)]
  const [most, deepest] = softSize(space)
  return {
    x: left,
    y: top,
    width: Math.min(most, Math.ceil((x + width) * k) + 1) - left,
    height: Math.min(deepest, Math.ceil((y + height) * k) + 1) - top,
  }
}

/** Lays a soft surface on the frame, within regions of it: along a line they are a small part of its bounds. @param below how far it is moved down, in output pixels */
export function laySoft(
  context: CanvasRenderingContext2D,
  space: CanvasSpace,
  image: CanvasImageSource,
  over: readonly Region[],
  below: number,
): void {
  const bounds = unionOf(over)
  if (!bounds) return
  const { x, y, width, height } = bounds
  const k = SOFT_SCALE / space.scale
  within(context, over, () => context.drawImage(image, x * k, (y - below) * k, width * k, height * k, x, y, width, height))
}

/** Paints only within regions: a blur costs as much as what it is seen on. */
export function within(context: CanvasRenderingContext2D, regions: readonly Region[], paint: () => void): void {
  context.save()
  context.setTransform(1, 0, 0, 1, 0, 0)
  context.beginPath()
  for (const { x, y, width, height } of regions) context.rect(x, y, width, height)
  context.clip()
  paint()
  context.restore()
}

/** The size of a soft surface that covers the frame, in its pixels. */
export const softSize = ({ reference: { width, height } }: CanvasSpace): [width: number, height: number] => [
  Math.ceil(width * SOFT_SCALE),
  Math.ceil(height * SOFT_SCALE),
]

/** Paints parts blurred, those further away less. @param sigma in reference pixels */
export function paintBlurred(
  context: CanvasRenderingContext2D,
  space: CanvasSpace,
  parts: readonly InkPart[],
  colour: string,
  sigma: number,
): void {
  placeInFrame(context, { scale: SOFT_SCALE })
  context.strokeStyle = colour
  // What is blurred in several pieces adds up to what would be blurred as one.
  context.globalCompositeOperation = 'lighter'
  for (const { depth, parts: near } of byDepth(parts, space.projection.isFlat)) {
    context.filter = sigma > 0 ? `blur(${sigma * depth * SOFT_SCALE}px)` : 'none'
    for (const part of near) {
      if (part.kind === 'strands') paintStrands(context, part.strands, part.stroke)
      else paintShapes(context, part.shapes, colour, 0)
      context.strokeStyle = colour
    }
  }
  context.globalCompositeOperation = 'source-over'
  context.filter = 'none'
}

/** What lies within a band of depth is blurred by one radius; from one band to the next it grows by this factor. */
const BAND = 1.25

/** What is drawn smaller than this is blurred as if it were as large. */
const LEAST_DEPTH = 0.1

const bandOf = (depth: number): number => Math.round(Math.log(Math.max(depth, LEAST_DEPTH)) / Math.log(BAND))

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
    else for (const [band, strands] of strandsByBand(part.strands)) add(band, { ...part, strands })
  }
  return [...bands].map(([band, near]) => ({ depth: BAND ** band, parts: near }))
}

function strandsByBand(strands: readonly Strand[]): Map<number, Strand[]> {
  const bands = new Map<number, Strand[]>()
  for (const { points, isEven } of strands) {
    let start = 0
    const band = (i: number) => bandOf(points[i + 2]!)
    for (let i = STRIDE; i < points.length; i += STRIDE) {
      const isEnd = i + STRIDE >= points.length
      if (!isEnd && band(i) === band(start)) continue
      const part = { points: points.slice(start, i + STRIDE), isEven }
      const known = bands.get(band(start))
      if (known) known.push(part)
      else bands.set(band(start), [part])
      start = i
    }
  }
  return bands
}
