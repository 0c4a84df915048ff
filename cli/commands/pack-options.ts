import { parseArgs } from 'node:util'
import { JOURNEY_FILE_ENDING } from '#core/formats/journey-file'
import type { CommandOptions } from '../command'
import { parseFault, UsageError } from '../command'

export interface PackOptions {
  journey: string
  out: string
  /** Whether the versions that were kept go with it. */
  versions: boolean
}

function read(args: readonly string[]): PackOptions {
  let values
  try {
    values = parseArgs({
      args: [...args],
      options: { journey: { type: 'string', default: 'demo' }, out: { type: 'string' }, versions: { type: 'boolean', default: false } },
    }).values
  } catch (error) {
    throw parseFault(error)
  }
  const { journey, out, versions } = values
  if (out === undefined) throw new UsageError('--out is missing: say where the journey file is to be written.')
  if (!out.endsWith(JOURNEY_FILE_ENDING))
    throw new UsageError(`--out is "${out}": the name of a journey file ends in ${JOURNEY_FILE_ENDING}.`)
  return { journey, out, versions }
}

/** Writes a journey with all that it needs as one file. */
export const packOptions: CommandOptions<PackOptions> = {
  usage: `npm run pack -- --journey demo|ID|FILE --out FILE${JOURNEY_FILE_ENDING} [--versions]

  Writes a journey as one file, with its maps, pictures, fonts and sounds; with --versions also what was kept of it. It is opened by dropping it on the list of
  journeys, and every command takes it as --journey.`,
  read,
}
