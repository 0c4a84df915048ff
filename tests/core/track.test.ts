/** Recorded tracks: read as other libraries read them, measured, simplified, and refused with a sentence where they are broken. */
import { gpx, kml } from '@tmcw/togeojson'
import { DOMParser } from '@xmldom/xmldom'
import fc from 'fast-check'
import { strToU8, zipSync } from 'fflate'
import type { FeatureCollection, LineString } from 'geojson'
import { describe, expect, it } from 'vitest'
import { readTrack } from '#core/formats/read-track'
import { SwappedError } from '#core/tracks/track'
import { readTrackFile } from '#core/formats/track-file'
import { geodesicDistance } from '#core/geo/geodesic'
import { countOf, pointOf, simplifySegment, summariseTrack } from '#core/tracks/measure'

const parse = (text: string) => new DOMParser().parseFromString(text, 'text/xml') as unknown as Document
const point = (lat: number, lon: number, time = '') => `<trkpt lat="${lat}" lon="${lon}">${time && `<time>${time}</time>`}</trkpt>`
const gpxOf = (body: string) =>
  `<?xml version="1.0"?><gpx version="1.1" creator="x" xmlns="http://www.topografix.com/GPX/1/1">${body}</gpx>`
const at = (minute: number) => new Date(Date.UTC(2024, 4, 1, 8, minute)).toISOString()

const GPX = gpxOf(
  `<wpt lat="47.1" lon="8.2"><name>Hut &amp; spring</name></wpt>
   <trk><name>Day one</name><trkseg>${point(47, 8, at(0))}${point(47.01, 8, at(10))}${point(47.01, 8.0001, at(25))}${point(47.02, 8.01, at(40))}</trkseg>
   <trkseg></trkseg><trkseg>${point(47.1, 8.1)}</trkseg><trkseg>${point(47.2, 8.1)}${point(47.3, 8.2)}</trkseg></trk>
   <rte><rtept lat="46" lon="7"/><rtept lat="46.5" lon="7.5"/></rte>`,
)
/** The shape of the example in the KML standard's section on gx:Track; times and places are made up. */
const KML = `<kml xmlns="http://www.opengis.net/kml/2.2" xmlns:gx="http://www.google.com/kml/ext/2.2"><Document>
  <Placemark><name>Pass</name><Point><coordinates>8.5,46.5,2000</coordinates></Point></Placemark>
  <Placemark><name>Way</name><LineString><coordinates>8,47,0 8.1,47.1,0
   8.2,47,0</coordinates></LineString></Placemark>
  <Placemark><gx:Track><when>${at(0)}</when><when>${at(5)}</when><gx:coord>9 47 0</gx:coord><gx:coord>9.1 47.1 0</gx:coord></gx:Track></Placemark>
</Document></kml>`

const lines = (collection: FeatureCollection) =>
  collection.features.flatMap(({ geometry }) =>
    geometry.type === 'LineString'
      ? [(geometry as LineString).coordinates]
      : geometry.type === 'MultiLineString'
        ? geometry.coordinates
        : [],
  )
const ours = (text: string) =>
  readTrack(text, 'x').segments.map((segment) =>
    Array.from({ length: countOf(segment) }, (_, i) => [segment.lonLat[2 * i], segment.lonLat[2 * i + 1]]),
  )
const flat = (positions: number[][][]) => positions.filter((line) => line.length > 1).map((line) => line.map(([lon, lat]) => [lon, lat]))

