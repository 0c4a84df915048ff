import { FILM_FORMATS } from '#core/film/formats'
import type { FilmSettings } from '#core/film/settings'
import type { FrameRate } from '#core/pace/rate'
import type { Encoder } from './encoder'
import { startFfmpeg } from './ffmpeg'
import { startArchive, startPicture } from './pictures'

/** Starts what writes a film of these settings. @throws Error from its methods, with what went wrong */
export function startEncoder(out: string, settings: FilmSettings, rate: FrameRate): Encoder {
  const { encoder } = FILM_FORMATS[settings.format]
  switch (encoder.kind) {
    case 'ffmpeg':
      return startFfmpeg(out, settings, rate, encoder.output({ quality: settings.quality, alpha: !settings.ground }))
    case 'archive':
      return startArchive(out, settings)
    case 'picture':
      return startPicture(out, settings)
    default:
      return encoder satisfies never
  }
}
