/** The formats that a film is exported in: all that the encoder, the queue, the routes, the dialog and the command line need to know of each. */

import { SOUND_RATE } from '../sound/pcm'
import type { FrameRate } from '../pace/rate'
import { fraction } from '../pace/rate'
import type { Shown } from './passes'
import { isOpaque } from './passes'
import type { PixelFormat } from './pixel-format'

export const QUALITIES = ['draft', 'good', 'best'] as const
export type Quality = (typeof QUALITIES)[number]

export interface FilmSound {
  /** The encoder's arguments, and the bytes that it takes up a second. */
  output: readonly string[]
  bytes: number
  /** By how many seconds the encoder begins before the sound that it is given. */
  lead: number
}

export interface FilmFormat {
  name: string
  /** What it is good for, in a few words. */
  use: string
  ending: string
  /** MIME type. */
  type: string
  /** Whether it can hold a film without its ground, with soft edges. */
  alpha: boolean
  /** The sound that goes with it; null where it has none. */
  sound: FilmSound | null
  /** Whether one can choose between quality and size. */
  hasQuality: boolean
  /** The longest film and the longest side that it is good for, in seconds and pixels. */
  most?: { seconds: number; side: number }
  /** The most frames a second that players show as they are told; a faster film has every second frame. */
  mostRate?: number
  /** What writes it: ffmpeg with these arguments, and the pixels that it takes where nothing is transparent; an archive of pictures, one picture, or the sound alone. */
  encoder:
    | { kind: 'ffmpeg'; takes: PixelFormat; output: (settings: { quality: Quality; alpha: boolean }) => string[] }
    | { kind: 'archive' }
    | { kind: 'picture' }
    | { kind: 'sound' }
  /** Bytes per pixel of a frame, and megapixels a second that are written, on the demo: for estimates. */
  bytes: Record<Quality, number>
  speed: Record<Quality, number>
}

/** From RGB to BT.709 in limited range, where ffmpeg does it. */
const TO_YUV = 'scale=in_range=full:out_range=tv:out_color_matrix=bt709:flags=accurate_rnd+full_chroma_int'
const TAGS = ['-colorspace', 'bt709', '-color_primaries', 'bt709', '-color_trc', 'bt709', '-color_range', 'tv']
const yuv = (pixels: string) => ['-vf', `${TO_YUV},format=${pixels}`, '-pix_fmt', pixels]

const even = (value: number): Record<Quality, number> => ({ draft: value, good: value, best: value })
/** Of two channels of 16 bits, a second. */
const BYTES_OF_SOUND = 4 * SOUND_RATE
const LOOP = { seconds: 30, side: 1280 }

