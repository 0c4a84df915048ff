/** Renders a film, a still or a frame's data from a journey: see USAGE. */
import { readFileSync, statSync, writeFileSync } from 'node:fs'
import { parseArgs } from 'node:util'
import { compile } from '#core/frame/compile'
import { frameAt } from '#core/frame/frame-at'
import { frameSummary } from '#core/frame/summary'
import { setFrame } from '#core/journey/edits'
import { parseJourney } from '#core/journey/parse'
import type { Journey } from '#core/journey/schema'
import { frameSchema } from '#core/journey/schema'
import type { FrameRate } from '#core/pace/rate'
import { FRAME_RATES, frameCount, frameTime, rateLabel } from '#core/pace/rate'
import { DEMO_ID, freshDemo } from '#demo/seed'
import { renderFilm } from '#render/film'
import { paintStill } from '#render/still'
import { dataFolder, openDatabase } from '../server/storage/database'
import { readJourney } from '../server/storage/journeys'
import { parseFault, runCommand, UsageError } from './usage'

const USAGE = `npm run render -- --journey demo|ID|FILE --out trip.mp4 [--size 1280x720] [--fps 30] [--from S] [--to S]
npm run render -- --journey demo|ID|FILE --frame K --out still.png [--size 1280x720] [--fps 30]
npm run render -- --journey demo|ID|FILE --frames-json K [--size 1280x720] [--fps 30]`

interface Arguments {
  journey: string
  out?: string
  size?: string
  fps?: string
  from?: string
  to?: string
  frame?: string
  'frames-json'?: string
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
      },
    })
    return values as Arguments
  } catch (error) {
    throw parseFault(error)
  }
}

async function findJourney(name: string): Promise<{ journey: Journey; folder: string }> {
  if (name === DEMO_ID) return freshDemo()
  const folder = dataFolder()
  // Ids have neither dots nor slashes; file names have.
  if (/[./\\]/.test(name)) return { journey: parseJourney(readJson(name)), folder }
  const db = openDatabase(folder)
  const record = readJourney(db, name)
  db.close()
  if (!record)
    throw new UsageError(`There is no journey "${name}" in ${folder}: give the id from its page's address, or the path of a journey file.`)
  return { journey: record.journey, folder }
}

function readJson(path: string): unknown {
  let text: string
  try {
    text = readFileSync(path, 'utf8')
  } catch {
    throw new UsageError(`The journey file ${path} cannot be read: check the path.`)
  }
  try {
    return JSON.parse(text)
  } catch (error) {
    throw new UsageError(`The journey file ${path} is not JSON: ${(error as Error).message}.`)
  }
}

function withFormat(journey: Journey, { size, fps }: Arguments): Journey {
  if (size === undefined && fps === undefined) return journey
  const wanted = /^(\d{2,5})x(\d{2,5})$/.exec(size ?? `${journey.frame.width}x${journey.frame.height}`)
  if (!wanted) throw new UsageError(`--size should look like 1280x720, not "${size}".`)
  const rate = fps === undefined ? journey.frame.rate : rateOf(fps)
  const frame = frameSchema.safeParse({ width: Number(wanted[1]), height: Number(wanted[2]), rate })
  if (!frame.success) throw new UsageError(`--size ${size} cannot be used: both sides must be even and from 64 to 4096.`)
  return setFrame(journey, frame.data)
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
  const journey = withFormat(found, options)
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
  if (options.frame !== undefined) {
    const k = wholeNumber('--frame', options.frame, compiled.frames)
    const still = await paintStill(folder, journey, frameTime(k, rate))
    writeFileSync(options.out, await still.png())
    return report(1)
  }
  if (!options.out.endsWith('.mp4')) throw new UsageError(`--out should end in .mp4 for a film, not be "${options.out}".`)
  const from = moment('--from', options.from, journey) ?? 0
  const to = moment('--to', options.to, journey) ?? compiled.frames
  if (from >= to) throw new UsageError('--from should be earlier than --to.')
  const { frames } = await renderFilm({ folder, journey, out: options.out, from, to })
  report(frames)
}

await runCommand(USAGE, main)
