import type { LonLat } from '../geo/lon-lat'
import { JourneyError } from '../journey/error'

/**
 * One stretch of a recorded track without a break: longitude, latitude, … in degrees; times in seconds since 1970, never falling, and heights in metres
 * above the sea, each null where they are not known.
 */
export interface TrackSegment {
  lonLat: Float64Array
  times: Float64Array | null
  heights: Float64Array | null
}

/** A recorded track or a route, with the places that were marked on it. */
export interface Track {
  segments: TrackSegment[]
  waypoints: (LonLat & { name: string })[]
  /** Points whose time could not be read, or lay before that of a point before, and was made up from those beside it. */
  badTimes: number
}

/** Limits of a track file. */
export const TRACK_LIMITS = { bytes: 256 * 1024 ** 2, points: 2_000_000 } as const

/** Endings of the names of files that hold tracks. */
export const TRACK_EXTENSIONS = ['.gpx', '.kml', '.kmz', '.geojson', '.json']

/** A file whose latitudes and longitudes seem to have been swapped: read the other way round they would all lie on the Earth. */
export class SwappedError extends JourneyError {}
