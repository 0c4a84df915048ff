/** Routes as open formats: read again by other libraries, they are what they were. */
import { gpx, kml } from '@tmcw/togeojson'
import { DOMParser } from '@xmldom/xmldom'
import type { Feature, FeatureCollection, Geometry, Point as GeoPoint, Position } from 'geojson'
import { svgPathProperties } from 'svg-path-properties'
import { describe, expect, it } from 'vitest'
import { compile } from '#core/frame/compile'
import { groundGeo } from '#core/geo/ground'
import { cutAtAntimeridian, ROUTE_FORMATS, routeOf, writeGeoJson, writeGpx, writeKml, writeSvg } from '#core/formats/route'
import { insertNode, makeDrawn } from '#core/edits/lines/courses'
import { editLeg } from '#core/edits/lines/legs'
import { editStop } from '#core/edits/marks/stops'
import { breakAt } from '#core/edits/lines/breaks'
import { trackCourse } from '#core/courses/track-course'
import { demo, journeyOver } from '../support/journeys'

const named = editStop(demo(), 'oarsend', { name: 'Oar’s <End> & "more"' })
/** The last leg has a gap. */
const PLANE = named.travellers[0]!.legs.at(-1)!
const journey = breakAt(insertNode(makeDrawn(named, PLANE.id), PLANE.id, { segment: 0, u: 0.5 }), PLANE.id, new Set([0]), 80)
const compiled = compile(journey)
const route = routeOf(compiled, groundGeo(journey)!.toLonLat)
const parse = (text: string) => new DOMParser().parseFromString(text, 'text/xml') as unknown as Document

function positionsOf(geometry: Geometry): Position[][] {
  if (geometry.type === 'LineString') return [geometry.coordinates]
  if (geometry.type === 'MultiLineString') return geometry.coordinates
  return geometry.type === 'GeometryCollection' ? geometry.geometries.flatMap(positionsOf) : []
}

function expectSame(collection: FeatureCollection): void {
  const points = collection.features.filter((feature): feature is Feature<GeoPoint> => feature.geometry.type === 'Point')
  const lines = collection.features.filter((feature) => feature.geometry.type !== 'Point')
  expect(points.map((feature) => feature.properties!.name as string)).toEqual(route.stops.map((stop) => stop.name))
  expect(lines.map((feature) => feature.properties!.name as string)).toEqual(route.legs.map((leg) => leg.name))
  const near = ([lon, lat]: Position, at: { lon: number; lat: number }) => Math.hypot(lon! - at.lon, lat! - at.lat) < 1e-7
  points.forEach((feature, i) => expect(near(feature.geometry.coordinates, route.stops[i]!.at!)).toBe(true))
  lines.forEach((feature, i) => {
    const read = positionsOf(feature.geometry)
    expect(read).toHaveLength(route.legs[i]!.lines.length)
    route.legs[i]!.lines.forEach((line, part) => {
      expect(read[part]).toHaveLength(line.length)
      expect(read[part]!.every((position, k) => near(position, line[k]!))).toBe(true)
    })
  })
}

describe('a route', () => {
  it('as GPX 1.1 and KML 2.3 is read back the same by @tmcw/togeojson', () => {
    expectSame(gpx(parse(writeGpx(route))) as FeatureCollection)
    expectSame(kml(parse(writeKml(route))) as FeatureCollection)
  })

  it('as GeoJSON is a collection of points and lines', () => expectSame(JSON.parse(writeGeoJson(route)) as FeatureCollection))

  it('as SVG has paths of the courses’ lengths: against svg-path-properties', () => {
    expect(route.legs.map(({ lines }) => lines.length)).toEqual([1, 1, 1, 2])
    const paths = [...writeSvg(route).matchAll(/<path d="([^"]+)"/g)].map((match) => match[1]!)
    expect(paths).toHaveLength(compiled.travellers[0]!.legs.length)
    paths.forEach((d, i) => {
      const { length } = compiled.travellers[0]!.legs[i]!.course
      expect(Math.abs(new svgPathProperties(d).getTotalLength() / length - 1)).toBeLessThan(1e-3)
    })
  })

  it('is cut where it crosses the antimeridian, as RFC 7946 asks', () => {
    const parts = cutAtAntimeridian([
      { lon: 170, lat: 10 },
      { lon: -170, lat: 20 },
      { lon: -160, lat: 20 },
    ])
    expect(parts).toEqual([
      [
        { lon: 170, lat: 10 },
        { lon: 180, lat: 15 },
      ],
      [
        { lon: -180, lat: 15 },
        { lon: -170, lat: 20 },
        { lon: -160, lat: 20 },
      ],
    ])
  })

  it('can be had on a sheet that lies nowhere on the Earth as SVG only', () => {
    const nowhere = routeOf(compiled, undefined)
    expect(nowhere.stops.every((stop) => stop.at === undefined)).toBe(true)
    expect(writeSvg(nowhere)).toBe(writeSvg(route))
    expect(ROUTE_FORMATS.filter((format) => !format.onEarth).map((format) => format.ending)).toEqual(['.svg'])
    expect(() => routeOf(compiled, () => undefined)).toThrow(/leaves the part of the map/)
  })
})

describe('an SVG of a long track', () => {
  it('is written, with a box round all of it', () => {
    const points = Array.from({ length: 90_000 }, (_, i) => [i / 50, 300 + 200 * Math.sin(i / 900)]).flat()
    const long = editLeg(journeyOver([[0, 300], [1800, 300]], {}, 10), 'l1', { course: trackCourse(points, null) }) // prettier-ignore
    const svg = writeSvg(routeOf(compile(long), undefined))
    const [, left, top, width, height] = /viewBox="(\S+) (\S+) (\S+) (\S+)"/.exec(svg)!.map(Number)
    expect([left, Math.round(top!), Math.round(width!), Math.round(height!)]).toEqual([0, 100, 1800, 400])
  })
})
