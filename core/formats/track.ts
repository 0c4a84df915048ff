import { SaxesParser } from 'saxes'
import { z } from 'zod'
import type { LonLat } from '../geo/lon-lat'
import { JourneyError } from '../journey/error'

/** One stretch of a recorded track without a break: longitude, latitude, … in degrees, and the times in seconds since 1970 where all are known. */
export interface TrackSegment {
  lonLat: Float64Array
  times: Float64Array | null
}

/** A recorded track or a route, with the places that were marked on it. */
export interface Track {
  segments: TrackSegment[]
  waypoints: (LonLat & { name: string })[]
}

/** What a file of tracks may have. */
export const TRACK_LIMITS = { bytes: 256 * 1024 ** 2, points: 2_000_000 } as const

/** Endings of the names of files that hold tracks. */
export const TRACK_EXTENSIONS = ['.gpx', '.kml', '.kmz', '.geojson', '.json']

/** A file whose latitudes and longitudes seem to have been swapped: read the other way round they would all lie on the Earth. */
export class SwappedError extends JourneyError {}

/**
 * Reads GPX 1.1 (tracks, routes, waypoints), KML 2.3 (lines, points, gx:Track) or GeoJSON (RFC 7946), told by its content.
 *
 * @param swap read latitude for longitude and the other way round
 * @param onProgress told the share of the text that is read, 0..1
 * @throws SwappedError where swapping would help, JourneyError that says what is wrong where
 */
export function readTrack(text: string, name: string, swap = false, onProgress: (share: number) => void = () => undefined): Track {
  const start = text
    .slice(0, 2000)
    .replace(/^\uFEFF/, '')
    .trimStart()
  const collector = new Collector(name, swap)
  if (start.startsWith('{')) readGeoJson(text, name, collector)
  else if (start.startsWith('<')) readXml(text, name, collector, onProgress)
  else throw new JourneyError(`“${name}” is neither GPX, KML nor GeoJSON: save the track in one of these formats.`)
  return collector.finish()
}

/** Takes points one by one, and checks them. */
class Collector {
  private readonly segments: TrackSegment[] = []
  private readonly waypoints: Track['waypoints'] = []
  private lonLat: number[] = []
  private times: number[] = []
  private count = 0
  /** Points that do not lie on the Earth, and whether all would if swapped. */
  private wrong: { lon: number; lat: number; index: number } | undefined
  private swappable = true

  constructor(
    private readonly name: string,
    private readonly swap: boolean,
  ) {}

  private checked(lon: number, lat: number): LonLat {
    const at = this.swap ? { lon: lat, lat: lon } : { lon, lat }
    this.count++
    if (this.count > TRACK_LIMITS.points)
      throw new JourneyError(`“${this.name}” has more than ${TRACK_LIMITS.points} points: cut it into parts.`)
    if (!Number.isFinite(lon) || !Number.isFinite(lat))
      throw new JourneyError(`“${this.name}” has a point without a latitude and a longitude (its point ${this.count}).`)
    if (Math.abs(at.lat) > 90 || Math.abs(at.lon) > 180) this.wrong ??= { ...at, index: this.count }
    if (Math.abs(at.lon) > 90 || Math.abs(at.lat) > 180) this.swappable = false
    return at
  }

  point(lon: number, lat: number, time: number): void {
    const at = this.checked(lon, lat)
    this.lonLat.push(at.lon, at.lat)
    this.times.push(time)
  }

  endSegment(): void {
    // A segment of one point is no line; empty ones come from recorders that lost their signal.
    if (this.lonLat.length >= 4) {
      const hasTimes = this.times.every((time, i) => Number.isFinite(time) && (i === 0 || time >= this.times[i - 1]!))
      this.segments.push({ lonLat: new Float64Array(this.lonLat), times: hasTimes ? new Float64Array(this.times) : null })
    }
    this.lonLat = []
    this.times = []
  }

  waypoint(lon: number, lat: number, name: string): void {
    this.waypoints.push({ ...this.checked(lon, lat), name: name.trim().slice(0, 120) })
  }

