/**
 * Names of countries and seas: that they name what they lie on, held against Natural Earth's finest borders and coasts (1:10 million, package world-atlas; the places
 * are made of the coarser ones) with d3-polygon, and that in the film they are whole, apart and in nobody's way, looked at in every frame.
 */
import { createRequire } from 'node:module'
import { geoArea } from 'd3-geo'
import { polygonContains } from 'd3-polygon'
import type { Feature, Geometry, Polygon, Position } from 'geojson'
import { feature } from 'topojson-client'
import type { GeometryCollection, Topology } from 'topojson-specification'
import { describe, expect, it } from 'vitest'
import { projectionOf } from '#core/camera/projection'
import { compile } from '#core/frame/compile'
import type { FrameItem, MapNameItem } from '#core/frame/frame'
import { frameAt, onTable, withoutGround } from '#core/frame/frame-at'
import { greatest, least } from '#core/geometry/extremes'
import type { Box } from '#core/geometry/box'
import { lengthInside, movedBox, overlapArea, scaledBox } from '#core/geometry/box'
import { facesOf } from '#core/frame/faces'
import { setMapNames } from '#core/edits/ground/sheets'
import type { Journey, MapStyle } from '#core/journey/schema'
import { drawnMapSchema, MAP_STYLES, mapNamesSchema, sheetSchema, shotSchema, washSchema } from '#core/journey/schema'
import { contrast } from '#core/colour/contrast'
import type { NamePlace } from '#core/maps/earth-names'
import { EARTH_NAMES } from '#core/maps/earth-names'
import { layoutMap } from '#core/maps/layout'
import { nameColours } from '#core/maps/name-colours'
import { labelBox } from '#core/marks/label-layout'
import { pinBox } from '#core/marks/pins'
import { weightOf } from '#core/type/families'
import type { TripPlace } from '#core/writing/make-journey'
import { journeyOfTrip, mapOfTrip } from '#core/writing/make-journey'
import { worldTrip } from '../support/world'

const require = createRequire(import.meta.url)
const fine = require('world-atlas/countries-10m.json') as Topology<{
  countries: GeometryCollection<{ name: string }>
  land: GeometryCollection
}>
const partsOf = (geometry: Geometry): Polygon[] =>
  geometry.type === 'MultiPolygon'
    ? geometry.coordinates.map((coordinates) => ({ type: 'Polygon', coordinates }))
    : geometry.type === 'Polygon'
      ? [geometry]
      : []

/** A ring whose longitudes run on where it crosses the antimeridian. */
function unbroken(ring: readonly Position[]): [number, number][] {
  let turns = 0
  return ring.map(([lon, lat], i) => {
    const step = i === 0 ? 0 : lon! - ring[i - 1]![0]!
    turns += step > 180 ? -360 : step < -180 ? 360 : 0
    return [lon! + turns, lat!]
  })
}

const named = (name: string, part: Polygon) => {
  const rings = part.coordinates.map(unbroken)
  const [lons, lats] = [0, 1].map((k) => rings[0]!.map((at) => at[k]!)) as [number[], number[]]
  return { name, rings, west: least(lons), east: greatest(lons), south: least(lats), north: greatest(lats) }
}
type Part = ReturnType<typeof named>

function contains({ rings: [outer, ...holes], west, east, south, north }: Part, [lon, lat]: readonly number[]): boolean {
  if (lat! < south || lat! > north) return false
  const isIn = (ring: [number, number][], x: number) => polygonContains(ring, [x, lat!])
  return [-360, 0, 360].some((turn) => {
    const x = lon! + turn
    return x >= west && x <= east && isIn(outer!, x) && !holes.some((hole) => isIn(hole, x))
  })
}

/** The names of the parts that a place lies in: in degrees, as that is how the data has its lines. */
const homesOf = (parts: readonly Part[], at: readonly number[]) => parts.filter((part) => contains(part, at)).map(({ name }) => name)

const countries = (feature(fine, fine.objects.countries).features as Feature<Geometry, { name: string }>[]).flatMap((country) =>
  partsOf(country.geometry).map((part) => named(country.properties.name, part)),
)

