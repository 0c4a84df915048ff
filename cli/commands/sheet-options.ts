import { parseArgs } from 'node:util'
import type { CommandOptions } from '../command'
import { parseFault, UsageError } from '../command'

export interface SheetOptions {
  file: string
  worldFile: string | undefined
  points: string | undefined
  crs: string | undefined
}

function read(args: readonly string[]): SheetOptions {
  try {
    const { values, positionals } = parseArgs({
      args: [...args],
      allowPositionals: true,
      options: { 'world-file': { type: 'string' }, points: { type: 'string' }, crs: { type: 'string' } },
    })
    const [file, ...more] = positionals
    if (file === undefined) throw new UsageError('The path of the map file is missing.')
    if (more.length > 0) throw new UsageError(`One map file at a time: “${more[0]}” is one too many.`)
    if (values['world-file'] !== undefined && values.points !== undefined)
      throw new UsageError('Give either --world-file or --points, not both.')
    if (values.crs !== undefined && values['world-file'] === undefined)
      throw new UsageError('--crs says what the numbers of a world file are: give --world-file too.')
    return { file, worldFile: values['world-file'], points: values.points, crs: values.crs }
  } catch (error) {
    throw error instanceof UsageError ? error : parseFault(error)
  }
}

/** Imports a map file into a scratch folder and reports the result. */
export const sheetOptions: CommandOptions<SheetOptions> = {
  usage: 'npm run sheet -- FILE [--world-file FILE [--crs EPSG:2056]] [--points points.json]',
  read,
}
