import fc from 'fast-check'
import { describe, expect, it } from 'vitest'
import { compile } from '#core/frame/compile'
import { readNetworkLines } from '#core/formats/network'
import { polylineCourse } from '#core/geometry/course'
import type { Point } from '#core/geometry/point'
import { distance } from '#core/geometry/point'
import { makeDrawn } from '#core/edits/lines/courses'
import { editLeg } from '#core/edits/lines/legs'
import { addNetworks, keepAsLine, removeNetwork } from '#core/edits/lines/networks'
import { parseJourney } from '#core/journey/parse'
import type { Network, NetworkCourse } from '#core/journey/schema'
import { insertStop, removeStop, reverseTrip } from '#core/edits/trips/trips'
import { routeOver } from '#core/network/route-over'
import { TOWNS } from '#demo/places'
import { demo, journeyOver } from '../support/journeys'
import { shareOnRoads } from '../support/isles'

const network = (...lines: [points: string, speed: number][]): Network[] => [
  { id: 'n', name: '', mode: 'road', lines: lines.map(([points, speed]) => ({ points, speed })) },
]
const over = (by: NetworkCourse['by'], vias: Point[] = []) => ({ mode: 'road' as const, by, vias })
const lengthOf = (points: Float64Array | undefined) => (points ? polylineCourse(points).length : Infinity)

/** A short way on foot over the hill, and a long fast one round it. */
const HILL = network(['0,0 50,40 100,0', 10], ['0,0 0,100 100,100 100,0', 100])

describe('the way over a network', () => {
  it('is the shortest or the fastest, as asked', () => {
    const [a, b] = [
      { x: 0, y: 0 },
      { x: 100, y: 0 },
    ]
    expect(lengthOf(routeOver(HILL, over('distance'), a, b))).toBeCloseTo(2 * Math.hypot(50, 40), 6)
    expect(lengthOf(routeOver(HILL, over('time'), a, b))).toBeCloseTo(300, 6)
  })

  it('goes by way of the spots that are asked for', () => {
    const way = routeOver(HILL, over('distance', [{ x: -3, y: 60 }]), { x: 0, y: 0 }, { x: 100, y: 0 })!
    // Up to the spot, back, and over the hill.
    expect(lengthOf(way)).toBeCloseTo(120 + 2 * Math.hypot(50, 40), 6)
  })

  it('begins and ends beside the lines, and on one and the same piece', () => {
    const way = routeOver(network(['0,0 1000,0', 50]), over('time'), { x: 200, y: 5 }, { x: 300, y: -5 })!
    expect([...way]).toEqual([200, 5, 200, 0, 300, 0, 300, -5])
  })

  it('turns off where a line ends on another, or just beside it', () => {
    const cross = network(['0,0 1000,0', 50], ['500,3 500,400', 50])
    expect(lengthOf(routeOver(cross, over('time'), { x: 0, y: 0 }, { x: 500, y: 400 }))).toBeCloseTo(900, 0)
    // From the middle of a piece as well, without going to its end and back.
    expect(lengthOf(routeOver(cross, over('time'), { x: 200, y: 0 }, { x: 500, y: 400 }))).toBeCloseTo(700, 0)
  })

  it('is nowhere where lines are apart, or there are none', () => {
    const apart = network(['0,0 100,0', 50], ['0,500 100,500', 50])
    expect(routeOver(apart, over('time'), { x: 0, y: 0 }, { x: 100, y: 500 })).toBeUndefined()
    expect(routeOver([], over('time'), { x: 0, y: 0 }, { x: 100, y: 500 })).toBeUndefined()
    // Both ends far from all lines: what lies nearest would be a detour of nothing.
    expect(routeOver(apart, over('time'), { x: 4000, y: 0 }, { x: 4000, y: 900 })).toBeUndefined()
    expect(routeOver(apart, { ...over('time'), mode: 'rail' }, { x: 0, y: 0 }, { x: 100, y: 0 })).toBeUndefined()
  })

  it('is as short as the shortest of all, on any network (Floyd and Warshall)', () => {
    const spot = fc.record({ x: fc.integer({ min: 0, max: 9 }), y: fc.integer({ min: 0, max: 9 }) })
    fc.assert(
      fc.property(fc.array(fc.tuple(spot, spot), { minLength: 1, maxLength: 14 }), (pairs) => {
        // Ten times apart, so that no line ends beside another by chance but in a point they share.
        const at = ({ x, y }: Point) => ({ x: x * 1000 + 37 * y, y: y * 1000 })
        const edges = pairs.map(([p, q]) => [at(p), at(q)] as const).filter(([p, q]) => distance(p, q) > 0)
        if (edges.length === 0) return
        const lines = edges.map(([p, q]): [string, number] => [`${p.x},${p.y} ${q.x},${q.y}`, 50])
        const nodes = [...new Map(edges.flat().map((p) => [`${p.x} ${p.y}`, p])).values()]
        const n = nodes.length
        const index = (p: Point) => nodes.findIndex((q) => q.x === p.x && q.y === p.y)
        const d = Array.from({ length: n }, (_, i) => Array.from({ length: n }, (_u, j) => (i === j ? 0 : Infinity)))
        const join = (p: Point, q: Point) => {
          const [i, j] = [index(p), index(q)]
          d[i]![j] = d[j]![i] = Math.min(d[i]![j]!, distance(p, q))
        }
        edges.forEach(([p, q]) => join(p, q))
        for (let k = 0; k < n; k++)
          for (let i = 0; i < n; i++) for (let j = 0; j < n; j++) d[i]![j] = Math.min(d[i]![j]!, d[i]![k]! + d[k]![j]!)
        const [a, b] = [nodes[0]!, nodes[n - 1]!]
        const found = lengthOf(routeOver(network(...lines), over('distance'), a, b))
        // A line that ends on another one between its points turns off there, which the table does not know: never longer, then.
        expect(found).toBeLessThanOrEqual(d[0]![n - 1]! + 1e-6)
        if (Number.isFinite(found) && Number.isFinite(d[0]![n - 1]!)) expect(found).toBeGreaterThanOrEqual(distance(a, b) - 1e-6)
      }),
    )
  })
})

