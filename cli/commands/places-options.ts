import { parseArgs } from 'node:util'
import { readCoordinates } from '#core/formats/coordinates'
import type { LonLat } from '#core/geo/lon-lat'
import type { CommandOptions } from '../command'
import { parseFault, UsageError } from '../command'

export interface PlacesOptions {
  query: string
  near: LonLat | undefined
}

function read(args: readonly string[]): PlacesOptions {
  let parsed
  try {
    // A longitude west of Greenwich begins with a minus, which would be parsed as an option.
    const given = args.flatMap((word, i) =>
      args[i - 1] === '--near' ? [] : word === '--near' && args[i + 1] !== undefined ? [`--near=${args[i + 1]}`] : [word],
    )
    parsed = parseArgs({ args: given, allowPositionals: true, options: { near: { type: 'string' } } })
  } catch (error) {
    throw parseFault(error)
  }
  const query = parsed.positionals.join(' ').trim()
  if (query === '') throw new UsageError('The name of a place is missing.')
  return { query, near: parsed.values.near === undefined ? undefined : nearOf(parsed.values.near) }
}

function nearOf(text: string): LonLat {
  const [lon, lat, ...more] = text.split(',').map((part) => (part.trim() === '' ? NaN : Number(part)))
  const near = more.length === 0 && readCoordinates(`${lat}, ${lon}`)
  if (!near) throw new UsageError(`--near should be a longitude and a latitude in degrees, like 11.58,48.14, not “${text}”.`)
  return near
}

/** Finds places by name. */
export const placesOptions: CommandOptions<PlacesOptions> = {
  usage: 'npm run places -- QUERY [--near lon,lat]',
  read,
}
