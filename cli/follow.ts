/** Finds the road visible on a map between two spots: see USAGE. */
import { createReadStream, mkdtempSync, rmSync, statSync } from 'node:fs'
import { tmpdir } from 'node:os'
import { basename, join } from 'node:path'
import { parseArgs } from 'node:util'
import type { Followed } from '#core/follow/follow-road'
import { followRoad } from '#core/follow/follow-road'
import { hexOf, rgbOf } from '#core/colour/srgb'
import type { Rgb } from '#core/colour/srgb'
import { courseOf } from '#core/geometry/course'
import type { Point } from '#core/geometry/point'
import type { Sheet } from '#core/journey/schema'
import { freshDemo } from '#demo/seed'
import { importSheetFile } from '../server/sheets/import-sheet'
import { pictureSource } from '../server/sheets/picture-source'
import { openDatabase } from '../server/storage/database'
import { parseFault, runCommand, UsageError } from './usage'

const USAGE = 'npm run follow -- --sheet FILE|demo --from x,y --to x,y [--colour #rrggbb]'

/** The message when there is no path. */
const NO_WAY = 3

/** How far the given ground points may lie off the course, in pixels. */
const TOLERANCE = 0.25

interface Arguments {
  sheet: string
  from: Point
  to: Point
  colour: Rgb | null
}

function readArguments(): Arguments {
  const option = { type: 'string' } as const
  let values
  try {
    ;({ values } = parseArgs({ options: { sheet: option, from: option, to: option, colour: option } }))
  } catch (error) {
    throw parseFault(error)
  }
  const { sheet, from, to, colour } = values
  if (sheet === undefined) throw new UsageError('--sheet is missing: the path of a map file, or demo.')
  if (colour !== undefined && !/^#[0-9a-f]{6}$/i.test(colour)) throw new UsageError(`--colour should be like #fbf3dc, not “${colour}”.`)
  return { sheet, from: pointOf('--from', from), to: pointOf('--to', to), colour: colour === undefined ? null : rgbOf(colour) }
}

function pointOf(option: string, text: string | undefined): Point {
  const [x, y, ...more] = (text ?? '').split(',').map((part) => (part.trim() === '' ? NaN : Number(part)))
  if (more.length > 0 || !Number.isFinite(x) || !Number.isFinite(y))
    throw new UsageError(`${option} should be a spot of the map in pixels, like 900,1120${text === undefined ? '' : `, not “${text}”`}.`)
  return { x: x!, y: y! }
}

async function follow(folder: string, image: Pick<Sheet, 'image' | 'width' | 'height' | 'vector'>, { from, to, colour }: Arguments) {
  for (const { x, y } of [from, to])
    if (x < 0 || y < 0 || x >= image.width || y >= image.height)
      throw new UsageError(`The spot ${x},${y} lies beyond the map, which is ${image.width} x ${image.height} pixels large.`)
  return followRoad(pictureSource(folder, image), { through: [from, to], colour }, () => undefined)
}

async function followOn(options: Arguments): Promise<Followed> {
  if (options.sheet === 'demo') {
    const { journey, folder } = await freshDemo()
    return follow(folder, journey.sheets[0]!, options)
  }
  if (!statSync(options.sheet, { throwIfNoEntry: false })?.isFile())
    throw new UsageError(`The map file ${options.sheet} cannot be read: check the path.`)
  const folder = mkdtempSync(join(tmpdir(), 'zephyrine-follow-'))
  const db = openDatabase(folder)
  try {
    const { image } = await importSheetFile(db, folder, basename(options.sheet), createReadStream(options.sheet))
    return await follow(folder, { ...image, image: image.hash }, options)
  } finally {
    db.close()
    rmSync(folder, { recursive: true, force: true })
  }
}

async function main(): Promise<void> {
  const found = await followOn(readArguments())
  if (!found.found) {
    console.error(found.reason)
    process.exitCode = NO_WAY
    return
  }
  const { points, length } = courseOf(found.course, TOLERANCE)
  const rounded = (value: number) => Math.round(value * 100) / 100
  const list = Array.from({ length: points.length / 2 }, (_, i) => [rounded(points[2 * i]!), rounded(points[2 * i + 1]!)])
  console.log(
    JSON.stringify({
      colour: hexOf(found.colour),
      width: found.width,
      onRoad: rounded(found.onRoad),
      length: rounded(length),
      points: list,
    }),
  )
}

await runCommand(USAGE, main)
