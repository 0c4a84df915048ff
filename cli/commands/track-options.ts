import { parseArgs } from 'node:util'
import type { CommandOptions } from '../command'
import { parseFault, UsageError } from '../command'

export interface TrackOptions {
  file: string
  /** How far simplifying may move the track, in metres. */
  simplify: number
  /** Whether latitudes and longitudes are swapped in the file. */
  swap: boolean
}

function read(args: readonly string[]): TrackOptions {
  let parsed
  try {
    parsed = parseArgs({ args: [...args], allowPositionals: true, options: { simplify: { type: 'string' }, swap: { type: 'boolean' } } })
  } catch (error) {
    throw parseFault(error)
  }
  const [file, ...more] = parsed.positionals
  if (file === undefined) throw new UsageError('The path of the track is missing.')
  if (more.length > 0) throw new UsageError(`One track at a time: “${more[0]}” is one too many.`)
  const simplify = Number(parsed.values.simplify ?? 0)
  if (!(simplify >= 0) || parsed.values.simplify === '')
    throw new UsageError(`--simplify should be a distance in metres, not “${parsed.values.simplify}”.`)
  return { file, simplify, swap: parsed.values.swap ?? false }
}

/** Reads a recorded track and prints its summary. */
export const trackOptions: CommandOptions<TrackOptions> = {
  usage: 'npm run track -- FILE [--simplify METRES] [--swap]',
  read,
}