/** Land larger than 2500 square km, the Earth's radius being 6371 km. */
const land = feature(fine, fine.objects.land)
  .features.flatMap(({ geometry }) => partsOf(geometry))
  .filter((part) => geoArea(part) * 6371 ** 2 > 2500)
  .map((part) => named('land', part))

/** A place so many times half a name's width to the east, straight on: along the great circle, as letters stand in a line. */
function aside([lon, lat, halfKm]: NamePlace, share: number): Position {
  const [angle, phi] = [(share * halfKm) / 6371, (lat * Math.PI) / 180]
  const turn = Math.atan2(Math.sin(angle), Math.cos(angle) * Math.cos(phi))
  return [lon + (turn * 180) / Math.PI, (Math.asin(Math.sin(phi) * Math.cos(angle)) * 180) / Math.PI]
}

describe('the list of names', () => {
  // But for Antarctica, whose outline goes round the pole, and is none in degrees.
  it('has countries where they are: each of their places in it, with room to either side that is no other country’s', () => {
    const lost = EARTH_NAMES.filter(({ kind, name }) => kind === 'country' && name !== 'Antarctica').flatMap(({ name, places }) => {
      const home = homesOf(countries, places[0]!)[0]
      const isIn = places.every((place) => homesOf(countries, place).join() === home)
      const isRoom = places.every((place) =>
        [-0.7, 0.7].every((share) => homesOf(countries, aside(place, share)).every((at) => at === home)),
      )
      return isIn && isRoom ? [] : [name]
    })
    // Atolls and islands so small that the finer map has them elsewhere, where no name has room.
    expect(lost.filter((name) => EARTH_NAMES.find((entry) => entry.name === name)!.km2 > 1000)).toEqual([])
    expect(lost.length).toBeLessThan(12)
  })

  it('has seas on water, with room to either side', () => {
    const ashore = EARTH_NAMES.filter(({ kind }) => kind === 'sea').flatMap(({ name, places }) =>
      places.some((place) => [-0.7, 0, 0.7].some((share) => homesOf(land, aside(place, share)).length > 0)) ? [name] : [],
    )
    expect(ashore).toEqual([])
  })

  // Coordinates from general knowledge (an atlas gives them to about a degree), from memory.
  it.each([
    ['France', 2.5, 46.5, 4],
    ['Brazil', -53, -10, 12],
    ['New Zealand', 171, -43, 5],
    ['Black Sea', 34, 43.3, 3],
    ['Adriatic Sea', 15.5, 43, 2.5],
    ['Tasman Sea', 161, -38, 8],
    ['Gulf of Mexico', -90, 25, 4],
  ])('has %s at %d, %d', (name, lon, lat, within) => {
    const [x, y] = EARTH_NAMES.find((entry) => entry.name === name)!.places[0]!
    expect(Math.hypot(x - lon, y - lat)).toBeLessThan(within)
  })

  it('says no name twice', () => expect(new Set(EARTH_NAMES.map(({ name }) => name)).size).toBe(EARTH_NAMES.length))
})

const place = (name: string, lon: number, lat: number): TripPlace => ({ key: name, name, place: { lon, lat }, isListed: true, by: null, nights: null, date: null, note: '' }) // prettier-ignore
const FRAME = { width: 1920, height: 1080, rate: '30/1' } as const
const PLACES = [
  place('Lisbon', -9.14, 38.72),
  place('Madrid', -3.7, 40.42),
  place('Rome', 12.5, 41.9),
  place('Athens', 23.73, 37.98),
  place('Cairo', 31.24, 30.04),
]

function drawnSheet(style: MapStyle = 'atlas') {
  const drawn = drawnMapSchema.parse({
    ...mapOfTrip(
      PLACES.map((at) => at.place),
      FRAME,
    ),
    style,
  })
  const { size, georeference } = layoutMap(drawn)
  return sheetSchema.parse({ id: 'map', name: 'Map', image: 'a'.repeat(64), ...size, vector: true, georeference, drawn })
}

