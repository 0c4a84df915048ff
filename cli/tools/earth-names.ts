/**
 * Finds where the names of countries and seas have room on the Earth, for core/maps/earth-names.json: `npm run earth-names`.
 */
import { readFileSync, writeFileSync } from 'node:fs'
import { createRequire } from 'node:module'
import { join } from 'node:path'
import { createCanvas } from '@napi-rs/canvas'
import { geoArea, geoAzimuthalEqualArea, geoCentroid, geoPath } from 'd3-geo'
import type { Feature, Geometry, Polygon, Position } from 'geojson'
import { feature } from 'topojson-client'
import type { GeometryCollection, Topology } from 'topojson-specification'
import { greatest } from '#core/geometry/extremes'
import type { EarthName, NamePlace } from '#core/maps/earth-names'
import { SEAS } from './seas'

const require = createRequire(join(process.cwd(), 'package.json'))

const EARTH_RADIUS = 6371

/** The raster that room is looked for in: so many cells to a side. */
const SIDE = 240
/** A name is so many times as wide as high, with some air. */
const WIDE = 4
/** So many places are kept of a country or sea, and only those with at least this share of the best one's room, in km of half a name's width. */
const MOST_PLACES = 4
const LEAST_SHARE = 0.45
const LEAST_ROOM = 4

/** What Natural Earth abbreviates, or names otherwise than the country asks to be called. */
const IN_FULL: Readonly<Record<string, string>> = {
  'Antigua and Barb.': 'Antigua and Barbuda',
  'Bosnia and Herz.': 'Bosnia and Herzegovina',
  'Br. Indian Ocean Ter.': 'British Indian Ocean Territory',
  'British Virgin Is.': 'British Virgin Islands',
  'Cayman Is.': 'Cayman Islands',
  'Central African Rep.': 'Central African Republic',
  'Cook Is.': 'Cook Islands',
  'Dem. Rep. Congo': 'DR Congo',
  'Dominican Rep.': 'Dominican Republic',
  'Eq. Guinea': 'Equatorial Guinea',
  'Faeroe Is.': 'Faroe Islands',
  'Falkland Is.': 'Falkland Islands',
  'Fr. Polynesia': 'French Polynesia',
  'Heard I. and McDonald Is.': 'Heard and McDonald Islands',
  Macedonia: 'North Macedonia',
  'Marshall Is.': 'Marshall Islands',
  'N. Mariana Is.': 'Northern Mariana Islands',
  'Pitcairn Is.': 'Pitcairn Islands',
  'S. Geo. and the Is.': 'South Georgia',
  'S. Sudan': 'South Sudan',
  'Solomon Is.': 'Solomon Islands',
  'St. Kitts and Nevis': 'Saint Kitts and Nevis',
  'St. Pierre and Miquelon': 'Saint Pierre and Miquelon',
  'St. Vin. and Gren.': 'Saint Vincent and the Grenadines',
  'St-Barthélemy': 'Saint Barthélemy',
  'St-Martin': 'Saint Martin',
  'São Tomé and Principe': 'São Tomé and Príncipe',
  Turkey: 'Türkiye',
  'Turks and Caicos Is.': 'Turks and Caicos Islands',
  'U.S. Virgin Is.': 'US Virgin Islands',
  'United States of America': 'United States',
  'W. Sahara': 'Western Sahara',
  'Wallis and Futuna Is.': 'Wallis and Futuna',
  eSwatini: 'Eswatini',
}

/** Natural Earth's own parts of countries, which are no countries of ISO 3166-1. */
const LEFT_OUT = ['Fr. S. Antarctic Lands', 'Indian Ocean Ter.', 'Siachen Glacier', 'Ashmore and Cartier Is.', 'N. Cyprus', 'Somaliland']

function read(name: 'countries' | 'land'): Feature<Geometry, { name: string }>[] {
  const topology = JSON.parse(readFileSync(require.resolve(`world-atlas/${name}-50m.json`), 'utf8')) as Topology
  const collection = feature(topology, topology.objects[name] as GeometryCollection<{ name: string }>)
  return collection.features
}

/** A raster of what is free round a place, in cells of `km`. */
interface Room {
  isFree: Uint8Array
  km: number
  toLonLat(column: number, row: number): [number, number]
}

/** @param reach from the middle to the edge, in km @param paint fills what is free, through a path */
function roomAbout(
  [lon, lat]: Position,
  reach: number,
  paint: (fill: (shape: Geometry | { type: 'Sphere' }, isFree: boolean) => void) => void,
): Room {
  const km = (2 * reach) / SIDE
  const projection = geoAzimuthalEqualArea()
    .rotate([-lon!, -lat!])
    .translate([SIDE / 2, SIDE / 2])
    .scale(EARTH_RADIUS / km)
    .clipAngle(Math.min(179, (reach * 1.5 * 180) / (Math.PI * EARTH_RADIUS)))
  const context = createCanvas(SIDE, SIDE).getContext('2d')
  const path = geoPath(projection, context as unknown as CanvasRenderingContext2D)
  context.fillStyle = '#000'
  context.fillRect(0, 0, SIDE, SIDE)
  paint((shape, isFree) => {
    context.fillStyle = isFree ? '#fff' : '#000'
    context.beginPath()
    path(shape as Geometry)
    context.fill()
  })
  const { data } = context.getImageData(0, 0, SIDE, SIDE)
  const isFree = new Uint8Array(SIDE * SIDE).map((_, i) => (data[4 * i]! > 127 ? 1 : 0))
  return { isFree, km, toLonLat: (column, row) => projection.invert!([column + 0.5, row + 0.5])! }
}