  finish(): Track {
    if (this.wrong) {
      const { lon, lat, index } = this.wrong
      const where = `“${this.name}” has a point at latitude ${lat}, longitude ${lon} (its point ${index}), which is not on the Earth`
      if (this.swappable) throw new SwappedError(`${where}: latitude and longitude seem to be swapped.`)
      throw new JourneyError(`${where}: the file is damaged, or its coordinates are not in degrees.`)
    }
    if (this.segments.length === 0 && this.waypoints.length === 0)
      throw new JourneyError(`“${this.name}” holds no track, route or waypoint.`)
    return { segments: this.segments, waypoints: this.waypoints }
  }
}

// eslint-disable-next-line no-restricted-globals -- parsing a time reads no clock
const seconds = (text: string): number => Date.parse(text.trim()) / 1000

/** Elements whose words are read; those of all others may be as long as they like. */
const READ: ReadonlySet<string> = new Set(['name', 'time', 'when', 'coord', 'coordinates'])

/** Characters that are read at a time. */
const CHUNK = 1 << 20

/** GPX and KML, read as a stream of tags, so that a million points need no tree in memory. */
function readXml(text: string, name: string, collector: Collector, onProgress: (share: number) => void): void {
  // To keep count of lines would take half as long again.
  const parser = new SaxesParser({ xmlns: false, position: false })
  const fail = (message: string): never => {
    throw new JourneyError(`“${name}” ${message}`)
  }
  let root = ''
  let words = ''
  /** Whether the words of the element that is open are of use. */
  let isRead = false
  const point = { lon: NaN, lat: NaN, time: NaN, name: '' }
  const mark = { name: '', coordinates: '', inside: '' }
  const whens: string[] = []
  const coords: string[] = []
  parser.on('error', (error) =>
    fail(
      /entity/i.test(error.message)
        ? 'uses XML entities of its own, which are not read.'
        : `is not well-formed (line ${faultyLine(text)}): export it again.`,
    ),
  )
  parser.on('doctype', (doctype) => void (/<!ENTITY/i.test(doctype) && fail('uses XML entities of its own, which are not read.')))
  parser.on('opentag', ({ name: tag, attributes }) => {
    const local = localName(tag)
    if (!root) {
      root = local
      if (root !== 'gpx' && root !== 'kml') fail(`is neither GPX nor KML: its outermost element is <${tag.slice(0, 40)}>.`)
    }
    words = ''
    isRead = READ.has(local)
    if (root === 'gpx' && (local === 'trkpt' || local === 'rtept' || local === 'wpt')) {
      point.lon = numberOf(attributes.lon)
      point.lat = numberOf(attributes.lat)
      point.time = NaN
      point.name = ''
    }
    if (root === 'kml' && local === 'Placemark') mark.name = ''
    if (root === 'kml' && (local === 'Point' || local === 'LineString' || local === 'LinearRing' || local === 'Track')) mark.inside = local
  })
  const write = (content: string) => {
    if (isRead) words += content
  }
  parser.on('text', write)
  parser.on('cdata', write)
  parser.on('closetag', ({ name: tag }) => {
    const local = localName(tag)
    if (root === 'gpx') closeGpx(local)
    else closeKml(local)
    words = ''
    isRead = false
  })
  function closeGpx(local: string) {
    if (local === 'time') point.time = seconds(words)
    else if (local === 'name') point.name = words
    else if (local === 'trkpt' || local === 'rtept') collector.point(point.lon, point.lat, point.time)
    else if (local === 'wpt') collector.waypoint(point.lon, point.lat, point.name)
    else if (local === 'trkseg' || local === 'rte') collector.endSegment()
  }
  function closeKml(local: string) {
    if (local === 'name') mark.name = words
    else if (local === 'when') whens.push(words)
    else if (local === 'coord') coords.push(words)
    else if (local === 'coordinates') kmlCoordinates(words)
    else if (local === 'Track') {
      coords.forEach((coord, i) => {
        const [lon, lat] = coord.trim().split(/\s+/).map(Number)
        collector.point(lon ?? NaN, lat ?? NaN, whens[i] ? seconds(whens[i]) : NaN)
      })
      collector.endSegment()
      whens.length = coords.length = 0
    }
  }
  function kmlCoordinates(list: string) {
    const tuples = list.trim().split(/\s+/)
    for (const tuple of tuples) {
      const [lon, lat] = tuple.split(',').map(Number)
      if (mark.inside === 'Point') collector.waypoint(lon ?? NaN, lat ?? NaN, mark.name)
      else collector.point(lon ?? NaN, lat ?? NaN, NaN)
    }
    if (mark.inside !== 'Point') collector.endSegment()
  }
  for (let at = 0; at < text.length; at += CHUNK) {
    parser.write(text.slice(at, at + CHUNK))
    onProgress(Math.min(1, (at + CHUNK) / text.length))
  }
  parser.close()
}

