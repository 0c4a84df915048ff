/** What files of tracks are really like: odd encodings, clocks that jump, heights, pauses; and photos taken on the way. */
import fc from 'fast-check'
import { describe, expect, it } from 'vitest'
import { compile } from '#core/frame/compile'
import { risingOnes } from '#core/formats/fill-in'
import { readNetworkLines } from '#core/formats/network'
import { readTrackFile } from '#core/formats/track-file'
import { layTrack } from '#core/tracks/lay-track'
import type { Track } from '#core/tracks/track'
import { geodesicDistance } from '#core/geo/geodesic'
import { countOf, pointOf, simplifySegment, summariseTrack } from '#core/tracks/measure'
import type { TrackCourse } from '#core/journey/schema'
import { addPhotoStops } from '#core/edits/marks/photo-stops'
import { trackCourse } from '#core/courses/track-course'
import { addTrack } from '#core/edits/lines/tracks'
import { readHeights, readTimes } from '#core/journey/track-line'
import { createJourney } from '#core/journey/create'
import { editLeg } from '#core/edits/lines/legs'
import { parseJourney } from '#core/journey/parse'
import { journeyOver, paperPhoto } from '../support/journeys'

const bytes = (text: string) => new TextEncoder().encode(text)
const point = (lon: number, lat: number, inside = '') => `<trkpt lat="${lat}" lon="${lon}">${inside}</trkpt>`
const gpx = (points: string, more = '') => `<gpx version="1.1" creator="made up">${more}<trk><trkseg>${points}</trkseg></trk></gpx>`
const timed = (i: number, time: string) => point(8 + i / 1000, 47, `<ele>${400 + i}</ele><time>${time}</time>`)

describe('a file of tracks', () => {
  it('may be in Latin-1 or UTF-16', () => {
    const words = gpx(point(8, 47) + point(8.1, 47), '<wpt lat="47" lon="8"><name>Zürich, Bäch</name></wpt>')
    const latin = Uint8Array.from(`<?xml version="1.0" encoding="ISO-8859-1"?>${words}`, (letter) => letter.charCodeAt(0))
    const utf16 = (isBig: boolean, mark: boolean) => {
      const text = `${mark ? '\ufeff' : ''}<?xml version="1.0" encoding="UTF-16"?>${words}`
      const out = new Uint8Array(2 * text.length)
      const view = new DataView(out.buffer)
      for (let i = 0; i < text.length; i++) view.setUint16(2 * i, text.charCodeAt(i), !isBig)
      return out
    }
    for (const file of [latin, utf16(false, true), utf16(true, true), utf16(false, false), bytes(words)])
      expect(readTrackFile(file, 'x.gpx').waypoints[0]!.name).toBe('Zürich, Bäch')
  })

  it('has its times in UTC where they do not name a zone', () => {
    const read = (time: string) =>
      readTrackFile(bytes(gpx(timed(0, time) + timed(1, '2026-08-01T23:00:00Z'))), 'x.gpx').segments[0]!.times![0]
    const utc = Date.UTC(2026, 7, 1, 10, 30, 5) / 1000
    expect(read('2026-08-01T10:30:05')).toBe(utc)
    expect(read('2026-08-01 10:30:05')).toBe(utc)
    expect(read('2026-08-01T10:30:05Z')).toBe(utc)
    expect(read('2026-08-01T12:30:05+02:00')).toBe(utc)
  })

  it('loses to one bad time only that one, and says so', () => {
    const at = (minute: number) => `2026-08-01T10:${String(minute).padStart(2, '0')}:00Z`
    for (const bad of ['never', at(59), '2020-01-01T00:00:00Z', '']) {
      const track = readTrackFile(bytes(gpx([0, 1, 2, 3, 4].map((i) => timed(i, i === 2 ? bad : at(i))).join(''))), 'x.gpx')
      expect(track.badTimes).toBe(1)
      expect([...track.segments[0]!.times!].map((time) => (time - track.segments[0]!.times![0]!) / 60)).toEqual([0, 1, 2, 3, 4])
    }
    // Where hardly any are known there are none.
    expect(
      readTrackFile(bytes(gpx([0, 1, 2, 3].map((i) => timed(i, i === 0 ? at(0) : '')).join(''))), 'x.gpx').segments[0]!.times,
    ).toBeNull()
  })

  it('keeps as many times as can be', () => {
    fc.assert(
      fc.property(fc.array(fc.integer({ min: 0, max: 20 }), { maxLength: 12 }), (times) => {
        const kept = risingOnes(times).filter(Number.isFinite)
        kept.forEach((time, i) => expect(time).toBeGreaterThanOrEqual(kept[i - 1] ?? -1))
        // By trying every choice.
        let most = 0
        for (let mask = 0; mask < 1 << times.length; mask++) {
          const chosen = times.filter((_, i) => mask & (1 << i))
          if (chosen.every((time, i) => i === 0 || time >= chosen[i - 1]!)) most = Math.max(most, chosen.length)
        }
        expect(kept).toHaveLength(most)
      }),
      { numRuns: 60 },
    )
  })

  it('keeps its heights, through laying and simplifying', () => {
    const track = readTrackFile(bytes(gpx([0, 1, 2, 3].map((i) => timed(i, `2026-08-01T10:0${i}:00Z`)).join(''))), 'x.gpx')
    expect([...track.segments[0]!.heights!]).toEqual([400, 401, 402, 403])
    const options = { segment: null, from: 0, to: 1, reversed: false, metres: 0, stops: [] }
    const { legs } = layTrack(track, options, ({ lon, lat }) => ({ x: lon * 1000, y: -lat * 1000 }))
    const course = trackCourse(legs[0]!.points, legs[0]!.times, legs[0]!.heights)
    expect([...readHeights(course.heights!)]).toEqual([400, 401, 402, 403])
    expect(course.began).toBe(Date.UTC(2026, 7, 1, 10) / 1000)
    const geoJson = '{"type":"LineString","coordinates":[[8,47,12],[8.1,47,15.5]]}'
    expect([...readTrackFile(bytes(geoJson), 'x.json').segments[0]!.heights!]).toEqual([12, 15.5])
    const kml = '<kml><Placemark><LineString><coordinates>8,47,9 8.1,47,11</coordinates></LineString></Placemark></kml>'
    expect([...readTrackFile(bytes(kml), 'x.kml').segments[0]!.heights!]).toEqual([9, 11])
  })
})

