import { existsSync, readFileSync } from 'node:fs'
import { join } from 'node:path'
import { z } from 'zod'
import { planeMap } from '#core/geo/plane'
import { JourneyError } from '#core/error'
import type { Plane } from '#core/journey/schema'

/** Coordinate systems by their EPSG numbers, from the package epsg-index. */

const entrySchema = z.object({ name: z.string(), proj4: z.string().nullable() })

/** Systems with a plane kind of their own here; UTM on WGS 84, ETRS89 and NAD83 are treated as one. */
function known(code: number): Plane | undefined {
  if (code === 4326 || code === 4258 || code === 4269) return { kind: 'degrees' }
  if (code === 3857 || code === 900913) return { kind: 'mercator' }
  const utm = [
    { first: 32601, last: 32660, south: false },
    { first: 32701, last: 32760, south: true },
    { first: 25828, last: 25838, south: false, zone: 28 },
    { first: 26901, last: 26923, south: false },
  ].find(({ first, last }) => code >= first && code <= last)
  return utm && { kind: 'utm', zone: code - utm.first + (utm.zone ?? 1), south: utm.south }
}

/**
 * The coordinate system with an EPSG number.
 * @throws JourneyError with the reason if there is none, or if its projection cannot be computed
 */
export function planeOfEpsg(code: number): Plane {
  const plane = known(code)
  if (plane) return plane
  const path = join(process.cwd(), 'node_modules/epsg-index/s', `${code}.json`)
  if (!Number.isInteger(code) || code < 1 || code > 99_999 || !existsSync(path))
    throw new JourneyError(`EPSG:${code} is not in the list of coordinate systems.`)
  const { name, proj4 } = entrySchema.parse(JSON.parse(readFileSync(path, 'utf8')))
  const title = `EPSG:${code} (${name})`.slice(0, 120)
  if (!proj4) throw new JourneyError(`The projection of ${title} cannot be computed here.`)
  const found: Plane = { kind: 'crs', name: title, definition: proj4 }
  planeMap(found)
  return found
}