describe('a track', () => {
  it('in GPX is read as @tmcw/togeojson reads it, without empty and single-point segments', () => {
    const reference = flat(lines(gpx(parse(GPX)) as FeatureCollection))
    expect(ours(GPX)).toHaveLength(3)
    for (const line of ours(GPX)) expect(reference).toContainEqual(line)
    expect(readTrack(GPX, 'x').waypoints).toEqual([{ lon: 8.2, lat: 47.1, name: 'Hut & spring' }])
  })

  it('in KML is read as @tmcw/togeojson reads it, with its times', () => {
    const reference = flat(lines(kml(parse(KML)) as FeatureCollection))
    expect(ours(KML)).toEqual(reference)
    const { segments, waypoints } = readTrack(KML, 'x')
    expect(segments[0]!.times).toBeNull()
    expect(segments[1]!.times![1]! - segments[1]!.times![0]!).toBe(300)
    expect(waypoints).toEqual([{ lon: 8.5, lat: 46.5, name: 'Pass' }])
  })

  it('in KMZ is unpacked', () => {
    const kmz = zipSync({ 'files/picture.png': new Uint8Array(10), 'doc.kml': strToU8(KML) })
    expect(readTrackFile(kmz, 'x.kmz')).toEqual(readTrack(KML, 'x'))
    expect(() => readTrackFile(zipSync({ 'a.txt': strToU8('x') }), 'x.kmz')).toThrow(/a ZIP without a KML/)
    expect(() => readTrackFile(kmz.slice(0, 40), 'x.kmz')).toThrow(/a damaged ZIP|without a KML/)
  })

  it('in GeoJSON is read from features, collections and bare geometries (RFC 7946, section 1.5 for the example’s shape)', () => {
    const example = {
      type: 'FeatureCollection',
      features: [
        { type: 'Feature', geometry: { type: 'Point', coordinates: [102, 0.5] }, properties: { prop0: 'value0' } },
        {
          type: 'Feature',
          geometry: {
            type: 'LineString',
            coordinates: [
              [102, 0],
              [103, 1],
              [104, 0],
              [105, 1],
            ],
          },
          properties: { prop0: 'value0', prop1: 0 },
        },
        {
          type: 'Feature',
          geometry: {
            type: 'Polygon',
            coordinates: [
              [
                [100, 0],
                [101, 0],
                [101, 1],
                [100, 1],
                [100, 0],
              ],
            ],
          },
          properties: { prop1: { this: 'that' } },
        },
      ],
    }
    const track = readTrack(JSON.stringify(example), 'x')
    expect(track.segments.map(countOf)).toEqual([4, 5])
    expect(track.waypoints).toEqual([{ lon: 102, lat: 0.5, name: '' }])
    expect(readTrack('{"type":"MultiLineString","coordinates":[[[1,2],[3,4]],[[5,6],[7,8]]]}', 'x').segments).toHaveLength(2)
  })
})

describe('a track’s summary', () => {
  it('has its geodesic length, bounds, ends, and the time in motion without pauses', () => {
    const track = readTrack(GPX, 'x')
    const summary = summariseTrack(track)!
    const expected = track.segments.reduce((sum, segment) => {
      for (let i = 1; i < countOf(segment); i++) sum += geodesicDistance(pointOf(segment, i - 1), pointOf(segment, i))
      return sum
    }, 0)
    expect(summary.lengthMetres).toBeCloseTo(expected, 4)
    expect(summary).toMatchObject({
      points: 8,
      bounds: [7, 46, 8.2, 47.3],
      start: { lon: 8, lat: 47 },
      end: { lon: 7.5, lat: 46.5, time: null },
      movingSeconds: null,
    })
    const timed = summariseTrack({ segments: track.segments.slice(0, 1), waypoints: [], badTimes: 0 })!
    // From 10 to 25 minutes past one stayed within eight metres.
    expect(timed.movingSeconds).toBe((10 + 15) * 60)
    expect(timed.stops).toEqual([{ lon: 8, lat: 47.01, isMarked: false, name: '', seconds: 900 }])
  })

  it('has its west east of its east where it crosses the antimeridian, as RFC 7946, section 5.2, has it', () => {
    expect(summariseTrack(readTrack('{"type":"LineString","coordinates":[[178,-18],[-179,-17],[-178,-16]]}', 'x'))!.bounds).toEqual([
      178, -18, -178, -16,
    ])
  })
})