describe('a track', () => {
  it('is simplified to what is asked from 65 degrees north to the equator', () => {
    const lonLat: number[] = []
    for (let i = 0; i <= 900; i++) {
      const lat = 65 - (65 * i) / 900
      lonLat.push(10 + 0.02 * Math.sin(i / 7) + 0.004 * Math.sin(i * 2.3), lat)
    }
    const segment = { lonLat: Float64Array.from(lonLat), times: null, heights: null }
    for (const metres of [200, 1000]) {
      const kept = simplifySegment(segment, metres)
      expect(countOf(kept)).toBeLessThan(900)
      let next = 0
      for (let i = 0; i <= 900; i++) {
        const p = pointOf(segment, i)
        while (next + 2 < countOf(kept) && pointOf(kept, next + 1).lat > p.lat) next++
        // The nearest of many spots of the pieces of the line beside the point, over the ellipsoid (Karney).
        const off = Math.min(
          ...[next - 1, next, next + 1].flatMap((piece) => {
            if (piece < 0 || piece + 1 >= countOf(kept)) return []
            const [a, b] = [pointOf(kept, piece), pointOf(kept, piece + 1)]
            return Array.from({ length: 201 }, (_, k) =>
              geodesicDistance(p, { lon: a.lon + ((b.lon - a.lon) * k) / 200, lat: a.lat + ((b.lat - a.lat) * k) / 200 }),
            )
          }),
        )
        expect(off).toBeLessThan(metres * 1.02)
      }
    }
  })

  it('has bounds on both sides of the antimeridian, also where no segment crosses it', () => {
    const bounds = (...parts: number[][]) =>
      summariseTrack({
        segments: parts.map((lons) => ({ lonLat: Float64Array.from(lons.flatMap((lon) => [lon, 10])), times: null, heights: null })),
        waypoints: [],
        badTimes: 0,
      })!.bounds
    expect(bounds([178, 179.5], [-179.5, -177])).toEqual([178, 10, -177, 10])
    expect(bounds([179.5, -179.5])).toEqual([179.5, 10, -179.5, 10])
    expect(bounds([-170, 0, 170])).toEqual([-170, 10, 170, 10])
    expect(bounds([5, 6])).toEqual([5, 10, 6, 10])
    expect(bounds([180, 179])).toEqual([179, 10, 180, 10])
  })

  it('leaves a pause that becomes a stop out of the legs', () => {
    const at = (seconds: number) => new Date(1_790_000_000_000 + seconds * 1000).toISOString()
    const walk = (from: number, i: number) => point(8 + (from + i) / 1000, 47, `<time>${at((from + i) * 60)}</time>`)
    // Ten minutes' walk, half an hour's rest within a few metres, ten minutes' walk.
    const rest = Array.from({ length: 30 }, (_, i) => point(8.01 + (i % 3) / 1e5, 47, `<time>${at(600 + i * 60)}</time>`))
    const after = Array.from({ length: 11 }, (_, i) => point(8.01 + i / 1000, 47, `<time>${at(2400 + i * 60)}</time>`))
    const track = readTrackFile(bytes(gpx([...Array.from({ length: 10 }, (_, i) => walk(0, i)), ...rest, ...after].join(''))), 'x.gpx')
    const pause = summariseTrack(track)!.stops[0]!
    expect(pause.seconds).toBeGreaterThan(1700)
    const options = { segment: null, from: 0, to: 1, reversed: false, metres: 0, stops: [{ ...pause, name: 'Rest' }] }
    const { stops, legs } = layTrack(track, options, ({ lon, lat }) => ({ x: lon * 1e5, y: -lat * 1e5 }))
    expect(stops.map(({ name }) => name)).toEqual(['', 'Rest', ''])
    const took = legs.map(({ times }) => times!.at(-1)! - times![0]!)
    expect(took[0]).toBeLessThanOrEqual(600)
    expect(took[1]).toBeLessThanOrEqual(660)
  })

  it('has a pause at a marked place as that place’s own', () => {
    const track = {
      segments: [
        {
          lonLat: Float64Array.of(8, 47, 8.001, 47, 8.001, 47.00001, 8.01, 47),
          times: Float64Array.of(0, 60, 1000, 1100),
          heights: null,
        },
      ],
      waypoints: [{ lon: 8.0015, lat: 47, name: 'Hut' }],
      badTimes: 0,
    }
    expect(summariseTrack(track)!.stops).toEqual([{ lon: 8.0015, lat: 47, name: 'Hut', isMarked: true, seconds: 940 }])
  })

  it('that ends where it began makes a round trip', () => {
    const journey = addTrack(
      createJourney('Round'),
      {
        stops: [
          { name: 'Car park', at: { x: 500, y: 500 } },
          { name: 'Summit', at: { x: 900, y: 300 } },
          { name: '', at: { x: 503, y: 501 } },
        ],
        courses: [trackCourse([500, 500, 700, 300, 900, 300], null), trackCourse([900, 300, 800, 500, 503, 501], null)],
        seconds: null,
      },
      { use: 'go-on', traveller: 'traveller' },
      ['a', 'b', 'c'].map((id) => ({ stop: id, leg: `l${id}` })),
    )
    expect(journey.travellers[0]!.visits.map(({ stop }) => stop)).toEqual(['a', 'b', 'a'])
    expect(journey.stops.map(({ name }) => name)).toEqual(['Car park', 'Summit'])
    expect(() => compile(parseJourney(JSON.parse(JSON.stringify(journey))))).not.toThrow()
  })
})

