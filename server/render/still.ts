import { compile } from '#core/frame/compile'
import { frameAt } from '#core/frame/frame-at'
import type { Journey } from '#core/journey/schema'
import { createPainter } from '#draw/painter'
import { loadSheetPictures } from './sheet-picture'
import type { ServerSurface } from './studio'
import { createServerStudio, createServerSurface } from './studio'

/**
 * Paints one moment of a journey.
 * @param seconds the moment, held within the film
 * @param width output width in pixels; the height follows from the frame
 */
export async function paintStill(folder: string, journey: Journey, seconds: number, width = journey.frame.width): Promise<ServerSurface> {
  const compiled = compile(journey)
  const scale = (compiled.scale * width) / journey.frame.width
  const surface = createServerSurface(width, Math.round(compiled.reference.height * scale))
  const pictures = await loadSheetPictures(folder, compiled, scale)
  createPainter(createServerStudio(pictures)).paint(frameAt(compiled, seconds), surface.context, scale)
  return surface
}