describe('a simplified track', () => {
  const segment = fc
    .array(fc.tuple(fc.double({ min: -0.01, max: 0.01, noNaN: true }), fc.double({ min: -0.01, max: 0.01, noNaN: true })), {
      minLength: 2,
      maxLength: 80,
    })
    .map((positions) => ({ lonLat: Float64Array.from(positions.flatMap(([x, y]) => [8 + x, 47 + y])), times: null, heights: null }))

  it('leaves out no point further from it than the tolerance, and keeps its ends', () => {
    fc.assert(
      fc.property(segment, fc.double({ min: 1, max: 500, noNaN: true }), (track, metres) => {
        const kept = simplifySegment(track, metres)
        expect(pointOf(kept, 0)).toEqual(pointOf(track, 0))
        expect(pointOf(kept, countOf(kept) - 1)).toEqual(pointOf(track, countOf(track) - 1))
        const k = Math.cos((track.lonLat[1]! * Math.PI) / 180)
        const plane = ({ lon, lat }: { lon: number; lat: number }) => ({ x: lon * k * 111_195, y: lat * 111_195 })
        for (let i = 0; i < countOf(track); i++) {
          const p = plane(pointOf(track, i))
          let nearest = Infinity
          for (let j = 1; j < countOf(kept); j++)
            nearest = Math.min(nearest, toSegment(p, plane(pointOf(kept, j - 1)), plane(pointOf(kept, j))))
          expect(nearest).toBeLessThanOrEqual(metres + 1e-6)
        }
      }),
    )
  })

  it('is the whole track at a tolerance of none', () => {
    const { segments } = readTrack(GPX, 'x')
    expect(simplifySegment(segments[0]!, 0)).toBe(segments[0])
  })

  it('keeps the times of the points that are left', () => {
    const { segments } = readTrack(GPX, 'x')
    const kept = simplifySegment(segments[0]!, 100)
    expect(kept.times).toHaveLength(countOf(kept))
    expect(kept.times![0]).toBe(segments[0]!.times![0])
  })
})

function toSegment(p: { x: number; y: number }, a: { x: number; y: number }, b: { x: number; y: number }): number {
  const [dx, dy] = [b.x - a.x, b.y - a.y]
  const u = dx === 0 && dy === 0 ? 0 : Math.min(1, Math.max(0, ((p.x - a.x) * dx + (p.y - a.y) * dy) / (dx * dx + dy * dy)))
  return Math.hypot(p.x - a.x - u * dx, p.y - a.y - u * dy)
}

describe('a broken track is refused with a sentence', () => {
  it.each<[string, string, RegExp]>([
    [
      'an entity bomb',
      `<!DOCTYPE gpx [<!ENTITY a "x"><!ENTITY b "&a;&a;">]>${gpxOf('<wpt lat="1" lon="1"><name>&b;</name></wpt>')}`,
      /XML entities/,
    ],
    ['text', 'Dear diary', /is neither GPX, KML nor GeoJSON/],
    ['HTML', '<html><body/></html>', /outermost element is <html>/],
    ['XML that ends too soon', GPX.slice(0, 300), /is not well-formed/],
    ['JSON that ends too soon', '{"type":"LineString"', /is not JSON/],
    ['other JSON', '{"hello":1}', /is not GeoJSON/],
    ['nothing in it', gpxOf('<trk><trkseg/></trk>'), /holds no track, route or waypoint/],
    [
      'a point without a place',
      gpxOf(`<trk><trkseg><trkpt lat="47"/>${point(1, 2)}</trkseg></trk>`),
      /without a latitude and a longitude \(its point 1\)/,
    ],
    [
      'a place off the Earth',
      gpxOf(`<trk><trkseg>${point(47, 8)}${point(147, 99)}</trkseg></trk>`),
      /latitude 147, longitude 99 \(its point 2\).*damaged, or its coordinates are not in degrees/,
    ],
  ])('%s', (_what, text, message) => expect(() => readTrack(text, 'x')).toThrow(message))

  it('swapped latitudes and longitudes: and read the other way round if asked', () => {
    const swapped = gpxOf(`<trk><trkseg>${point(151.2, -33.8)}${point(151.3, -33.9)}</trkseg></trk>`)
    expect(() => readTrack(swapped, 'x')).toThrow(SwappedError)
    expect(pointOf(readTrack(swapped, 'x', true).segments[0]!, 0)).toEqual({ lon: 151.2, lat: -33.8 })
  })

  it('a hundred megabytes in one track point: told that there is no track, without keeping them', { timeout: 60_000 }, () => {
    const start = gpxOf(`<trk><trkseg><trkpt lat="1" lon="2"><desc>`).replace('</gpx>', '')
    const text = `${start}${'x'.repeat(100_000_000)}</desc></trkpt></trkseg></trk></gpx>`
    expect(() => readTrack(text, 'x.gpx')).toThrow(/holds no track, route or waypoint/)
  })

  it('times that are missing or run backwards are left out, the places are kept', () => {
    for (const times of [
      ['', at(5)],
      [at(9), at(5)],
    ] as const) {
      const track = readTrack(gpxOf(`<trk><trkseg>${point(47, 8, times[0])}${point(47.1, 8, times[1])}</trkseg></trk>`), 'x')
      expect(track.segments[0]!.times).toBeNull()
      expect(countOf(track.segments[0]!)).toBe(2)
    }
  })
})