describe('lines of a network', () => {
  it('may have their speed in miles an hour or in knots', () => {
    const line = (maxspeed: string) => ({
      type: 'Feature',
      properties: { highway: 'residential', maxspeed },
      geometry: { type: 'LineString', coordinates: [[0, 0], [1, 1]] }, // prettier-ignore
    })
    const text = JSON.stringify({ type: 'FeatureCollection', features: ['30 mph', '50', '20 knots', 'walk'].map(line) })
    const { road } = readNetworkLines(text, 'x.json', 'road', ({ lon, lat }) => ({ x: lon, y: lat }))
    // 1 mile = 1.609344 km, 1 nautical mile = 1.852 km by definition; "walk" is no number, so its class speaks.
    expect(road!.slice(0, 3).map(({ speed }) => Number(speed.toFixed(3)))).toEqual([48.28, 50, 37.04])
    expect(road![3]!.speed).toBeGreaterThan(1)
  })
})

describe('a recorder that is off while one rests', () => {
  // A degree of latitude is about 111 km: 0.0018 degrees are 200 m, which are walked in about two and a half minutes.
  const LAT = 0.0018
  const rest = 1800
  const times = Float64Array.from([0, 150, 300, 300 + rest, 450 + rest, 600 + rest], (seconds) => 1_790_000_000 + seconds)
  const track: Track = {
    segments: [{ lonLat: Float64Array.from([0, 1, 2, 3, 4, 5].flatMap((i) => [8, 47 + i * LAT])), times, heights: null }],
    waypoints: [],
    badTimes: 0,
  }

  it('leaves a pause where it was switched off, which counts for neither leg', () => {
    const { stops } = summariseTrack(track)!
    expect(stops).toMatchObject([{ lat: 47 + 2 * LAT, isMarked: false, seconds: rest }])
    const options = {
      segment: null,
      from: 0,
      to: 1,
      reversed: false,
      metres: 0,
      stops: stops.map(({ lon, lat }) => ({ lon, lat, name: '' })),
    }
    const { legs, stops: laid } = layTrack(track, options, ({ lon, lat }) => ({ x: lon, y: lat }))
    const took = legs.map((leg) => leg.times!.at(-1)! - leg.times![0]!)
    expect(took[0]).toBe(300)
    // The other 600 m, of which 200 were gone while it was off: at a walk, and not in half an hour.
    expect(took[1]!).toBeGreaterThan(400)
    expect(took[1]!).toBeLessThan(500)
    expect(laid[1]!.time).toBe(1_790_000_000 + 300)
  })
})