describe('a leg over the networks of the Lantern Isles', () => {
  const led = (leg: string, mode: NetworkCourse['mode']) =>
    editLeg(demo(), leg, { course: { kind: 'network', mode, by: 'time', vias: [] } })
  const courseOf = (journey: ReturnType<typeof demo>, i: number) => compile(journey).travellers[0]!.legs[i]!.course

  it('lies on the roads, and follows its stops when they are moved', () => {
    const journey = led('bicycle', 'road')
    expect(parseJourney(JSON.parse(JSON.stringify(journey)))).toEqual(journey)
    expect(shareOnRoads(courseOf(journey, 1))).toBeGreaterThan(0.99)
    const moved = { ...journey, stops: journey.stops.map((stop) => (stop.id === 'oarsend' ? { ...stop, at: TOWNS.millbeck.at } : stop)) }
    expect(shareOnRoads(courseOf(moved, 1))).toBeGreaterThan(0.99)
    expect(courseOf(led('rowing-boat', 'water'), 2).points.length).toBeGreaterThan(8)
    // No road leads over the sound.
    expect(courseOf(led('rowing-boat', 'road'), 2).points).toHaveLength(4)
  })

  it('is split at a stop into two that lie where it lay, and joined again by way of it', () => {
    const journey = led('bicycle', 'road')
    const whole = courseOf(journey, 1).length
    const split = insertStop(journey, 'bicycle', { x: 2250, y: 2090 }, { stop: 'new', leg: 'second' })
    expect(courseOf(split, 1).length + courseOf(split, 2).length).toBeCloseTo(whole, 0)
    const joined = removeStop(split, 'new', 'traveller')
    expect(courseOf(joined, 1).length).toBeCloseTo(whole, 0)
    expect(joined.travellers[0]!.legs[1]!.course).toMatchObject({ kind: 'network', vias: [split.stops.at(-1)!.at] })
    expect(courseOf(reverseTrip(joined, 'traveller'), 2).length).toBeCloseTo(whole, 0)
  })

  it('becomes a drawn course that lies on the road as well', () => {
    const drawn = makeDrawn(led('bicycle', 'road'), 'bicycle')
    expect(drawn.travellers[0]!.legs[1]!.course.kind).toBe('drawn')
    expect(shareOnRoads(courseOf(drawn, 1))).toBeGreaterThan(0.97)
  })

  it('can go along what was drawn for another, and goes straight when the network is gone', () => {
    const journey = keepAsLine(
      journeyOver(
        [
          [0, 0],
          [500, 0],
          [900, 300],
        ],
        { course: { kind: 'bowed', bow: 0.4 } },
      ),
      'l1',
      'rail',
      'own',
    )
    expect(journey.networks).toHaveLength(1)
    const led1 = editLeg(journey, 'l1', { course: { kind: 'network', mode: 'rail', by: 'time', vias: [] } })
    expect(courseOf(led1, 0).length).toBeCloseTo(courseOf(journey, 0).length, 0)
    expect(courseOf(removeNetwork(led1, 'own'), 0).length).toBeCloseTo(500, 6)
    expect(keepAsLine(journey, 'l2', 'rail', 'other').networks).toHaveLength(1)
  })
})

