import { parseArgs } from 'node:util'
import { rgbOf } from '#core/colour/srgb'
import type { Rgb } from '#core/colour/srgb'
import type { Point } from '#core/geometry/point'
import type { CommandOptions } from '../command'
import { parseFault, UsageError } from '../command'

export interface FollowOptions {
  /** The path of a map file, or demo. */
  sheet: string
  /** Spots of the map in pixels. */
  from: Point
  to: Point
  colour: Rgb | null
}

function read(args: readonly string[]): FollowOptions {
  const option = { type: 'string' } as const
  let values
  try {
    ;({ values } = parseArgs({ args: [...args], options: { sheet: option, from: option, to: option, colour: option } }))
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

/** Finds the road visible on a map between two spots. */
export const followOptions: CommandOptions<FollowOptions> = {
  usage: 'npm run follow -- --sheet FILE|demo --from x,y --to x,y [--colour #rrggbb]',
  read,
}
