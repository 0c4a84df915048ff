import { parseArgs } from 'node:util'
import { readCoordinates } from '#core/formats/coordinates'
import type { LonLat } from '#core/geo/lon-lat'
import type { CommandOptions } from '../command'
import { parseFault, UsageError } from '../command'
import { joined } from './region'

export interface PlacesOptions {
  query: string
  near: LonLat | undefined
}

function read(args: readonly string[]): PlacesOptions {
  let parsed
  try {
    parsed = parseArgs({ args: joined(args, '--near'), allowPositionals: true, options: { near: { type: 'string' } } })
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