describe('points of a GPX written in the plain way', () => {
  /** Ways of writing the same kind of point, some of which only a parser of XML can read. */
  const FORMS: readonly ((lat: string, lon: string) => string)[] = [
    (lat, lon) => `<trkpt lat="${lat}" lon="${lon}"></trkpt>`,
    (lat, lon) => `\n\t<trkpt lon="${lon}"  lat="${lat}">\r\n<ele>12.5</ele><time>${at(7)}</time><sat>9</sat></trkpt> `,
    (lat, lon) => `<trkpt lat="${lat}" lon="${lon}"><time> ${at(8)} </time>
      <extensions><cad>80</cad><e:point><e:pulse>120</e:pulse><e:warmth>21</e:warmth></e:point></extensions></trkpt>`,
    (lat, lon) => `<trkpt lat='${lat}' lon='${lon}'/>`,
    (lat, lon) => `<trkpt lat="${lat}" lon="${lon}"><ele unit="m">3</ele><e:time>not the time</e:time></trkpt>`,
    (lat, lon) => `<trkpt lat="${lat}" lon="${lon}"><name>A &amp; B</name><time><![CDATA[${at(9)}]]></time></trkpt>`,
    (lat, lon) => `<!-- <trkseg> </trkpt> <trkpt lat="1" lon="2"></trkpt> --><trkpt lat="${lat}" lon="${lon}"></trkpt >`,
    (lat, lon) => `</trkseg><trkseg ><trkpt lat="${lat}" lon="${lon}"><extensions><a><b><c>1</c></b></a></extensions></trkpt>`,
    (lat) => `<trkpt lat="${lat}" lat="${lat}"></trkpt>`,
    (lat, lon) => `<trkpt lat="${lat}" lon="${lon}"><ele>]]></ele></trkpt>`,
  ]
  const degrees = fc.oneof(fc.double({ min: -90, max: 90, noNaN: true }).map(String), fc.constantFrom('-0', '1e-7', '+3', '--1', '91.5'))
  const body = fc
    .array(
      fc.tuple(
        fc.oneof({ weight: 12, arbitrary: fc.integer({ min: 0, max: 7 }) }, { weight: 1, arbitrary: fc.constantFrom(8, 9) }),
        degrees,
        degrees,
      ),
      {
        maxLength: 12,
      },
    )
    .map((points) => points.map(([form, lat, lon]) => FORMS[form]!(lat, lon)).join(''))
  const outcome = (text: string) => {
    try {
      return readTrack(text, 'x')
    } catch (error) {
      return (error as Error).message
    }
  }
  /** The same with a namespace's prefix on the points, which the plain way does not have: so that the parser of XML reads all of it. */
  const byParser = (text: string) => outcome(text.replace(/(<\/?)trkpt/g, '$1g:trkpt'))

  it('are read as the parser of XML reads them, and refused for the same faults', () => {
    fc.assert(
      fc.property(body, (points) => {
        const text = gpxOf(`<trk><trkseg>${points}</trkseg></trk>`)
        expect(outcome(text)).toEqual(byParser(text))
      }),
      { numRuns: 400 },
    )
  })

  it('are refused where the parser refuses them when a character is missing or another one stands there', () => {
    fc.assert(
      fc.property(body, fc.nat(), fc.constantFrom('', '<', '>', '"', '&', '/', '\u0001', 'x'), (points, where, instead) => {
        const text = gpxOf(`<trk><trkseg>${points}</trkseg></trk>`)
        const k = 100 + (where % (text.length - 100))
        const damaged = text.slice(0, k) + instead + text.slice(k + 1)
        // Where the points' own name is damaged, the prefix would not be put there.
        fc.pre(damaged.split('trkpt').length === text.split('trkpt').length)
        expect(outcome(damaged)).toEqual(byParser(damaged))
      }),
      { numRuns: 2000 },
    )
  })

  it('take no longer to be refused the more there is in them', { timeout: 30_000 }, () => {
    const leaves = '<a> </a>'.repeat(200_000)
    for (const inside of [leaves, `<extensions>${leaves}`, `<extensions><b>${leaves}`, ' '.repeat(1_000_000), 'x'.repeat(1_000_000)]) {
      const text = gpxOf(`<trk><trkseg>${point(1, 2)}<trkpt lat="1" lon="2">${inside}`)
      expect(() => readTrack(text, 'x')).toThrow(/not well-formed/)
    }
  })
})