const trip = journeyOfTrip(PLACES, drawnSheet(), FRAME)
const namesIn = (items: readonly FrameItem[]) => items.filter((item): item is MapNameItem => item.kind === 'map-name')

/** Every box of a frame that a name could meet, and those of the names. */
function boxesAt(compiled: ReturnType<typeof compile>, time: number) {
  const frame = frameAt(compiled, time)
  const { toScreen, depthScale, clearance } = projectionOf(frame.view, frame.reference)
  const standing = (at: { x: number; y: number }, box: Box, k: number) => {
    const { x, y } = toScreen(at)
    return movedBox(scaledBox(box, k * Math.sqrt(depthScale(at))), x, y)
  }
  const names = namesIn(frame.items).map((item) => ({
    item,
    box: standing(item.at, labelBox({ block: item.block, align: 'center', x: 0, top: -item.block.height / 2 }, item.style), item.scale),
  }))
  const others = frame.items.flatMap((item) =>
    item.kind === 'label' && item.opacity > 0
      ? [standing(item.at, labelBox(item.label, item.style), item.scale)]
      : item.kind === 'pin'
        ? [standing(item.at, pinBox(item.pin), Math.min(1, item.scale))]
        : [],
  )
  const lines = frame.items.flatMap((item) =>
    item.kind === 'ink' || item.kind === 'planned'
      ? [Array.from({ length: item.course.points.length / 2 }, (_, k) => ({ x: item.course.points[2 * k]!, y: item.course.points[2 * k + 1]! }))] // prettier-ignore
      : [],
  )
  // What is behind the edge of the globe crosses nothing.
  const pieces = lines.flatMap((line) =>
    line.slice(1).flatMap((p, k) => (clearance(p) < 0 || clearance(line[k]!) < 0 ? [] : [[toScreen(line[k]!), toScreen(p)] as const])),
  )
  return { frame, names, others, pieces }
}

/** What is wrong with the names of a film, in each of its frames. */
function faultsOf(journey: Journey) {
  const compiled = compile(journey)
  const faults: string[] = []
  const seen = new Set<string>()
  let before = new Map<string, number>()
  for (let k = 0; k < compiled.frames; k++) {
    const time = (k / (compiled.frames - 1)) * compiled.lastTime
    const { frame, names, others, pieces } = boxesAt(compiled, time)
    const opacities = new Map(names.map(({ item }) => [item.id, item.opacity]))
    for (const [i, { item, box }] of names.entries()) {
      seen.add(item.block.lines.map(({ text }) => text).join(' '))
      const say = (what: string) => faults.push(`${time.toFixed(2)} ${item.id} ${what}`)
      if (box.left < 0 || box.top < 0 || box.right > frame.reference.width || box.bottom > frame.reference.height) say('is cut')
      if (others.some((other) => overlapArea(box, other) > 0)) say('is under a name or a pin')
      if (names.slice(0, i).some((other) => overlapArea(box, other.box) > 0)) say('is over another')
      if (pieces.some(([a, b]) => lengthInside(box, a.x, a.y, b.x, b.y) > 0)) say('is crossed')
    }
    // At 30 frames a second what comes or goes in less than a quarter of a second jumps.
    if (k > 0)
      for (const id of new Set([...before.keys(), ...opacities.keys()]))
        if (Math.abs((opacities.get(id) ?? 0) - (before.get(id) ?? 0)) > 4 / 30) faults.push(`${time.toFixed(2)} ${id} jumps`)
    before = opacities
  }
  return { faults, seen }
}

