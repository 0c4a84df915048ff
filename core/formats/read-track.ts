import { JourneyError } from '../error'
import type { Track } from '../tracks/track'
import { TrackCollector } from './track-collector'
import { readGeoJson } from './track-geojson'
import { readXml } from './track-xml'

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
  const collector = new TrackCollector(name, swap)
  if (start.startsWith('{')) readGeoJson(text, name, collector)
  else if (start.startsWith('<')) readXml(text, name, collector, onProgress)
  else throw new JourneyError(`“${name}” is neither GPX, KML nor GeoJSON: save the track in one of these formats.`)
  return collector.finish()
}
