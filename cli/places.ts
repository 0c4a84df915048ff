/** Finds places by name: see USAGE. */
import { parseArgs } from 'node:util'
import { readCoordinates } from '#core/formats/coordinates'
import type { LonLat } from '#core/geo/lon-lat'
import { places } from '../server/places/places'
import { parseFault, runCommand, UsageError } from './usage'

const USAGE = 'npm run places -- QUERY [--near lon,lat]'

function readArguments(): { query: string; near: LonLat | undefined } {
  let parsed
  try {
    // A longitude west of Greenwich begins with a minus, which would be parsed as an option.
    const given = process.argv
      .slice(2)
      .flatMap((word, i, all) =>
        all[i - 1] === '--near' ? [] : word === '--near' && all[i + 1] !== undefined ? [`--near=${all[i + 1]}`] : [word],
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

async function main(): Promise<void> {
  const { query, near } = readArguments()
  const list = await places()
  console.log(JSON.stringify(list.search(query, near, 10), null, 2))
  list.close()
}

await runCommand(USAGE, main)
