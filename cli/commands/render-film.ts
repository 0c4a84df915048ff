import { statSync } from 'node:fs'
import { join, parse } from 'node:path'
import { passFilms } from '#core/film/passes'
import type { FilmSettings } from '#core/film/settings'
import { atSize, wholeFilm } from '#core/film/settings'
import { compile } from '#core/frame/compile'
import { frameAt } from '#core/frame/frame-at'
import { frameSummary } from '#core/frame/summary'
import { onlyPlan, setPlan } from '#core/edits/camera/shots'
import { NO_PLACES } from '#core/labels/label-scene'
import type { Journey } from '#core/journey/schema'
import { frameCount, frameTime } from '#core/pace/rate'
import { renderFilm } from '#render/film'
import type { Output } from '../command'
import { UsageError } from '../command'
import { findJourney } from './find-journey'
import type { RenderOptions } from './render-options'

function asAsked(found: Journey, { size, rate, plan }: RenderOptions): Journey {
  const journey = rate === undefined ? found : { ...found, frame: { ...found.frame, rate } }
  const sized = size === undefined ? journey : atSize(journey, size)
  return plan === undefined ? sized : setPlan(onlyPlan(sized), plan)
}

function checkFrame(option: string, frame: number, frames: number): number {
  if (frame >= frames) throw new UsageError(`${option} should be a whole number from 0 to ${frames - 1}, not "${frame}".`)
  return frame
}

/** The frame at a moment of the journey. */
function frameOf(option: string, moment: number, { seconds, frame }: Journey): number {
  if (moment > seconds) throw new UsageError(`${option} should be a time in seconds from 0 to ${seconds}, not "${moment}".`)
  return frameCount(moment, frame.rate)
}

/** Makes what is asked for of a journey, and prints what it made in a line of JSON for each file. */
export async function renderProduct(options: RenderOptions, output: Output): Promise<void> {
  const { shows, product } = options
  const { journey: found, folder } = await findJourney(options.journey)
  const journey = asAsked(found, options)
  const { width, height, rate } = journey.frame
  const frames = frameCount(journey.seconds, rate)
  const say = (result: object) => output.result(`${JSON.stringify(result)}\n`)
  if (product.kind === 'json') {
    const frame = checkFrame('--frames-json', product.frame, frames)
    say({ frame, fps: rate, ...frameSummary(frameAt(compile(journey), frameTime(frame, rate))) })
    return
  }
  const { out } = product
  const whole = wholeFilm(journey)
  const films = (settings: FilmSettings) =>
    shows === 'passes' ? passFilms(compile(journey, NO_PLACES), settings) : [{ settings: { ...settings, shows }, part: '' }]
  async function make(settings: FilmSettings, painters?: number): Promise<void> {
    const { dir, name, ext } = parse(out)
    for (const { settings: one, part } of films(settings)) {
      const file = part === '' ? out : join(dir, `${name}-${part.replace(' ', '-')}${ext}`)
      const { frames: count } = await renderFilm({ folder, journey, out: file, settings: one, painters })
      say({ frames: count, fps: rate, width, height, seconds: frameTime(count, rate), bytes: statSync(file).size, out: file })
    }
  }
  if (product.kind === 'still') {
    const from = checkFrame('--frame', product.frame, frames)
    return make({ ...whole, format: 'still', from, to: from + 1 })
  }
  const { format, quality, silent, painters } = product
  const from = product.from === undefined ? 0 : frameOf('--from', product.from, journey)
  const to = product.to === undefined ? frames : frameOf('--to', product.to, journey)
  if (from >= to) throw new UsageError('--from should be earlier than --to.')
  await make({ ...whole, format, quality, from, to, sound: !silent }, painters)
}
