import { FILM_FORMATS } from '#core/film/formats'
import { isOpaque } from '#core/film/passes'
import type { FilmSettings } from '#core/film/settings'
import type { FrameRate } from '#core/pace/rate'
import type { Encoder } from './encoder'
import type { PictureLog } from './ffmpeg'
import { startFfmpeg } from './ffmpeg'
import { startArchive, startPicture } from './pictures'

/** Starts what writes the pictures of a film of these settings. @param heard a WAV file of its sound @param pictures of films that ffmpeg writes @throws Error from its methods, with what went wrong */
export function startEncoder(out: string, settings: FilmSettings, rate: FrameRate, heard?: string, pictures?: PictureLog): Encoder {
  const { encoder, sound } = FILM_FORMATS[settings.format]
  switch (encoder.kind) {
    case 'ffmpeg':
      return startFfmpeg(
        out,
        settings,
        rate,
        encoder.output({ quality: settings.quality, alpha: !isOpaque(settings.shows) }),
        heard !== undefined && sound ? { file: heard, ...sound } : undefined,
        pictures,
      )
    case 'archive':
      return startArchive(out, settings)
    case 'picture':
      return startPicture(out, settings)
    case 'sound':
      throw new Error('A file of sound alone has no pictures.')
    default:
      return encoder satisfies never
  }
}