/** The places with the most room for a name, the best first. */
function placesIn({ isFree, km, toLonLat }: Room): NamePlace[] {
  const sums = new Int32Array((SIDE + 1) * (SIDE + 1))
  for (let y = 0; y < SIDE; y++)
    for (let x = 0; x < SIDE; x++)
      sums[(y + 1) * (SIDE + 1) + x + 1] =
        isFree[y * SIDE + x]! + sums[y * (SIDE + 1) + x + 1]! + sums[(y + 1) * (SIDE + 1) + x]! - sums[y * (SIDE + 1) + x]!
  /** Whether a name so many cells wide to either side is free. */
  const isRoom = (x: number, y: number, half: number): boolean => {
    const high = Math.ceil(half / WIDE)
    const [left, right, top, bottom] = [x - half, x + half + 1, y - high, y + high + 1]
    if (left < 0 || top < 0 || right > SIDE || bottom > SIDE) return false
    const free =
      sums[bottom * (SIDE + 1) + right]! -
      sums[top * (SIDE + 1) + right]! -
      sums[bottom * (SIDE + 1) + left]! +
      sums[top * (SIDE + 1) + left]!
    return free === (right - left) * (bottom - top)
  }
  const found: { x: number; y: number; half: number }[] = []
  while (found.length < MOST_PLACES) {
    let best = { x: 0, y: 0, half: 0, liked: 0 }
    for (let y = 0; y < SIDE; y++)
      for (let x = 0; x < SIDE; x++) {
        if (!isFree[y * SIDE + x] || found.some((place) => Math.hypot(place.x - x, 2 * (place.y - y)) < place.half)) continue
        let half = 0
        while (isRoom(x, y, half + 1)) half++
        // Of equal ones the one nearest to the middle.
        const liked = half - (0.1 * Math.hypot(x - SIDE / 2, y - SIDE / 2)) / SIDE
        if (half > 0 && liked > best.liked) best = { x, y, half, liked }
      }
    if (best.half === 0 || (found[0] && best.half < LEAST_SHARE * found[0].half)) break
    found.push(best)
  }
  return found.map(({ x, y, half }) => {
    const [lon, lat] = toLonLat(x, y)
    return [round(lon), round(lat), Math.max(LEAST_ROOM, Math.round((half + 0.5) * km))]
  })
}

const round = (degrees: number): number => Math.round(degrees * 100) / 100

const partsOf = ({ geometry }: Feature): Polygon[] =>
  geometry.type === 'MultiPolygon'
    ? geometry.coordinates.map((coordinates) => ({ type: 'Polygon', coordinates }))
    : geometry.type === 'Polygon'
      ? [geometry]
      : []

function countries(): EarthName[] {
  return read('countries').flatMap((country): EarthName[] => {
    const { name } = country.properties
    if (LEFT_OUT.includes(name)) return []
    const largest = partsOf(country).sort((a, b) => geoArea(b) - geoArea(a))[0]!
    const middle = geoCentroid(largest)
    const reach = 1.1 * EARTH_RADIUS * greatest(largest.coordinates[0]!.map((at) => distance(middle, at)))
    const km2 = Math.round(geoArea(country) * EARTH_RADIUS ** 2)
    const places = placesIn(roomAbout(middle, reach, (fill) => fill(largest, true)))
    return [
      {
        kind: 'country',
        name: IN_FULL[name] ?? name,
        km2,
        places: places.length > 0 ? places : [[round(middle[0]), round(middle[1]), LEAST_ROOM]],
      },
    ]
  })
}

/** The angle between two places, in radians. */
function distance([aLon, aLat]: Position, [bLon, bLat]: Position): number {
  const [a, b, turn] = [aLat!, bLat!, bLon! - aLon!].map((degrees) => (degrees * Math.PI) / 180) as [number, number, number]
  return Math.acos(Math.min(1, Math.max(-1, Math.sin(a) * Math.sin(b) + Math.cos(a) * Math.cos(b) * Math.cos(turn))))
}

/** Islands smaller than this do not keep a sea's name off, in square km. */
const SMALL_ISLAND = 2500

function seas(): EarthName[] {
  const land = read('land')
    .flatMap(partsOf)
    .filter((part) => geoArea(part) * EARTH_RADIUS ** 2 > SMALL_ISLAND)
  return SEAS.map(([name, lon, lat, reach]) => ({
    kind: 'sea',
    name,
    km2: Math.round(Math.PI * reach ** 2),
    places: placesIn(
      roomAbout([lon, lat], reach, (fill) => {
        fill({ type: 'Sphere' }, true)
        for (const part of land) fill(part, false)
      }),
    ),
  }))
}

const names = [...countries(), ...seas()].sort((a, b) => b.km2 - a.km2)
for (const { name, places } of names) if (places.length === 0) throw new Error(`There is no room for “${name}”.`)
writeFileSync('core/maps/earth-names.json', `[\n${names.map((name) => JSON.stringify(name)).join(',\n')}\n]\n`)
process.stdout.write(`${names.length} names.\n`)
