import type { ParticlesItem } from '#core/frame/frame'
import type { CanvasSpace } from '../canvas-space'
import { placeInFrame } from '../canvas-space'
import type { Region } from '../region'

/** Round its bright middle a particle is so much larger, and so much fainter. */
const HALO = { size: 2.2, opacity: 0.28 } as const

/** Paints sparks and dust: round, bright in the middle, as large as their distance makes them. */
export function paintParticles(context: CanvasRenderingContext2D, space: CanvasSpace, { seen, colour }: ParticlesItem): void {
  placeInFrame(context, space)
  context.fillStyle = colour
  for (const { at, x, y, radius, opacity } of seen) {
    const place = space.projection.toScreen(at)
    const k = space.projection.depthScale(at)
    for (const [size, share] of [
      [HALO.size, HALO.opacity],
      [1, 1],
    ] as const) {
      // prettier-ignore
      context.globalAlpha = opacity * share
      context.beginPath()
      context.arc(place.x + k * x, place.y + k * y, k * radius * size, 0, 2 * Math.PI)
      context.fill()
    }
  }
  context.globalAlpha = 1
}

/** What particles cover, in output pixels. */
export function particlesBounds({ projection, scale }: CanvasSpace, { seen }: ParticlesItem): Region {
  let [left, right, top, bottom] = [Infinity, -Infinity, Infinity, -Infinity]
  for (const { at, x, y, radius } of seen) {
    const place = projection.toScreen(at)
    const k = projection.depthScale(at)
    const reach = k * radius * HALO.size
    left = Math.min(left, place.x + k * x - reach)
    right = Math.max(right, place.x + k * x + reach)
    top = Math.min(top, place.y + k * y - reach)
    bottom = Math.max(bottom, place.y + k * y + reach)
  }
  return { x: left * scale, y: top * scale, width: (right - left) * scale, height: (bottom - top) * scale }
}
