import { compile } from '#core/frame/compile'
import type { Shown } from '#core/film/passes'
import { frameOf, isOpaque, isPass } from '#core/film/passes'
import { exposureAt } from '#core/frame/exposure'
import { clamp } from '#core/geometry/clamp'
import type { Journey } from '#core/journey/schema'
import { frameIndexAt } from '#core/pace/rate'
import { createExposure } from '#draw/exposure'
import { createGrader } from '#draw/grade'
import { createPainter } from '#draw/painter'
import { lutOf } from '../storage/lut-files'
import type { ServerSurface } from './studio'
import { createServerStudio, createServerSurface } from './studio'

/**
 * Paints one moment of a journey.
 * @param seconds the moment, held within the film
 * @param width output width in pixels; the height follows from the frame
 * @param shows what of the picture is painted
 */
export async function paintStill(
  folder: string,
  journey: Journey,
  seconds: number,
  width = journey.frame.width,
  shows: Shown = 'all',
): Promise<ServerSurface> {
  const compiled = compile(journey)
  const scale = (compiled.scale * width) / journey.frame.width
  const surface = createServerSurface(width, Math.round(compiled.reference.height * scale))
  const studio = createServerStudio(folder)
  const painter = createPainter(studio)
  const moments = exposureAt(compiled, seconds)
  const exposure = moments.length > 1 ? createExposure(surface) : undefined
  for (const moment of moments) {
    const frame = frameOf(moment, shows)
    if (await studio.prepare(frame, scale)) painter.invalidate()
    const painted = painter.paint(frame, surface.context, scale)
    if (!exposure) continue
    exposure.change(painted)
    surface.update(exposure.pixels, painted, isOpaque(shows))
    exposure.add()
  }
  const { frame } = compiled.journey
  const grade = isPass(shows) ? null : compiled.journey.grade
  if (!exposure && !grade) return surface
  const whole = [{ x: 0, y: 0, width: surface.width, height: surface.height }]
  const pixels = new Uint8ClampedArray(4 * surface.width * surface.height)
  if (exposure) exposure.finish(pixels)
  else surface.update(pixels, whole, false)
  if (grade) {
    const grader = createGrader(surface, { grade, cube: lutOf(folder, journey), scale, ground: isOpaque(shows) })
    grader.pixels.set(pixels)
    grader.finish(whole, frameIndexAt(clamp(seconds, 0, compiled.lastTime), frame.rate), pixels)
  }
  surface.context.putImageData(studio.imageOf(pixels, surface.width, surface.height), 0, 0)
  return surface
}
