import { createReadStream, mkdtempSync, rmSync, statSync } from 'node:fs'
import { tmpdir } from 'node:os'
import { basename, join } from 'node:path'
import type { Followed } from '#core/follow/follow-road'
import { followRoad } from '#core/follow/follow-road'
import { hexOf } from '#core/colour/srgb'
import { courseOf } from '#core/geometry/course'
import type { Sheet } from '#core/journey/schema'
import { freshDemo } from '#demo/seed'
import { importSheetFile } from '../../server/sheets/import-sheet'
import { pictureSource } from '../../server/sheets/picture-source'
import { openDatabase } from '../../server/storage/database'
import type { Output } from '../command'
import { UsageError } from '../command'
import type { FollowOptions } from './follow-options'

/** The exit code when there is no path. */
const NO_WAY = 3

/** How far the given ground points may lie off the course, in pixels. */
const TOLERANCE = 0.25

async function follow(folder: string, image: Pick<Sheet, 'image' | 'width' | 'height' | 'vector'>, { from, to, colour }: FollowOptions) {
  for (const { x, y } of [from, to])
    if (x < 0 || y < 0 || x >= image.width || y >= image.height)
      throw new UsageError(`The spot ${x},${y} lies beyond the map, which is ${image.width} x ${image.height} pixels large.`)
  return followRoad(pictureSource(folder, image), { through: [from, to], colour }, () => undefined)
}

async function followOn(options: FollowOptions): Promise<Followed> {
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

/** Prints the course of the road. @returns an exit code of its own where there is none */
export async function printRoad(options: FollowOptions, output: Output): Promise<number> {
  const found = await followOn(options)
  if (!found.found) {
    output.complain(found.reason)
    return NO_WAY
  }
  const { points, length } = courseOf(found.course, TOLERANCE)
  const rounded = (value: number) => Math.round(value * 100) / 100
  const list = Array.from({ length: points.length / 2 }, (_, i) => [rounded(points[2 * i]!), rounded(points[2 * i + 1]!)])
  output.result(
    `${JSON.stringify({
      colour: hexOf(found.colour),
      width: found.width,
      onRoad: rounded(found.onRoad),
      length: rounded(length),
      points: list,
    })}\n`,
  )
  return 0
}