describe('lines in GeoJSON', () => {
  const flat = ({ lon, lat }: { lon: number; lat: number }) => (lon < 100 ? { x: lon * 100, y: -lat * 100 } : undefined)
  const feature = (coordinates: unknown, properties: unknown = {}, type = 'LineString') => ({
    type: 'Feature',
    geometry: { type, coordinates },
    properties,
  })
  const read = (...features: unknown[]) =>
    readNetworkLines(JSON.stringify({ type: 'FeatureCollection', features }), 'x.geojson', 'road', flat)

  it('are sorted by what they say they are, with the speeds they give', () => {
    const line = [
      [1, 1],
      [2, 2],
    ]
    const found = read(
      feature(line, { highway: 'motorway' }),
      feature(
        [
          line,
          [
            [3, 3],
            [4, 4],
          ],
        ],
        { railway: 'rail', maxspeed: '120' },
        'MultiLineString',
      ),
      feature(line, { route: 'ferry' }),
      feature(line, { name: 'a lane', speed: 12 }),
      feature([5, 5], {}, 'Point'),
      feature([
        [150, 1],
        [151, 1],
      ]),
    )
    expect(found.road).toEqual([
      { points: '100,-100 200,-200', speed: 110 },
      { points: '100,-100 200,-200', speed: 12 },
    ])
    expect(found.rail!.map(({ speed }) => speed)).toEqual([120, 120])
    expect(found.water).toHaveLength(1)
    const journey = addNetworks(demo(), 'Coast', found, { road: 'r', rail: 'l', water: 'w' })
    expect(() => parseJourney(JSON.parse(JSON.stringify(journey)))).not.toThrow()
  })

  it.each([
    ['{', /is not JSON/],
    ['{"type":"Topology"}', /not a GeoJSON collection/],
    [JSON.stringify({ type: 'FeatureCollection', features: [] }), /holds no lines/],
    [
      JSON.stringify({
        type: 'FeatureCollection',
        features: [
          feature([
            [150, 1],
            [151, 1],
          ]),
        ],
      }),
      /do not lie on the part of the Earth/,
    ],
    [
      JSON.stringify({
        type: 'FeatureCollection',
        features: [
          feature([
            [1, 1],
            ['a', 1],
          ]),
        ],
      }),
      /not a GeoJSON collection/,
    ],
  ])('that are broken are refused: %s', (text, message) => expect(() => readNetworkLines(text, 'x.geojson', 'road', flat)).toThrow(message))

  it('of more points than are kept are refused', () => {
    const long = Array.from({ length: 100_001 }, (_, i) => [i / 1e4, 1])
    expect(() => read(feature(long))).toThrow(/more than 100000 points/)
  })
})
