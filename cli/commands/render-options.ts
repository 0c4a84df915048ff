import { parseArgs } from 'node:util'
import { isFrameSide } from '#core/camera/frame-side'
import type { Temperament } from '#core/camera/temperament'
import { TEMPERAMENTS } from '#core/camera/temperament'
import type { FilmFormatId, Quality } from '#core/film/formats'
import { FILM_FORMAT_IDS, FILM_FORMATS, QUALITIES } from '#core/film/formats'
import type { Size } from '#core/geometry/size'
import type { FrameRate } from '#core/pace/rate'
import { FRAME_RATES, rateLabel } from '#core/pace/rate'
import type { CommandOptions } from '../command'
import { parseFault, UsageError } from '../command'

const USAGE = `npm run render -- --journey demo|ID|FILE --out FILE [--format mp4|mov|webm|png|gif|apng|wav] [--quality draft|good|best]
                  [--without-ground | --passes] [--size 1280x720] [--fps 30] [--from S] [--to S] [--silent] [--plan calm|lively|steady] [--painters N]
npm run render -- --journey demo|ID|FILE --frame K --out still.png [--without-ground | --passes] [--size 1280x720] [--fps 30]
npm run render -- --journey demo|ID|FILE --frames-json K [--size 1280x720] [--fps 30]

  Without --format the ending of the file says which it is; a PNG sequence is a .zip. With --plan the camera films by itself instead of by the
  journey's shots; it goes with --frame and --frames-json too. With --painters so many threads
  paint, instead of one fewer than there are processor cores, at most six; the film is the same. With --passes the ground, lines, marks, vehicles,
  labels, cards and titles are files of their own, ungraded: out-1-ground.mov and so on, to be laid over one another in that order.`

/** What is made of the journey. Moments are in seconds. */
type Product =
  | {
      kind: 'film'
      out: string
      format: FilmFormatId
      quality: Quality
      silent: boolean
      from: number | undefined
      to: number | undefined
      painters: number | undefined
    }
  | { kind: 'still'; out: string; frame: number }
  | { kind: 'json'; frame: number }

export interface RenderOptions {
  journey: string
  size: Size | undefined
  rate: FrameRate | undefined
  plan: Temperament | undefined
  shows: 'all' | 'over' | 'passes'
  product: Product
}

function parsed(args: readonly string[]) {
  const text = { type: 'string' } as const
  try {
    return parseArgs({
      args: [...args],
      options: {
        journey: { ...text, default: 'demo' },
        out: text,
        size: text,
        fps: text,
        from: text,
        to: text,
        frame: text,
        'frames-json': text,
        format: text,
        quality: text,
        'without-ground': { type: 'boolean' },
        passes: { type: 'boolean' },
        silent: { type: 'boolean' },
        plan: text,
        painters: text,
      },
    }).values
  } catch (error) {
    throw parseFault(error)
  }
}

type Values = ReturnType<typeof parsed>

function read(args: readonly string[]): RenderOptions {
  const values = parsed(args)
  const { journey, size, fps, plan } = values
  return {
    journey,
    size: size === undefined ? undefined : sizeOf(size),
    rate: fps === undefined ? undefined : rateOf(fps),
    plan: plan === undefined ? undefined : temperamentOf(plan),
    shows: shownOf(values),
    product: productOf(values),
  }
}

function productOf({ out, frame, format: asked, quality, silent, from, to, painters, 'frames-json': json }: Values): Product {
  if (json !== undefined) return { kind: 'json', frame: wholeNumber('--frames-json', json) }
  if (out === undefined) throw new UsageError('--out is missing: say where the result is to be written.')
  if (frame !== undefined) {
    if (asked !== undefined || quality !== undefined) throw new UsageError('--format and --quality are for films: a still is a PNG.')
    return { kind: 'still', out, frame: wholeNumber('--frame', frame) }
  }
  const format = filmFormatOf(asked, out)
  const span = { from: moment('--from', from), to: moment('--to', to) }
  if (span.from !== undefined && span.to !== undefined && span.from >= span.to) throw new UsageError('--from should be earlier than --to.')
  return {
    kind: 'film',
    out,
    format,
    quality: qualityOf(quality, format),
    silent: silent === true,
    ...span,
    painters: paintersOf(painters),
  }
}

