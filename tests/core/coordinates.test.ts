import { describe, expect, it } from 'vitest'
import { readControlPoints } from '#core/formats/control-points'
import { formatCoordinates, readCoordinates } from '#core/formats/coordinates'

describe('typed coordinates', () => {
  it.each([
    ['47.5, -8.25', -8.25, 47.5],
    ['47.5 8.25', 8.25, 47.5],
    ['47.5; 8.25', 8.25, 47.5],
    ['47°30′ N 8°15′ W', -8.25, 47.5],
    ['47° 30\' 36" N, 8° 15\' 0" E', 8.25, 47.51],
    ['N47°30 E8°15', 8.25, 47.5],
    ["8°15'E, 47°30'N", 8.25, 47.5],
    ['47 30 36 N, 8 15 0 W', -8.25, 47.51],
    ['47:30:36N 8:15:00W', -8.25, 47.51],
    ['−33.9, 151.2', 151.2, -33.9],
    // RFC 5870, sections 1 and 6.
    ['geo:13.4125,103.8667', 103.8667, 13.4125],
    ['geo:48.2010,16.3695,183', 16.3695, 48.201],
    ['geo:48.198634,16.371648;crs=wgs84;u=40', 16.371648, 48.198634],
    ['GEO:-90,0', 0, -90],
    // ISO 6709:2008, Annex H, examples from memory: Mount Everest, Washington, with degrees, minutes and seconds.
    ['+27.5916+086.5640+8850CRSWGS_84/', 86.564, 27.5916],
    ['+40-075CRSWGS_84/', -75, 40],
    ['+401213.1-0750015.1+2.79CRSWGS_84/', -75.004194444, 40.203638889],
    ['+4012.22-07500.25/', -75.004166667, 40.203666667],
    ['-3352+15112/', 151.2, -33.866666667],
  ])('%s', (text, lon, lat) => {
    const at = readCoordinates(text)!
    expect(at.lon).toBeCloseTo(lon, 9)
    expect(at.lat).toBeCloseTo(lat, 9)
  })

  it.each([
    'Paris',
    '',
    '91, 0',
    '0, 181',
    '12',
    '1, 2, 3',
    "12°61'N 3E",
    '12N 13N',
    '-12N 3E',
    'geo:1,2;crs=moon',
    'geo:1',
    '+4060-07500/',
    '+91+000/',
    'geo:a,b',
    '1e5, 2',
    'x'.repeat(500),
  ])('are not seen in “%s”', (text) => expect(readCoordinates(text)).toBeUndefined())

  it('are read back as they are written', () => {
    for (const at of [
      { lon: -8.25, lat: 47.5 },
      { lon: 151.20732, lat: -33.86785 },
      { lon: 0, lat: 0 },
    ])
      expect(readCoordinates(formatCoordinates(at))).toEqual(at)
  })
})

it('minutes and seconds of sixty are no angle', () => {
  expect(readCoordinates("47°59' N, 8°15' E")).toBeDefined()
  expect(readCoordinates("47°60' N, 8°15' E")).toBeUndefined()
  expect(readCoordinates("47°59'60\" N, 8°15' E")).toBeUndefined()
})

describe('a file of control points', () => {
  const points = [
    { x: 1, y: 2, lon: 3, lat: 4, name: 'A' },
    { x: 5, y: 6, lon: 7, lat: 8 },
  ]
  it('is a list, or has one', () => {
    const read = readControlPoints(JSON.stringify(points), 'p.json')
    expect(read[0]).toMatchObject({ name: 'A', at: { x: 1, y: 2 }, lon: 3, lat: 4 })
    expect(read[1]!.name).toBe('Point 2')
    expect(readControlPoints(JSON.stringify({ points }), 'p.json')).toEqual(read)
  })

  it.each([
    ['text', 'hello', /“p.json” is not JSON/],
    ['one point', JSON.stringify(points.slice(0, 1)), /at least two points/],
    ['a latitude of 99', JSON.stringify([points[0], { ...points[1], lat: 99 }]), /\[1\]\.lat/],
    ['something else', '{"a": 1}', /does not hold control points/],
  ])('is refused where it holds %s', (_what, text, message) => expect(() => readControlPoints(text, 'p.json')).toThrow(message))
})