describe('names of countries and seas in a film', () => {
  it('are whole, apart and crossed by nothing in every frame, and come and go softly', () => {
    const { faults, seen } = faultsOf(trip)
    expect(faults).toEqual([])
    for (const name of ['SPAIN', 'FRANCE', 'ITALY', 'Bay of Biscay', 'Mediterranean Sea']) expect([...seen]).toContain(name)
  })

  it('are so too on a globe, and from a tilted camera that moves', () => {
    const world = worldTrip(8)
    const named = { ...world, ground: { ...world.ground, names: mapNamesSchema.parse({}) } }
    const globe = shotSchema.parse({ kind: 'globe', id: 'globe', at: { at: 'start', offset: 0 }, transition: 0, spin: 12, stop: 's2' })
    const { camera } = trip
    const view = { ...camera, pitch: 45, bearing: 20, zoom: camera.zoom * 2 }
    const moves = shotSchema.parse({ kind: 'free', id: 'f', at: { at: 'start', offset: 0 }, transition: 6, view })
    for (const journey of [
      { ...named, shots: [globe] },
      { ...trip, plan: { ...trip.plan, temperament: null }, camera: { ...camera, pitch: 20 }, shots: [moves] },
    ]) {
      const { faults, seen } = faultsOf(journey)
      expect(faults).toEqual([])
      expect(seen.size).toBeGreaterThan(3)
    }
  })

  it('never move or hide a name of the journey', () => {
    const [a, b] = [compile(trip), compile({ ...trip, ground: { ...trip.ground, names: null } })]
    const rest = ({ items }: ReturnType<typeof frameAt>) => items.filter(({ kind }) => kind !== 'map-name' && kind !== 'ground')
    for (const time of [0, 3, 7, 12, 19]) expect(rest(frameAt(a, time))).toEqual(rest(frameAt(b, time)))
  })

  it('are those that are asked for, and none where the map’s place on the Earth is not known', () => {
    const all = (journey: Journey) => namesIn(frameAt(compile(journey), 8).items)
    const kinds = (journey: Journey) => new Set(all(journey).map(({ style }) => style.case))
    expect(kinds(trip)).toEqual(new Set(['capitals', 'as-written']))
    expect(kinds(setMapNames(trip, { seas: false }))).toEqual(new Set(['capitals']))
    expect(kinds(setMapNames(trip, { countries: false }))).toEqual(new Set(['as-written']))
    expect(all(setMapNames(trip, { countries: false, seas: false }))).toEqual([])
    expect(all({ ...trip, sheets: trip.sheets.map((sheet) => ({ ...sheet, georeference: null })) })).toEqual([])
  })

  it('keep how they look while there are none', () => {
    const large = setMapNames(trip, { size: 40, colour: '#aa2200' })
    const gone = setMapNames(large, { countries: false, seas: false })
    expect(setMapNames(gone, { countries: true, seas: true }).ground.names).toEqual(large.ground.names)
  })

  it('are part of the ground: not in what is laid over something else, nor on the table', () => {
    const frame = frameAt(compile(trip), 8)
    expect(namesIn(frame.items).length).toBeGreaterThan(0)
    expect(namesIn(withoutGround(frame).items)).toEqual([])
    expect(namesIn(onTable(frame, frame.view).items)).toEqual([])
  })

  it('are set in faces that are loaded beforehand', () => {
    const known = facesOf(trip).map(({ family, weight }) => `${family} ${weightOf(family, weight)}`)
    for (const { block } of namesIn(frameAt(compile(trip), 8).items))
      for (const { family, weight } of block.lines) expect(known).toContain(`${family} ${weightOf(family, weight)}`)
  })
})

describe('the colours of names', () => {
  it.each(MAP_STYLES)('can be read on their rim: %s', (style) => {
    for (const wash of [null, washSchema.parse({ twoTone: { dark: '#14233a', light: '#fbf6ea', strength: 1 } })])
      for (const { letters, rim } of Object.values(nameColours(null, { ...drawnSheet(style), wash })))
        // Large letters, WCAG 2.2, 1.4.3: 3 to 1.
        expect(contrast(letters, rim)).toBeGreaterThan(wash ? 1.6 : 3)
  })

  it('take on the map’s wash, and are one’s own where that is wished', () => {
    const red = washSchema.parse({ twoTone: { dark: '#400000', light: '#ff0000', strength: 1 } })
    expect(nameColours(null, { ...drawnSheet(), wash: red }).country.letters).toMatch(/^#[0-9a-f]{2}0000$/)
    expect(nameColours('#00ff00', { ...drawnSheet(), wash: red }).sea.letters).toBe('#00ff00')
  })
})
