import type { PixelFormat } from '#core/film/pixel-format'
import { filmFrame } from '#core/film/settings'
import { frameAt } from '#core/frame/frame-at'
import { frameTime } from '#core/pace/rate'
import type { CompiledJourney } from '#core/trips/compiled'
import { createPainter } from '#draw/painter'
import type { Region } from '#draw/region'
import type { FilmPicture } from './film-picture'
import { createFilmPicture } from './film-picture'
import { createServerStudio, createServerSurface } from './studio'

export interface FilmPainter {
  /** The frame that was painted last. */
  picture: FilmPicture
  /**
   * Paints frame k of the film; frames in a row take the least time.
   * @returns the parts of the picture that are not as they were
   * @throws JourneyError if an image or a font is not in the data folder
   */
  paint(k: number): Promise<readonly Region[]>
}

/** Paints the frames of a film one after the other. @param folder the data folder with the sheets */
export function createFilmPainter(
  folder: string,
  compiled: CompiledJourney,
  { pixels, ground }: { pixels: PixelFormat; ground: boolean },
): FilmPainter {
  const { width, height, rate } = compiled.journey.frame
  const studio = createServerStudio(folder)
  const painter = createPainter(studio)
  const surface = createServerSurface(width, height)
  const picture = createFilmPicture(pixels, surface)
  const whole: Region = { x: 0, y: 0, width, height }
  return {
    picture,
    async paint(k) {
      const frame = filmFrame(frameAt(compiled, frameTime(k, rate)), { ground })
      if (await studio.prepare(frame, compiled.scale)) painter.invalidate()
      let isAnew = false
      const takeGround = ({ data }: ImageData) => {
        picture.rgba.set(data)
        isAnew = true
      }
      const painted = painter.paint(frame, surface.context, compiled.scale, { takeGround })
      surface.update(picture.rgba, painted, ground && !isAnew)
      const changed = isAnew ? [whole] : painted
      picture.changed(changed)
      return changed
    },
  }
}
