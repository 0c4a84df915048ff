import { DISTANCE } from '#core/camera/optics'
import { radians } from '#core/geometry/angle'
import { clamp } from '#core/geometry/clamp'
import type { DepthItem } from '#core/frame/frame'
import type { CanvasSpace } from '../canvas-space'
import { SOFT_SCALE } from '../ink/soft'
import type { Surface } from '../studio'

/** The greatest blur of soft focus at full strength, as a standard deviation in reference pixels. */
const MOST_BLUR = 16
/** Of the two blurred pictures that are mixed, the less blurred one has this share of the greatest blur. */
const HALF = 0.4
/** How fast haze thickens beyond the middle of the frame: at full strength it hides two thirds at twice the distance. */
const THICKNESS = 1.1
/** Gradients have so many stops from the frame's upper to its lower edge. */
const STOPS = 24

/** How far the ground is from the camera at a height of the frame, as a multiple of its distance at the middle. */
function depthAt({ projection, reference }: CanvasSpace, y: number): number {
  const pitch = radians(projection.view.pitch)
  const f = DISTANCE * reference.height
  const up = reference.height / 2 - y
  const slope = f * Math.cos(pitch) - up * Math.sin(pitch)
  return slope <= 0 ? Infinity : 1 + ((up * f) / slope) * (Math.sin(pitch) / f)
}

/** Cleared surfaces of the size asked for. */
export interface SoftLayers {
  blurred: (width: number, height: number) => Surface
  light: (width: number, height: number) => Surface
}

/** Softens the ground that was painted before and behind what is in focus, and lays haze over what is far away. */
export function paintDepth(context: CanvasRenderingContext2D, space: CanvasSpace, item: DepthItem, layers: SoftLayers): void {
  if (item.softFocus) soften(context, space, item.softFocus, layers)
  if (item.haze) lay(context, space, item.haze)
}

/**
 * A thin lens blurs a point at a distance d by |d - d0| / d where d0 is in focus. Two blurred pictures are laid over the sharp one, each as much as a row
 * needs; both are painted at the resolution of all that is soft, so that they look the same at every size and cost little.
 */
function soften(
  context: CanvasRenderingContext2D,
  space: CanvasSpace,
  focus: NonNullable<DepthItem['softFocus']>,
  layers: SoftLayers,
): void {
  const { reference, scale } = space
  const width = Math.ceil(reference.width * SOFT_SCALE)
  const height = Math.ceil(reference.height * SOFT_SCALE)
  const whole = { width: reference.width * scale, height: reference.height * scale }
  const blurAt = (y: number): number => {
    const depth = depthAt(space, y)
    const off = depth === Infinity ? 1 : Math.abs(depth - focus.at) / depth
    return Math.min(1, 2.5 * off) * (depth > focus.at ? focus.far : focus.near) * focus.strength
  }
  // Room for the blur beyond the frame's edges, filled with what is near them.
  const room = Math.ceil(3 * MOST_BLUR * SOFT_SCALE)
  const size = [width + 2 * room, height + 2 * room] as const
  const source = layers.light(...size)
  source.context.imageSmoothingQuality = 'low'
  source.context.drawImage(context.canvas, 0, 0, whole.width, whole.height, room, room, width, height)
  source.context.globalCompositeOperation = 'destination-over'
  source.context.drawImage(source.image, room, room, width, height, 0, 0, ...size)
  source.context.globalCompositeOperation = 'source-over'
  for (const [from, to] of [
    [0, HALF],
    [HALF, 1],
  ] as const) {
    const opacities = Array.from({ length: STOPS + 1 }, (_, i) =>
      clamp((blurAt((reference.height * i) / STOPS) - from) / (to - from), 0, 1),
    )
    const rows = runsOf(opacities)
    if (rows.length === 0) continue
    const { context: soft, image } = layers.blurred(...size)
    soft.filter = `blur(${to * MOST_BLUR * SOFT_SCALE}px)`
    soft.drawImage(source.image, 0, 0)
    soft.filter = 'none'
    soft.globalCompositeOperation = 'destination-in'
    const mask = soft.createLinearGradient(0, room, 0, room + height)
    for (let i = 0; i <= STOPS; i++) {
      mask.addColorStop(i / STOPS, `rgba(0, 0, 0, ${opacities[i]!})`)
    }
    soft.fillStyle = mask
    soft.fillRect(0, 0, ...size)
    soft.globalCompositeOperation = 'source-over'
    context.setTransform(1, 0, 0, 1, 0, 0)
    context.imageSmoothingQuality = 'low'
    for (const [top, bottom] of rows) {
      const [y, high] = [(top * height) / STOPS, ((bottom - top) * height) / STOPS]
      context.drawImage(image, room, room + y, width, high, 0, (y / height) * whole.height, whole.width, (high / height) * whole.height)
    }
  }
}

/** The stretches between stops in which anything is to be seen, as the numbers of their first and last stop. */
function runsOf(opacities: readonly number[]): [number, number][] {
  const runs: [number, number][] = []
  for (let i = 0; i + 1 < opacities.length; i++) {
    if (opacities[i] === 0 && opacities[i + 1] === 0) continue
    const last = runs.at(-1)
    if (last?.[1] === i) last[1] = i + 1
    else runs.push([i, i + 1])
  }
  return runs
}

/** Haze by the law of Beer and Lambert: of what is so much further away than the middle, exp(-thickness x distance) is seen. */
function lay(context: CanvasRenderingContext2D, space: CanvasSpace, { colour, strength }: NonNullable<DepthItem['haze']>): void {
  const { reference, scale } = space
  const [width, height] = [Math.ceil(reference.width * scale), Math.ceil(reference.height * scale)]
  context.setTransform(1, 0, 0, 1, 0, 0)
  context.fillStyle = colour
  // Row by row, down to the middle: a gradient of so many stops takes a canvas on the server many times as long.
  for (let row = 0; row < height; row++) {
    const beyond = depthAt(space, (row + 0.5) / scale) - 1
    if (beyond <= 0) break
    context.globalAlpha = strength * (1 - Math.exp(-THICKNESS * beyond))
    context.fillRect(0, row, width, 1)
  }
  context.globalAlpha = 1
}