const FORMATS = {
  mp4: {
    name: 'MP4 (H.264)',
    use: 'for any editor and player',
    ending: '.mp4',
    type: 'video/mp4',
    alpha: false,
    sound: { output: ['-c:a', 'aac', '-b:a', '256k'], bytes: 32_000, lead: 0 },
    hasQuality: true,
    encoder: {
      kind: 'ffmpeg',
      takes: 'yuv420p',
      output: ({ quality }) => {
        const [preset, crf] = { draft: ['superfast', '28'], good: ['veryfast', '16'], best: ['medium', '12'] }[quality] as [string, string]
        const codec = ['-c:v', 'libx264', '-preset', preset, '-crf', crf, '-movflags', '+faststart']
        return [...codec, ...TAGS, '-f', 'mp4']
      },
    },
    bytes: { draft: 0.035, good: 0.06, best: 0.12 },
    speed: { draft: 45, good: 34, best: 18 },
  },
  mov: {
    name: 'MOV (ProRes 4444)',
    use: 'large, for editing, can be transparent',
    ending: '.mov',
    type: 'video/quicktime',
    alpha: true,
    sound: { output: ['-c:a', 'pcm_s16le'], bytes: BYTES_OF_SOUND, lead: 0 },
    hasQuality: true,
    encoder: {
      kind: 'ffmpeg',
      takes: 'rgba',
      output: ({ quality, alpha }) => {
        const scale = { draft: '16', good: '9', best: '4' }[quality]
        const codec = ['-c:v', 'prores_ks', '-profile:v', '4444', '-qscale:v', scale]
        return [...yuv(alpha ? 'yuva444p10le' : 'yuv444p10le'), ...codec, ...TAGS, '-f', 'mov']
      },
    },
    bytes: { draft: 0.5, good: 1, best: 1.6 },
    speed: { draft: 20, good: 18, best: 15 },
  },
  webm: {
    name: 'WebM (VP9)',
    use: 'for the web, can be transparent',
    ending: '.webm',
    type: 'video/webm',
    alpha: true,
    // libopus begins 312 samples early (the pre-skip of RFC 7845; how many it is, is from its source, from memory). A WebM begins at 0, so that ffmpeg would put
    // all pictures off by as much.
    sound: { output: ['-c:a', 'libopus', '-b:a', '160k'], bytes: 20_000, lead: 312 / SOUND_RATE },
    hasQuality: true,
    encoder: {
      kind: 'ffmpeg',
      takes: 'yuv420p',
      output: ({ quality, alpha }) => {
        const [crf, speed] = { draft: ['38', '8'], good: ['28', '5'], best: ['18', '3'] }[quality] as [string, string]
        const codec = ['-c:v', 'libvpx-vp9', '-crf', crf, '-b:v', '0', '-deadline', 'good', '-cpu-used', speed, '-row-mt', '1']
        // Transparent films cannot have alternate reference frames.
        return [...(alpha ? yuv('yuva420p') : []), ...codec, ...(alpha ? ['-auto-alt-ref', '0'] : []), ...TAGS, '-f', 'webm']
      },
    },
    bytes: { draft: 0.015, good: 0.035, best: 0.08 },
    speed: { draft: 30, good: 14, best: 7 },
  },
  png: {
    name: 'PNG sequence (ZIP)',
    use: 'a picture for each frame, can be transparent',
    ending: '.zip',
    type: 'application/zip',
    alpha: true,
    sound: null,
    hasQuality: false,
    encoder: { kind: 'archive' },
    bytes: even(1.6),
    speed: even(22),
  },
  gif: {
    name: 'GIF',
    use: 'a short loop of 256 colours',
    ending: '.gif',
    type: 'image/gif',
    alpha: false,
    sound: null,
    hasQuality: false,
    most: LOOP,
    // Delays are whole hundredths of a second, and browsers play those of less than two a tenth of a second long (common practice, no source).
    mostRate: 50,
    encoder: {
      kind: 'ffmpeg',
      takes: 'rgba',
      // A palette for each frame: one for all would need every frame in memory.
      output: () => {
        const palettes = 'split[a][b];[a]palettegen=stats_mode=single[p];[b][p]paletteuse=new=1:dither=bayer:bayer_scale=4'
        return ['-filter_complex', palettes, '-loop', '0', '-f', 'gif']
      },
    },
    bytes: even(0.45),
    speed: even(15),
  },
  apng: {
    name: 'APNG',
    use: 'a short loop in all colours, can be transparent',
    ending: '.apng',
    type: 'image/apng',
    alpha: true,
    sound: null,
    hasQuality: false,
    most: LOOP,
    encoder: {
      kind: 'ffmpeg',
      takes: 'rgba',
      output: ({ alpha }) => ['-pix_fmt', alpha ? 'rgba' : 'rgb24', '-c:v', 'apng', '-plays', '0', '-f', 'apng'],
    },
    bytes: even(1.1),
    speed: even(6),
  },
  still: {
    name: 'Still (PNG)',
    use: 'the frame at the play position',
    ending: '.png',
    type: 'image/png',
    alpha: true,
    sound: null,
    hasQuality: false,
    encoder: { kind: 'picture' },
    bytes: even(1.6),
    speed: even(5),
  },
  wav: {
    name: 'Sound alone (WAV)',
    use: 'music and sounds, to lay under a film',
    ending: '.wav',
    type: 'audio/wav',
    alpha: false,
    sound: { output: [], bytes: BYTES_OF_SOUND, lead: 0 },
    hasQuality: false,
    encoder: { kind: 'sound' },
    bytes: even(0),
    speed: even(1e6),
  },
} as const satisfies Record<string, FilmFormat>

export type FilmFormatId = keyof typeof FORMATS

/** The frames a second that a film has in its file: in a format that cannot be as fast, half of the journey's. */
export function rateInFile(format: FilmFormatId, rate: FrameRate): string {
  const [n, d] = fraction(rate)
  const most = FILM_FORMATS[format].mostRate ?? Infinity
  return n / d > most ? `${n}/${2 * d}` : rate
}

/** The pixels that the encoder of a film takes. */
export function pixelFormatOf({ format, shows }: { format: FilmFormatId; shows: Shown }): PixelFormat {
  const { encoder } = FILM_FORMATS[format]
  return isOpaque(shows) && encoder.kind === 'ffmpeg' ? encoder.takes : 'rgba'
}
export const FILM_FORMATS: Readonly<Record<FilmFormatId, FilmFormat>> = FORMATS
export const FILM_FORMAT_IDS = Object.keys(FORMATS) as [FilmFormatId, ...FilmFormatId[]]
