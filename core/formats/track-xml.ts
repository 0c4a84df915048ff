import { SaxesParser } from 'saxes'
import { JourneyError } from '../error'
import { readPlainPoints } from './gpx-points'
import type { TrackCollector } from './track-collector'

/** Handles the elements of a format; names come without their namespace prefixes. */
interface ElementReader {
  open(name: string, attributes: Readonly<Record<string, string>>): void
  /** @param words the element's text, if it is one whose text is read */
  close(name: string, words: string): void
}

/** Elements whose text is read; the text of all others is skipped, however long it is. */
const READ: ReadonlySet<string> = new Set(['name', 'time', 'ele', 'when', 'coord', 'coordinates'])

/** Characters that are read at a time. */
const CHUNK = 1 << 20

/** After these, points of a GPX track may be read without the parser. */
const CUT = /<trkseg[^<>]{0,200}>|<\/trkpt>/g

/** GPX and KML, read as a stream of tags, so that a million points need no tree in memory. @throws JourneyError */
export function readXml(text: string, name: string, collector: TrackCollector, onProgress: (share: number) => void): void {
  const fail = (message: string): never => {
    throw new JourneyError(`“${name}” ${message}`)
  }
  // Counting lines would take half as long again.
  const parser = new SaxesParser({ xmlns: false, position: false })
  let root = ''
  let reader: ElementReader | undefined
  let words = ''
  /** Whether the text of the open element is needed. */
  let isRead = false
  /** Where, in what the parser was given, the last tag ended after which there may be a point. */
  let pointsFrom = -1
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
    root ||= local
    reader ??= READERS.get(root)?.(collector) ?? fail(`is neither GPX nor KML: its outermost element is <${tag.slice(0, 40)}>.`)
    reader.open(local, attributes)
    words = ''
    isRead = READ.has(local)
    if (tag === 'trkseg') pointsFrom = parser.position
  })
  const write = (content: string) => {
    if (isRead) words += content
  }
  parser.on('text', write)
  parser.on('cdata', write)
  parser.on('closetag', ({ name: tag }) => {
    reader!.close(localName(tag), words)
    words = ''
    isRead = false
    if (tag === 'trkpt') pointsFrom = parser.position
  })
  const takePoint = (lon: number, lat: number, time: string, height: string) => collector.point(lon, lat, seconds(time), numberOf(height))
  let at = 0
  let cut = 0
  /** Characters that the parser was not given. */
  let plain = 0
  while (at < text.length) {
    if (root === 'gpx' && pointsFrom + plain === at) {
      const reached = readPlainPoints(text, at, at + CHUNK, takePoint)
      plain += reached - at
      at = reached
    }
    if (cut <= at) {
      CUT.lastIndex = at
      cut = CUT.test(text) ? CUT.lastIndex : Infinity
    }
    const end = Math.min(at + CHUNK, cut)
    parser.write(text.slice(at, end))
    at = end
    onProgress(Math.min(1, at / text.length))
  }
  parser.close()
}

const READERS = new Map<string, (collector: TrackCollector) => ElementReader>([
  ['gpx', gpxReader],
  ['kml', kmlReader],
])

/** GPX 1.1: points of tracks and routes, and waypoints. */
function gpxReader(collector: TrackCollector): ElementReader {
  const point = { lon: NaN, lat: NaN, time: NaN, height: NaN, name: '' }
  return {
    open(element, { lon, lat }) {
      if (element === 'trkpt' || element === 'rtept' || element === 'wpt')
        Object.assign(point, { lon: numberOf(lon), lat: numberOf(lat), time: NaN, height: NaN, name: '' })
    },
    close(element, words) {
      if (element === 'time') point.time = seconds(words)
      else if (element === 'ele') point.height = numberOf(words)
      else if (element === 'name') point.name = words
      else if (element === 'trkpt' || element === 'rtept') collector.point(point.lon, point.lat, point.time, point.height)
      else if (element === 'wpt') collector.waypoint(point.lon, point.lat, point.name)
      else if (element === 'trkseg' || element === 'rte') collector.endSegment()
    },
  }
}

/** KML 2.3: lines, points, and tracks with their times. */
function kmlReader(collector: TrackCollector): ElementReader {
  const mark = { name: '', inside: '' }
  const whens: string[] = []
  const coords: string[] = []
  const numbers = (list: string, between: RegExp | string): [number, number, number] => {
    const [lon, lat, height] = list.trim().split(between).map(Number)
    return [lon ?? NaN, lat ?? NaN, height ?? NaN]
  }
  const line = (tuple: string, between: RegExp | string, when: string) => {
    const [lon, lat, height] = numbers(tuple, between)
    collector.point(lon, lat, seconds(when), height)
  }
  const place = (tuple: string) => {
    const [lon, lat] = numbers(tuple, ',')
    collector.waypoint(lon, lat, mark.name)
  }
  return {
    open(element) {
      if (element === 'Placemark') mark.name = ''
      else if (element === 'Point' || element === 'LineString' || element === 'LinearRing' || element === 'Track') mark.inside = element
    },
    close(element, words) {
      if (element === 'name') mark.name = words
      else if (element === 'when') whens.push(words)
      else if (element === 'coord') coords.push(words)
      else if (element === 'coordinates') {
        for (const tuple of words.trim().split(/\s+/)) {
          if (mark.inside === 'Point') place(tuple)
          else line(tuple, ',', '')
        }
        if (mark.inside !== 'Point') collector.endSegment()
      } else if (element === 'Track') {
        coords.forEach((coord, i) => line(coord, /\s+/, whens[i] ?? ''))
        collector.endSegment()
        whens.length = coords.length = 0
      }
    },
  }
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

/** A date and time without a time zone. */
const ZONELESS = /^(\d{4}-\d\d-\d\d)[T ](\d\d:\d\d(?::\d\d(?:[.,]\d+)?)?)$/

/** A time in seconds since 1970; NaN for none. One that does not name its zone is in UTC, as GPX 1.1 has all its times. */
function seconds(text: string): number {
  const trimmed = text.trim()
  const [, day, hour] = ZONELESS.exec(trimmed) ?? []
  // eslint-disable-next-line no-restricted-globals -- parsing a time reads no clock
  return Date.parse(day && hour ? `${day}T${hour.replace(',', '.')}Z` : trimmed) / 1000
}
