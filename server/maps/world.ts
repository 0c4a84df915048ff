import { readFileSync } from 'node:fs'
import { createRequire } from 'node:module'
import { join } from 'node:path'
import { geoArea, geoBounds } from 'd3-geo'
import type { Feature, FeatureCollection, Geometry, Position } from 'geojson'
import { feature, mesh } from 'topojson-client'
import type { GeometryCollection, Topology } from 'topojson-specification'
import type { DrawnMap } from '#core/journey/schema'
import type { WorldShapes } from '#core/maps/drawn-map'
import { lonWidth } from '#core/maps/region'

/** Coasts and borders by Natural Earth (public domain), from the package world-atlas, in two degrees of detail. */
type Detail = '10m' | '50m'
type World = Topology<{ countries: GeometryCollection<{ name: string }>; land: GeometryCollection }>

const require = createRequire(join(process.cwd(), 'package.json'))
const read = new Map<Detail, World>()

function world(detail: Detail): World {
  const known = read.get(detail)
  if (known) return known
  const topology = JSON.parse(readFileSync(require.resolve(`world-atlas/countries-${detail}.json`), 'utf8')) as World
  read.set(detail, topology)
  return topology
}

/** From this many degrees across, the coarser coasts are detailed enough. */
const FINE = 40

const detailFor = (span: number): Detail => (span < FINE ? '10m' : '50m')

/** The shapes for a map, with the detail that its region needs; a small preview needs less. */
export function shapesFor({ region }: DrawnMap, isSmall = false): WorldShapes {
  const span = Math.max(lonWidth(region), region.north - region.south)
  return shapesOf(detailFor(isSmall ? span * 8 : span))
}

const shapesMade = new Map<Detail, WorldShapes>()

function shapesOf(detail: Detail): WorldShapes {
  const known = shapesMade.get(detail)
  if (known) return known
  const topology = world(detail)
  const { countries, land } = topology.objects
  const made = {
    land: withoutInsideOut(feature(topology, land) as FeatureCollection),
    borders: mesh(topology, countries, (a, b) => a !== b),
  }
  shapesMade.set(detail, made)
  return made
}

/**
 * Leaves out islets of three points that are wound the wrong way round: on a sphere they would cover the whole Earth but themselves. The finest
 * data has three of them.
 */
function withoutInsideOut(land: FeatureCollection): FeatureCollection {
  const isRight = (polygon: Position[][]) => polygon[0]!.length > 4 || geoArea({ type: 'Polygon', coordinates: polygon }) < 2 * Math.PI
  const features = land.features.map((part) =>
    part.geometry.type === 'MultiPolygon'
      ? { ...part, geometry: { ...part.geometry, coordinates: part.geometry.coordinates.filter(isRight) } }
      : part,
  )
  return { ...land, features }
}

export interface Country {
  id: string
  name: string
  /** Degrees; west is greater than east where it crosses the antimeridian. */
  region: DrawnMap['region']
}

const idOf = (country: Feature<Geometry, { name: string }>): string => String(country.id ?? country.properties.name)

let listed: Country[] | undefined

/** All countries, by name. */
export function listCountries(): Country[] {
  listed ??= countryFeatures('50m')
    .map((country) => {
      const [[west, south], [east, north]] = geoBounds(country)
      return { id: idOf(country), name: country.properties.name, region: { west, south, east, north } }
    })
    .sort((a, b) => a.name.localeCompare(b.name, 'en'))
  return listed
}

function countryFeatures(detail: Detail) {
  const topology = world(detail)
  return (feature(topology, topology.objects.countries) as FeatureCollection<Geometry, { name: string }>).features
}

/** A country's outline, with the detail that a map needs; its width is in degrees. */
export const findCountry = (id: string, span: number) => countryFeatures(detailFor(span)).find((country) => idOf(country) === id)
