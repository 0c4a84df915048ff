import { escapeXml } from './escape-xml'
import type { CompiledJourney } from '../trips/compiled'
import type { LonLat } from '../geo/lon-lat'
import type { Point } from '../geometry/point'
import { courseGround, cubicsOf } from '../courses/compile-course'
import { partsOf } from '../geometry/course'
import type { Cubic } from '../geometry/cubic'
import { isBreak } from '../geometry/cubic'
import { JourneyError } from '../error'
import type { Stop } from '../journey/schema'

/** A route for other programs: on the Earth where that is known, and on the ground. */
export interface Route {
  name: string
  stops: { name: string; at: LonLat | undefined }[]
  /** The lines of each leg between the breaks of its course, and its curves. */
  legs: { name: string; lines: LonLat[][]; cubics: Cubic[] }[]
}

/** The routes of all travellers that are shown; `toLonLat` says where ground points lie on the Earth, if that is known. */
export function routeOf({ journey, travellers }: CompiledJourney, toLonLat: ((p: Point) => LonLat | undefined) | undefined): Route {
  const nameOf = (stop: Stop) => stop.name || `Stop ${journey.stops.indexOf(stop) + 1}`
  const ground = courseGround(journey)
  const shown = travellers.filter(({ traveller }) => traveller.shown)
  const stops = new Set(shown.flatMap(({ visits }) => visits.map(({ stop }) => stop)))
  return {
    name: journey.name,
    stops: [...stops].map((stop) => ({ name: nameOf(stop), at: toLonLat?.(stop.at) })),
    legs: shown.flatMap(({ visits, legs }) =>
      legs.map(({ leg, course }, i) => {
        const [from, to] = [visits[i]!.stop, visits[i + 1]!.stop]
        const onEarth = (p: Point): LonLat => {
          const at = toLonLat!(p)
          if (at) return at
          throw new JourneyError(
            `The leg from ${nameOf(from)} to ${nameOf(to)} leaves the part of the map that lies on the Earth: save it as SVG instead.`,
          )
        }
        return {
          name: `${nameOf(from)} to ${nameOf(to)}`,
          lines: toLonLat ? partsOf(course).map((part) => part.map(onEarth)) : [],
          cubics: cubicsOf(leg.course, from.at, to.at, ground),
        }
      }),
    ),
  }
}

/** Seven decimals are about a centimetre. */
const degrees = (value: number): string => String(Number(value.toFixed(7)))

/** GPX 1.1 (Topografix): stops as waypoints, each leg as a track. */
export function writeGpx({ name, stops, legs }: Route): string {
  const spot = (tag: string, { lat, lon }: LonLat, inside = '') => `<${tag} lat="${degrees(lat)}" lon="${degrees(lon)}">${inside}</${tag}>`
  const waypoints = stops.flatMap((stop) => (stop.at ? [spot('wpt', stop.at, `<name>${escapeXml(stop.name)}</name>`)] : []))
  const tracks = legs.map(
    (leg) =>
      `<trk><name>${escapeXml(leg.name)}</name>${leg.lines
        .map((line) => `<trkseg>${line.map((at) => spot('trkpt', at)).join('')}</trkseg>`)
        .join('')}</trk>`,
  )
  return `<?xml version="1.0" encoding="UTF-8"?>
<gpx version="1.1" creator="Zephyrine" xmlns="http://www.topografix.com/GPX/1/1">
<metadata><name>${escapeXml(name)}</name></metadata>
${[...waypoints, ...tracks].join('\n')}
</gpx>
`
}

/** KML 2.3 (OGC 12-007r2): stops as points, legs as lines. */
export function writeKml({ name, stops, legs }: Route): string {
  const tuple = ({ lon, lat }: LonLat) => `${degrees(lon)},${degrees(lat)}`
  const placemark = (title: string, geometry: string) => `<Placemark><name>${escapeXml(title)}</name>${geometry}</Placemark>`
  const points = stops.flatMap((stop) =>
    stop.at ? [placemark(stop.name, `<Point><coordinates>${tuple(stop.at)}</coordinates></Point>`)] : [],
  )
  const lineString = (line: LonLat[]) =>
    `<LineString><tessellate>1</tessellate><coordinates>${line.map(tuple).join(' ')}</coordinates></LineString>`
  const lines = legs.map((leg) => {
    const [first, ...more] = leg.lines.map(lineString)
    return placemark(leg.name, more.length === 0 ? first! : `<MultiGeometry>${first}${more.join('')}</MultiGeometry>`)
  })
  return `<?xml version="1.0" encoding="UTF-8"?>
<kml xmlns="http://www.opengis.net/kml/2.2">
<Document><name>${escapeXml(name)}</name>
${[...points, ...lines].join('\n')}
</Document>
</kml>
`
}

