/** Renders a film, a still or a frame's data from a journey: see USAGE. */
import { statSync } from 'node:fs'
import { parseArgs } from 'node:util'
import type { FilmFormatId, Quality } from '#core/film/formats'
import { FILM_FORMAT_IDS, FILM_FORMATS, QUALITIES } from '#core/film/formats'
import { atSize, wholeFilm } from '#core/film/settings'
import { compile } from '#core/frame/compile'
import { frameAt } from '#core/frame/frame-at'
import { frameSummary } from '#core/frame/summary'
import { onlyPlan, setPlan } from '#core/edits/shots'
import type { Journey } from '#core/journey/schema'
import { frameSchema, TEMPERAMENTS } from '#core/journey/schema'
import type { FrameRate } from '#core/pace/rate'
import { FRAME_RATES, frameCount, frameTime, rateLabel } from '#core/pace/rate'
import { DEMO_ID } from '#demo/seed'
import { renderFilm } from '#render/film'
import { findJourney } from './find-journey'
import { parseFault, runCommand, UsageError } from './usage'

const USAGE = `npm run render -- --journey demo|ID|FILE --out FILE [--format mp4|mov|webm|png|gif|apng|wav] [--quality draft|good|best] [--without-ground]
                  [--size 1280x720] [--fps 30] [--from S] [--to S] [--silent] [--plan calm|lively|steady]
npm run render -- --journey demo|ID|FILE --frame K --out still.png [--without-ground] [--size 1280x720] [--fps 30]
npm run render -- --journey demo|ID|FILE --frames-json K [--size 1280x720] [--fps 30]

  Without --format the ending of the file says which it is; a PNG sequence is a .zip. With --plan the camera films by itself instead of by the
  journey's shots; it goes with --frame and --frames-json too.`

interface Arguments {
  journey: string
  out?: string
  size?: string
  fps?: string
  from?: string
  to?: string
  frame?: string
  'frames-json'?: string
  format?: string
  quality?: string
  'without-ground'?: boolean
  silent?: boolean
  plan?: string
}

function readArguments(): Arguments {
  const text = { type: 'string' } as const
  try {
    const { values } = parseArgs({
      options: {
        journey: { ...text, default: DEMO_ID },
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
        silent: { type: 'boolean' },
        plan: text,
      },
    })
    return values as Arguments
  } catch (error) {
    throw parseFault(error)
  }
}

function withFormat(journey: Journey, { size, fps }: Arguments): Journey {
  if (size === undefined && fps === undefined) return journey
  const wanted = /^(\d{2,5})x(\d{2,5})$/.exec(size ?? `${journey.frame.width}x${journey.frame.height}`)
  if (!wanted) throw new UsageError(`--size should look like 1280x720, not "${size}".`)
  const rate = fps === undefined ? journey.frame.rate : rateOf(fps)
  const frame = frameSchema.safeParse({ width: Number(wanted[1]), height: Number(wanted[2]), rate })
  if (!frame.success) throw new UsageError(`--size ${size} cannot be used: both sides must be even and from 64 to 4096.`)
  return atSize({ ...journey, frame: { ...journey.frame, rate } }, frame.data)
}

function withPlan(journey: Journey, plan: string | undefined): Journey {
  if (plan === undefined) return journey
  const temperament = TEMPERAMENTS.find((name) => name === plan)
  if (!temperament) throw new UsageError(`--plan should be one of ${TEMPERAMENTS.join(', ')}, not "${plan}".`)
  return setPlan(onlyPlan(journey), temperament)
}

function rateOf(fps: string): FrameRate {
  const rate = FRAME_RATES.find((r) => r === fps || rateLabel(r) === fps)
  if (!rate)
    throw new UsageError(
      `--fps should be one of ${FRAME_RATES.map((r) => r.replace('/1', ''))
        .filter((r) => !r.endsWith('001'))
        .join(', ')}, 30000/1001 or 60000/1001, not "${fps}".`,
    )
  return rate
}

function wholeNumber(option: string, text: string, below: number): number {
  const value = Number(text)
  if (!Number.isInteger(value) || value < 0 || value >= below)
    throw new UsageError(`${option} should be a whole number from 0 to ${below - 1}, not "${text}".`)
  return value
}

function moment(option: string, text: string | undefined, journey: Journey): number | undefined {
  if (text === undefined) return undefined
  const value = Number(text)
  if (text === '' || !(value >= 0 && value <= journey.seconds))
    throw new UsageError(`${option} should be a time in seconds from 0 to ${journey.seconds}, not "${text}".`)
  return frameCount(value, journey.frame.rate)
}

async function main(): Promise<void> {
  const options = readArguments()
  const { journey: found, folder } = await findJourney(options.journey)
  const journey = withPlan(withFormat(found, options), options.plan)
  const { rate } = journey.frame
  const compiled = compile(journey)
  if (options['frames-json'] !== undefined) {
    const k = wholeNumber('--frames-json', options['frames-json'], compiled.frames)
    console.log(JSON.stringify({ frame: k, fps: rate, ...frameSummary(frameAt(compiled, frameTime(k, rate))) }))
    return
  }
  if (options.out === undefined) throw new UsageError('--out is missing: say where the result is to be written.')
  const report = (frames: number) =>
    console.log(
      JSON.stringify({
        frames,
        fps: rate,
        width: journey.frame.width,
        height: journey.frame.height,
        seconds: frames === 1 ? frameTime(1, rate) : frameTime(frames, rate),
        bytes: statSync(options.out!).size,
        out: options.out,
      }),
    )
  const ground = options['without-ground'] !== true
  const whole = wholeFilm(journey)
  if (options.frame !== undefined) {
    const from = wholeNumber('--frame', options.frame, compiled.frames)
    if (options.format !== undefined || options.quality !== undefined)
      throw new UsageError('--format and --quality are for films: a still is a PNG.')
    await renderFilm({ folder, journey, out: options.out, settings: { ...whole, format: 'still', ground, from, to: from + 1 } })
    return report(1)
  }
  const format = formatOf(options.format, options.out)
  const quality = qualityOf(options.quality, format)
  const from = moment('--from', options.from, journey) ?? 0
  const to = moment('--to', options.to, journey) ?? compiled.frames
  if (from >= to) throw new UsageError('--from should be earlier than --to.')
  const { frames } = await renderFilm({
    folder,
    journey,
    out: options.out,
    settings: { ...whole, format, quality, ground, from, to, sound: options.silent !== true },
  })
  report(frames)
}

/** The formats of films; a still is asked for by its frame. */
const FILMS = FILM_FORMAT_IDS.filter((id) => id !== 'still')

function formatOf(asked: string | undefined, out: string): FilmFormatId {
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

await runCommand(USAGE, main)