describe('photos after a track', () => {
  const BEGAN = 1_790_000_000
  const hike = editLeg(journeyOver([[0, 500], [1000, 500]], {}, 12), 'l1', {
    course: trackCourse([0, 500, 250, 500, 1000, 500], [BEGAN, BEGAN + 1000, BEGAN + 2000]),
  }) // prettier-ignore
  const photo = (name: string, x: number, y: number, seconds: number | null) => ({
    name,
    at: { x, y },
    time: seconds === null ? null : (BEGAN + seconds) * 1000,
    isExact: true,
    photo: paperPhoto,
  })
  const ids = Array.from({ length: 250 }, (_, i) => ({ stop: `p${i}`, leg: `q${i}` }))
  const order = (journey: typeof hike) => journey.travellers[0]!.visits.map(({ stop }) => journey.stops.find(({ id }) => id === stop)!.name)

  it('are put between its stops by their times', () => {
    const journey = addPhotoStops(
      hike,
      [photo('Late', 640, 480, 1500), photo('Early', 130, 520, 500), photo('After', 1500, 500, 9999)],
      'traveller',
      ids,
    )
    expect(order(journey)).toEqual(['Stop 1', 'Early', 'Late', 'Stop 2', 'After'])
    // On the track, where it was at that time: half of its first 250, half of its last 750.
    expect(journey.stops.find(({ name }) => name === 'Early')!.at).toEqual({ x: 125, y: 500 })
    expect(journey.stops.find(({ name }) => name === 'Late')!.at).toEqual({ x: 625, y: 500 })
    const courses = journey.travellers[0]!.legs.slice(0, 3).map(({ course }) => course as TrackCourse)
    expect(courses.map(({ began }) => began! - BEGAN)).toEqual([0, 500, 1500])
    expect(courses.map(({ times }) => readTimes(times!).at(-1))).toEqual([500, 1000, 500])
    expect(() => compile(parseJourney(JSON.parse(JSON.stringify(journey))))).not.toThrow()
  })

  it('belong to a stop at which they were taken', () => {
    const journey = addPhotoStops(hike, [photo('Start', 8, 505, 20), photo('Goal', 1004, 497, null)], 'traveller', ids)
    expect(order(journey)).toEqual(['Stop 1', 'Stop 2'])
    expect(journey.stops.every(({ postcards }) => postcards[0]?.photo)).toBe(true)
  })

  it('find time also when the film is full, and are named where there are too many', () => {
    const full = editLeg(hike, 'l1', { travel: 11 })
    const journey = addPhotoStops(full, [photo('More', 1500, 900, 9999), photo('Between', 500, 500, 1300)], 'traveller', ids)
    expect(order(journey)).toEqual(['Stop 1', 'Between', 'Stop 2', 'More'])
    expect(() => compile(journey)).not.toThrow()
    const many = Array.from({ length: 220 }, (_, i) => photo(`Photo ${i}`, 2000 + 100 * i, 50, 5000 + i))
    expect(() => addPhotoStops(hike, many, 'traveller', ids)).toThrow(/“Photo 198” would be stop 201, and a journey has at most 200/)
  })
})