/** The line at which XML is not well-formed. */
function faultyLine(text: string): number {
  const parser = new SaxesParser({ xmlns: false, position: true })
  let line = 0
  parser.on('error', () => {
    line ||= parser.line
  })
  for (let at = 0; at < text.length && line === 0; at += CHUNK) parser.write(text.slice(at, at + CHUNK))
  if (line === 0) parser.close()
  return line || parser.line
}

/** Without its namespace's prefix. */
const localName = (tag: string): string => (tag.includes(':') ? tag.slice(tag.indexOf(':') + 1) : tag)

const numberOf = (text: string | undefined): number => (text === undefined || text.trim() === '' ? NaN : Number(text))

const position = z.array(z.number()).min(2)
const geometrySchema: z.ZodType<GeometryLike> = z.lazy(() =>
  z.discriminatedUnion('type', [
    z.object({ type: z.literal('Point'), coordinates: position }),
    z.object({ type: z.literal('MultiPoint'), coordinates: z.array(position) }),
    z.object({ type: z.literal('LineString'), coordinates: z.array(position) }),
    z.object({ type: z.literal('MultiLineString'), coordinates: z.array(z.array(position)) }),
    z.object({ type: z.literal('Polygon'), coordinates: z.array(z.array(position)) }),
    z.object({ type: z.literal('MultiPolygon'), coordinates: z.array(z.array(z.array(position))) }),
    z.object({ type: z.literal('GeometryCollection'), geometries: z.array(geometrySchema) }),
  ]),
)
type GeometryLike =
  | { type: 'Point'; coordinates: number[] }
  | { type: 'MultiPoint' | 'LineString'; coordinates: number[][] }
  | { type: 'MultiLineString' | 'Polygon'; coordinates: number[][][] }
  | { type: 'MultiPolygon'; coordinates: number[][][][] }
  | { type: 'GeometryCollection'; geometries: GeometryLike[] }
const featureSchema = z.object({
  type: z.literal('Feature'),
  geometry: geometrySchema.nullable(),
  properties: z
    .object({ name: z.string().optional().catch(undefined) })
    .nullable()
    .optional()
    .catch(null),
})
const geoJsonSchema = z.union([
  z.object({ type: z.literal('FeatureCollection'), features: z.array(featureSchema) }),
  featureSchema,
  geometrySchema,
])

function readGeoJson(text: string, name: string, collector: Collector): void {
  let data: unknown
  try {
    data = JSON.parse(text)
  } catch (error) {
    throw new JourneyError(`“${name}” is not JSON: ${(error as Error).message}.`)
  }
  const parsed = geoJsonSchema.safeParse(data)
  if (!parsed.success)
    throw new JourneyError(`“${name}” is not GeoJSON that can be read: it needs features with positions of numbers (RFC 7946).`)
  const take = (geometry: GeometryLike, title: string) => {
    const line = (positions: number[][]) => {
      for (const [lon, lat] of positions) collector.point(lon!, lat!, NaN)
      collector.endSegment()
    }
    switch (geometry.type) {
      case 'Point':
        return collector.waypoint(geometry.coordinates[0]!, geometry.coordinates[1]!, title)
      case 'MultiPoint':
        return geometry.coordinates.forEach(([lon, lat]) => collector.waypoint(lon!, lat!, title))
      case 'LineString':
        return line(geometry.coordinates)
      case 'MultiLineString':
      case 'Polygon':
        return geometry.coordinates.forEach(line)
      case 'MultiPolygon':
        return geometry.coordinates.forEach((polygon) => polygon.forEach(line))
      case 'GeometryCollection':
        return geometry.geometries.forEach((part) => take(part, title))
    }
  }
  const content = parsed.data
  const features =
    content.type === 'FeatureCollection'
      ? content.features
      : content.type === 'Feature'
        ? [content]
        : [{ geometry: content, properties: null }]
  for (const { geometry, properties } of features) if (geometry) take(geometry, properties?.name ?? '')
}
