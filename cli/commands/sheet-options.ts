import { parseArgs } from 'node:util'
import type { Region } from '#core/journey/schema'
import type { CommandOptions } from '../command'
import { parseFault, UsageError } from '../command'
import { joined, regionIn } from './region'

export interface FileOptions {
  from: 'file'
  file: string
  worldFile: string | undefined
  points: string | undefined
  crs: string | undefined
}

export interface TileOptions {
  from: 'tiles'
  address: string
  region: Region
  author: string
  licence: string
  /** Metres to the pixel at the region's middle; undefined for a film that shows all of it. */
  sharpAt: number | undefined
  /** The map of a service that has several. */
  map: string | undefined
  /** Where the tiles are kept, as MBTiles. */
  out: string | undefined
}

export type SheetOptions = FileOptions | TileOptions

const OPTIONS = {
  'world-file': { type: 'string' },
  points: { type: 'string' },
  crs: { type: 'string' },
  tiles: { type: 'string' },
  region: { type: 'string' },
  credit: { type: 'string' },
  'sharp-at': { type: 'string' },
  map: { type: 'string' },
  out: { type: 'string' },
} as const

type Values = Partial<Record<keyof typeof OPTIONS, string>>

function read(args: readonly string[]): SheetOptions {
  try {
    const { values, positionals } = parseArgs({ args: joined(args, '--region'), allowPositionals: true, options: OPTIONS })
    return values.tiles === undefined ? fileOptions(values, positionals) : tileOptions(values.tiles, values, positionals)
  } catch (error) {
    throw error instanceof UsageError ? error : parseFault(error)
  }
}

/** @throws UsageError naming an option that is given but means nothing here */
function refuse(values: Values, names: readonly (keyof typeof OPTIONS)[], why: string): void {
  const given = names.find((name) => values[name] !== undefined)
  if (given) throw new UsageError(`--${given} ${why}`)
}

function fileOptions(values: Values, [file, ...more]: readonly string[]): FileOptions {
  if (file === undefined) throw new UsageError('The path of the map file is missing; or give --tiles with the address of a tile service.')
  if (more.length > 0) throw new UsageError(`One map file at a time: “${more[0]}” is one too many.`)
  refuse(values, ['region', 'credit', 'sharp-at', 'map', 'out'], 'is for tiles of a service: give --tiles too.')
  if (values['world-file'] !== undefined && values.points !== undefined)
    throw new UsageError('Give either --world-file or --points, not both.')
  if (values.crs !== undefined && values['world-file'] === undefined)
    throw new UsageError('--crs says what the numbers of a world file are: give --world-file too.')
  return { from: 'file', file, worldFile: values['world-file'], points: values.points, crs: values.crs }
}

function tileOptions(address: string, values: Values, positionals: readonly string[]): TileOptions {
  if (positionals.length > 0) throw new UsageError(`Give either a map file or --tiles: “${positionals[0]}” is one too many.`)
  refuse(values, ['world-file', 'points', 'crs'], 'is for map files: tiles know where they lie.')
  const { region, credit } = values
  if (region === undefined) throw new UsageError('--region is missing: west, south, east and north in degrees, like 84,-39,85.8,-38.3.')
  if (credit === undefined) throw new UsageError('--credit is missing: who made the map, and its licence, like "Zephyrine (CC0 1.0)".')
  const [, author, licence] = /^(.*\S)\s*\(([^()]+)\)\s*$/.exec(credit) ?? []
  if (!author || !licence)
    throw new UsageError(`--credit should end with the licence in brackets, like "Zephyrine (CC0 1.0)", not “${credit}”.`)
  const sharpAt = values['sharp-at'] === undefined ? undefined : Number(values['sharp-at'])
  if (sharpAt !== undefined && !(sharpAt > 0 && sharpAt < 1e6))
    throw new UsageError(`--sharp-at should be metres to the pixel, like 20, not “${values['sharp-at']}”.`)
  return { from: 'tiles', address, region: regionIn(region), author, licence, sharpAt, map: values.map, out: values.out }
}

/** Imports a map file, or takes tiles of a service, into a scratch folder and reports the result. */
export const sheetOptions: CommandOptions<SheetOptions> = {
  usage: `npm run sheet -- FILE [--world-file FILE [--crs EPSG:2056]] [--points points.json]
npm run sheet -- --tiles ADDRESS --region W,S,E,N --credit "AUTHOR (LICENCE)" [--sharp-at METRES] [--map ID] [--out FILE.mbtiles]
A key for {key} in ADDRESS is read from ZEPHYRINE_TILE_KEY.`,
  read,
}
