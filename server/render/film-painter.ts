import type { PixelFormat } from '#core/film/pixel-format'
import type { Shown } from '#core/film/passes'
import { frameOf, isOpaque, isPass } from '#core/film/passes'
import { exposureAt } from '#core/frame/exposure'
import type { Frame } from '#core/frame/frame'
import { frameAt } from '#core/frame/frame-at'
import { frameTime } from '#core/pace/rate'
import type { CompiledJourney } from '#core/trips/compiled'
import { createExposure } from '#draw/exposure'
import { createGrader } from '#draw/grade'
import { createPainter } from '#draw/painter'
import type { Region } from '#draw/region'
import { lutOf } from '../storage/lut-files'
import type { FilmPicture } from './film-picture'
import { createFilmPicture } from './film-picture'
import { createServerStudio, createServerSurface } from './studio'

export interface FilmPainter {
  /** The frame that was painted last. */
  picture: FilmPicture
  /**
   * Paints frame k of the film; frames in a row take the least time.
   * @returns the parts of the picture that are not as they were
   * @throws JourneyError if an image, a font or a table of colours is not in the data folder
   */
  paint(k: number): Promise<readonly Region[]>
}

/** Paints the frames of a film one after the other. @param folder the data folder with the sheets */
export function createFilmPainter(
  folder: string,
  compiled: CompiledJourney,
  { pixels, shows }: { pixels: PixelFormat; shows: Shown },
): FilmPainter {
  const { journey } = compiled
  const { width, height, rate } = journey.frame
  const studio = createServerStudio(folder)
  const painter = createPainter(studio)
  const surface = createServerSurface(width, height)
  const picture = createFilmPicture(pixels, surface)
  const ground = isOpaque(shows)
  // Passes are graded where they are laid over one another: the sum of graded parts would not be the graded sum.
  const grade = isPass(shows) ? null : journey.grade
  const grader = grade && createGrader(surface, { grade, cube: lutOf(folder, journey), scale: compiled.scale, ground })
  /** What is painted, before it is graded. */
  const painted = grader?.pixels ?? picture.rgba
  const exposure = journey.shutter > 0 ? createExposure(surface) : undefined
  const whole: Region = { x: 0, y: 0, width, height }

  /** Paints one of the moments of a frame into a picture. @param change is told what will be painted there before it is */
  async function paintMoment(moment: Frame, rgba: Uint8Array, change?: (parts: readonly Region[]) => void): Promise<readonly Region[]> {
    const frame = frameOf(moment, shows)
    if (await studio.prepare(frame, compiled.scale)) painter.invalidate()
    let isAnew = false
    const takeGround = ({ data }: ImageData) => {
      change?.([whole])
      rgba.set(data)
      isAnew = true
    }
    const parts = painter.paint(frame, surface.context, compiled.scale, { takeGround })
    if (!isAnew) change?.(parts)
    surface.update(rgba, parts, ground && !isAnew)
    return isAnew ? [whole] : parts
  }

  async function paint(time: number): Promise<readonly Region[]> {
    if (!exposure) return paintMoment(frameAt(compiled, time), painted)
    for (const moment of exposureAt(compiled, time)) {
      await paintMoment(moment, exposure.pixels, exposure.change)
      exposure.add()
    }
    return exposure.finish(painted)
  }

  return {
    picture,
    async paint(k) {
      const seen = await paint(frameTime(k, rate))
      const changed = grader ? grader.finish(seen, k, picture.rgba) : seen
      picture.changed(changed)
      return changed
    },
  }
}
