import { compile } from '#core/frame/compile'
import { filmFrame } from '#core/film/settings'
import { frameAt } from '#core/frame/frame-at'
import type { Journey } from '#core/journey/schema'
import { createPainter } from '#draw/painter'
import type { ServerSurface } from './studio'
import { createServerStudio, createServerSurface } from './studio'

/**
 * Paints one moment of a journey.
 * @param seconds the moment, held within the film
 * @param width output width in pixels; the height follows from the frame
 * @param ground whether the ground is painted
 */
export async function paintStill(
  folder: string,
  journey: Journey,
  seconds: number,
  width = journey.frame.width,
  ground = true,
): Promise<ServerSurface> {
  const compiled = compile(journey)
  const scale = (compiled.scale * width) / journey.frame.width
  const surface = createServerSurface(width, Math.round(compiled.reference.height * scale))
  const studio = createServerStudio(folder)
  const frame = filmFrame(frameAt(compiled, seconds), { ground })
  await studio.prepare(frame, scale)
  createPainter(studio).paint(frame, surface.context, scale)
  return surface
}
