import { z } from 'zod'
import { setFrame } from '../edits/journey'
import { isSameShape, reframed } from '../edits/camera/reframe'
import { JourneyError } from '../error'
import type { Journey } from '../journey/schema'
import { evenSide } from '../journey/values'
import type { FrameRate } from '../pace/rate'
import { frameCount, framesPerSecond } from '../pace/rate'
import type { FilmFormatId } from './formats'
import { FILM_FORMAT_IDS, FILM_FORMATS, QUALITIES } from './formats'
import { isOpaque, SHOWN } from './passes'

/** What is exported of a journey, and how: frames `from` up to, not including, `to`, of a size in pixels. */
export const filmSettingsSchema = z.strictObject({
  format: z.enum(FILM_FORMAT_IDS),
  quality: z.enum(QUALITIES),
  /** What of the picture is in the film; without the ground, all but that is transparent. */
  shows: z.enum(SHOWN),
  from: z.int().min(0),
  to: z.int().min(1),
  width: evenSide,
  height: evenSide,
  /** Whether the music and the sounds of the journey are in it. */
  sound: z.boolean().default(true),
})
export type FilmSettings = z.output<typeof filmSettingsSchema>

/** The whole film as the journey has it. */
export function wholeFilm(journey: Journey, format: FilmFormatId = 'mp4'): FilmSettings {
  const { width, height, rate } = journey.frame
  return { format, quality: 'good', shows: 'all', from: 0, to: frameCount(journey.seconds, rate), width, height, sound: true }
}

/** The journey at the size at which it is exported: reframed, where it has a frame of that shape. */
export function atSize(journey: Journey, size: Pick<FilmSettings, 'width' | 'height'>): Journey {
  const { width, height } = size
  const index = isSameShape(journey.frame, size) ? -1 : journey.reframes.findIndex((reframe) => isSameShape(reframe, size))
  const shown = index < 0 ? journey : reframed(journey, index)
  return width === shown.frame.width && height === shown.frame.height ? shown : setFrame(shown, { ...shown.frame, width, height })
}

/** Checks settings against the journey they are for. @throws JourneyError with a sentence that says what does not go together */
export function checkFilm(journey: Journey, { format, shows, from, to, width, height }: FilmSettings): void {
  const { name, alpha, most, encoder } = FILM_FORMATS[format]
  const { rate } = journey.frame
  if (from >= to || to > frameCount(journey.seconds, rate))
    throw new JourneyError('The part to be exported does not lie within the film: choose its beginning and end again.')
  if (encoder.kind === 'picture' && to !== from + 1) throw new JourneyError(`${name} holds one frame: choose which one.`)
  if (encoder.kind === 'sound' && !isHeard(journey)) throw new JourneyError('This film is silent: add music to it, or turn some sounds on.')
  if (!isOpaque(shows) && !alpha && encoder.kind !== 'sound')
    throw new JourneyError(`${name} cannot be transparent: leave the ground in, or choose another format.`)
  if (most && to - from > frameCount(most.seconds, rate))
    throw new JourneyError(`${name} is for loops of up to ${most.seconds} seconds: export a part of the film, or choose another format.`)
  if (most && Math.max(width, height) > most.side)
    throw new JourneyError(`${name} is for loops of up to ${most.side} pixels a side: choose a smaller size, or another format.`)
}

/** Whether there is anything to be heard in a film. */
export const isHeard = ({ audio, sounds }: Pick<Journey, 'audio' | 'sounds'>): boolean =>
  audio.length > 0 || Object.values(sounds).some((level) => level > 0)

/** What a film took that was made before. */
export const filmPaceSchema = z.strictObject({
  journey: z.string(),
  ...filmSettingsSchema.pick({ format: true, quality: true, shows: true }).shape,
  /** Of all its frames. */
  pixels: z.number().positive(),
  bytes: z.number().min(0),
  seconds: z.number().positive(),
})
export type FilmPace = z.output<typeof filmPaceSchema>

/** What an export takes: bytes, and seconds of work. */
export const filmCostSchema = z.object({ bytes: z.number().min(0), seconds: z.number().positive() })
export type FilmCost = z.output<typeof filmCostSchema>

/** What an export takes before its first frame and after its last one, in seconds. */
export const AROUND = 1.5

/** A film of a smaller share of the pixels says little of how fast a longer or larger one is made. */
const LEAST_SHARE = 0.05

/**
 * About how many bytes an export takes up, and how many seconds of work: by the last film of its kind, best one of the same journey; without any, by
 * measurements of the demo on two cores.
 * @param earlier films that were made on the same machine, the newest first
 */
export function estimate(
  { format, quality, shows, from, to, width, height }: FilmSettings,
  rate: FrameRate,
  earlier: readonly FilmPace[] = [],
  journey?: string,
): FilmCost {
  const { bytes, speed, encoder, sound } = FILM_FORMATS[format]
  const pixels = (to - from) * width * height
  if (encoder.kind === 'sound') return { bytes: ((to - from) / framesPerSecond(rate)) * sound!.bytes, seconds: 1 }
  const alike = earlier.filter(
    (film) => film.format === format && film.quality === quality && film.shows === shows && film.pixels >= LEAST_SHARE * pixels,
  )
  const known = alike.find((film) => film.journey === journey) ?? alike[0]
  if (!known) return { bytes: pixels * bytes[quality], seconds: AROUND + pixels / 1e6 / speed[quality] }
  const share = pixels / known.pixels
  return { bytes: known.bytes * share, seconds: AROUND + Math.max(0.1, known.seconds - AROUND) * share }
}

/** A file's name from a title: letters, digits, spaces, hyphens and underscores; at least "film". */
export const fileNameOf = (title: string, format: FilmFormatId): string => {
  const safe = title
    .normalize('NFC')
    .replace(/[^\p{L}\p{N} _-]+/gu, '')
    .trim()
  return `${safe || 'film'}${FILM_FORMATS[format].ending}`
}