/** A line cut where it crosses the antimeridian, as RFC 7946, section 3.1.9, asks. */
export function cutAtAntimeridian(line: readonly LonLat[]): LonLat[][] {
  const parts: LonLat[][] = [[]]
  line.forEach((at, i) => {
    const before = line[i - 1]
    if (before && Math.abs(at.lon - before.lon) > 180) {
      const edge = before.lon > 0 ? 180 : -180
      const ahead = at.lon + 2 * edge
      const lat = before.lat + ((at.lat - before.lat) * (edge - before.lon)) / (ahead - before.lon)
      parts.at(-1)!.push({ lon: edge, lat })
      parts.push([{ lon: -edge, lat }])
    }
    parts.at(-1)!.push(at)
  })
  return parts
}

/** GeoJSON (RFC 7946): stops as points, legs as lines, in one collection. */
export function writeGeoJson({ stops, legs }: Route): string {
  const position = ({ lon, lat }: LonLat) => [Number(degrees(lon)), Number(degrees(lat))]
  const feature = (name: string, geometry: unknown) => ({ type: 'Feature', properties: { name }, geometry })
  const points = stops.flatMap((stop) => (stop.at ? [feature(stop.name, { type: 'Point', coordinates: position(stop.at) })] : []))
  const lines = legs.map((leg) => {
    const parts = leg.lines.flatMap(cutAtAntimeridian).map((part) => part.map(position))
    return feature(
      leg.name,
      parts.length === 1 ? { type: 'LineString', coordinates: parts[0] } : { type: 'MultiLineString', coordinates: parts },
    )
  })
  return `${JSON.stringify({ type: 'FeatureCollection', features: [...points, ...lines] }, null, 1)}\n`
}

/** An SVG of the courses in ground units, each leg a path of its own. */
export function writeSvg({ name, legs }: Route): string {
  // A recorded track has too many points to be spread into a function's arguments.
  const box = { left: Infinity, top: Infinity, right: -Infinity, bottom: -Infinity }
  for (const { x, y } of legs.flatMap((leg) => leg.cubics.flat())) {
    box.left = Math.min(box.left, x)
    box.right = Math.max(box.right, x)
    box.top = Math.min(box.top, y)
    box.bottom = Math.max(box.bottom, y)
  }
  const { left, top } = box
  const size = [box.right - left, box.bottom - top].map((v) => Math.max(1, v).toFixed(2))
  const xy = ({ x, y }: Point) => `${Number(x.toFixed(2))} ${Number(y.toFixed(2))}`
  const paths = legs.map((leg) => {
    const d = leg.cubics
      .map(([a, b, c, end], i) => `${i === 0 || isBreak(leg.cubics, i) ? `M${xy(a)}` : ''}C${xy(b)} ${xy(c)} ${xy(end)}`)
      .join('')
    return `<path d="${d}"><title>${escapeXml(leg.name)}</title></path>`
  })
  return `<svg xmlns="http://www.w3.org/2000/svg" viewBox="${left.toFixed(2)} ${top.toFixed(2)} ${size.join(' ')}" fill="none" stroke="#000" stroke-width="8">
<title>${escapeXml(name)}</title>
${paths.join('\n')}
</svg>
`
}

export interface RouteFormat {
  title: string
  ending: string
  /** Whether the format is about places on the Earth. */
  onEarth: boolean
  write: (route: Route) => string
}

export const ROUTE_FORMATS: readonly RouteFormat[] = [
  { title: 'GPX', ending: '.gpx', onEarth: true, write: writeGpx },
  { title: 'KML', ending: '.kml', onEarth: true, write: writeKml },
  { title: 'GeoJSON', ending: '.geojson', onEarth: true, write: writeGeoJson },
  { title: 'SVG paths', ending: '.svg', onEarth: false, write: writeSvg },
]
