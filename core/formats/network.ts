import { z } from 'zod'
import type { LonLat } from '../geo/lon-lat'
import type { Point } from '../geometry/point'
import { JourneyError } from '../error'
import type { Network, NetworkMode } from '../journey/schema'
import { LIMITS } from '../journey/schema'
import { writePoints } from '../journey/track-line'
import { CLASS_SPEEDS, USUAL_SPEED } from '../network/modes'

type Line = Network['lines'][number]

/** Files of lines larger than this are not read. */
export const MOST_NETWORK_BYTES = 32 * 1024 ** 2

const position = z.array(z.number()).min(2)
const word = z.union([z.string(), z.number()]).optional().catch(undefined)
const featureSchema = z.object({
  type: z.literal('Feature'),
  geometry: z.union([
    z.object({ type: z.literal('LineString'), coordinates: z.array(position).min(2) }),
    z.object({ type: z.literal('MultiLineString'), coordinates: z.array(z.array(position).min(2)) }),
    // Skip anything that is not a line.
    z.object({ type: z.enum(['Point', 'MultiPoint', 'Polygon', 'MultiPolygon', 'GeometryCollection']) }).transform(() => null),
    z.null(),
  ]),
  properties: z.object({ highway: word, railway: word, route: word, class: word, speed: word, maxspeed: word }).nullable().catch(null),
})
const collectionSchema = z.object({ type: z.literal('FeatureCollection'), features: z.array(featureSchema) })

/**
 * Reads the lines of a network from GeoJSON (RFC 7946). The OpenStreetMap tags `highway`, `railway` and `route` = ferry give the mode of a
 * line; `speed` or `maxspeed` in km/h, or else its class, gives the speed on it.
 *
 * @param mode of lines that do not say theirs
 * @param toGround where places on the Earth lie on the ground
 * @throws JourneyError that says what is wrong
 */
export function readNetworkLines(
  text: string,
  name: string,
  mode: NetworkMode,
  toGround: (at: LonLat) => Point | undefined,
): Partial<Record<NetworkMode, Line[]>> {
  let data: unknown
  try {
    data = JSON.parse(text)
  } catch (error) {
    throw new JourneyError(`“${name}” is not JSON: ${(error as Error).message}.`)
  }
  const parsed = collectionSchema.safeParse(data)
  if (!parsed.success) throw new JourneyError(`“${name}” is not a GeoJSON collection of features (RFC 7946).`)
  const found: Partial<Record<NetworkMode, Line[]>> = {}
  let [count, outside] = [0, 0]
  for (const { geometry, properties } of parsed.data.features) {
    if (!geometry) continue
    const lines = geometry.type === 'LineString' ? [geometry.coordinates] : geometry.coordinates
    for (const line of lines) {
      const ground = line.map(([lon, lat]) =>
        Math.abs(lon!) <= 180 && Math.abs(lat!) <= 90 ? toGround({ lon: lon!, lat: lat! }) : undefined,
      )
      if (!ground.every((p) => p !== undefined)) {
        outside++
        continue
      }
      count += ground.length
      if (count > LIMITS.trackPoints)
        throw new JourneyError(`“${name}” has more than ${LIMITS.trackPoints} points: cut out the part you need.`)
      const own = modeOf(properties) ?? mode
      const lineOf: Line = { points: writePoints(ground.flatMap(({ x, y }) => [x, y])), speed: speedOf(properties, own) }
      ;(found[own] ??= []).push(lineOf)
    }
  }
  if (count === 0)
    throw new JourneyError(
      outside > 0 ? `The lines of “${name}” do not lie on the part of the Earth that the map shows.` : `“${name}” holds no lines.`,
    )
  return found
}

type Properties = z.output<typeof featureSchema>['properties']

function modeOf(properties: Properties): NetworkMode | undefined {
  if (properties?.highway !== undefined) return 'road'
  if (properties?.railway !== undefined) return 'rail'
  return properties?.route === 'ferry' ? 'water' : undefined
}

/** A speed as OpenStreetMap writes it: a number of km/h, or with its unit. NaN where there is none. */
function kilometresAnHour(text: string): number {
  const [, value, unit = ''] = /^\s*(\d+(?:\.\d+)?)\s*(mph|knots)?/i.exec(text) ?? []
  return Number(value) * ({ mph: 1.609344, knots: 1.852 }[unit.toLowerCase()] ?? 1)
}

function speedOf(properties: Properties, mode: NetworkMode): number {
  const said = kilometresAnHour(String(properties?.speed ?? properties?.maxspeed ?? ''))
  const kind = String(properties?.highway ?? properties?.railway ?? properties?.route ?? properties?.class ?? '').replace(/_link$/, '')
  return said >= 1 && said <= 1000 ? said : (CLASS_SPEEDS[kind] ?? USUAL_SPEED[mode])
}