function shownOf({ passes, 'without-ground': over }: Values): RenderOptions['shows'] {
  if (passes && over) throw new UsageError('--passes and --without-ground do not go together: the ground is the first of the passes.')
  return passes ? 'passes' : over ? 'over' : 'all'
}

export function sizeOf(text: string): Size {
  const wanted = /^(\d{2,5})x(\d{2,5})$/.exec(text)
  if (!wanted) throw new UsageError(`--size should look like 1280x720, not "${text}".`)
  const [width, height] = [Number(wanted[1]), Number(wanted[2])]
  if (!isFrameSide(width) || !isFrameSide(height))
    throw new UsageError(`--size ${text} cannot be used: both sides must be even and from 64 to 4096.`)
  return { width, height }
}

/** The most threads that may paint a film: each has the tiles of its sheets in memory. */
const MOST_PAINTERS = 64

function paintersOf(text: string | undefined): number | undefined {
  if (text === undefined) return undefined
  const value = wholeNumber('--painters', text)
  if (value < 1 || value > MOST_PAINTERS) throw new UsageError(`--painters should be from 1 to ${MOST_PAINTERS}, not "${text}".`)
  return value
}

export function temperamentOf(plan: string): Temperament {
  const temperament = TEMPERAMENTS.find((name) => name === plan)
  if (!temperament) throw new UsageError(`--plan should be one of ${TEMPERAMENTS.join(', ')}, not "${plan}".`)
  return temperament
}

function rateOf(fps: string): FrameRate {
  const rate = FRAME_RATES.find((r) => r === fps || rateLabel(r) === fps)
  if (!rate) throw new UsageError(`--fps should be one of ${FRAME_RATES.map(rateLabel).join(', ')}, not "${fps}".`)
  return rate
}

/** @throws UsageError; whether the journey has such a frame is seen when it is there */
function wholeNumber(option: string, text: string): number {
  const value = Number(text)
  if (text === '' || !Number.isInteger(value) || value < 0)
    throw new UsageError(`${option} should be a whole number, 0 or more, not "${text}".`)
  return value
}

function moment(option: string, text: string | undefined): number | undefined {
  if (text === undefined) return undefined
  const value = Number(text)
  if (text === '' || !(value >= 0)) throw new UsageError(`${option} should be a time in seconds, not "${text}".`)
  return value
}

/** The formats of films; a still is asked for by its frame. */
const FILMS = FILM_FORMAT_IDS.filter((id) => id !== 'still')

export function filmFormatOf(asked: string | undefined, out: string): FilmFormatId {
  const format = FILMS.find((id) => (asked === undefined ? out.endsWith(FILM_FORMATS[id].ending) : id === asked))
  const all = FILMS.map((id) => FILM_FORMATS[id].ending).join(', ')
  if (!format && asked !== undefined) throw new UsageError(`--format should be one of ${FILMS.join(', ')}, not "${asked}".`)
  if (!format) throw new UsageError(`--out should end in one of ${all} for a film, not be "${out}".`)
  const { ending, name } = FILM_FORMATS[format]
  if (!out.endsWith(ending)) throw new UsageError(`--out should end in ${ending} for ${name}, not be "${out}".`)
  return format
}

function qualityOf(asked: string | undefined, format: FilmFormatId): Quality {
  const quality = QUALITIES.find((known) => known === (asked ?? 'good'))
  if (!quality) throw new UsageError(`--quality should be one of ${QUALITIES.join(', ')}, not "${asked}".`)
  if (asked !== undefined && !FILM_FORMATS[format].hasQuality)
    throw new UsageError(`--quality has no effect on ${FILM_FORMATS[format].name}.`)
  return quality
}

/** Renders a film, a still or a frame's data from a journey. */
export const renderOptions: CommandOptions<RenderOptions> = {
  usage: USAGE,
  read,
}
