import type { LonLat } from '../geo/lon-lat'
import { JourneyError } from '../error'

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
  /** The number of points whose time could not be read or went back, and was interpolated from its neighbours. */
  badTimes: number
}

/** Limits of a track file. */
export const TRACK_LIMITS = { bytes: 256 * 1024 ** 2, points: 2_000_000 } as const

/** File name extensions of tracks. */
export const TRACK_EXTENSIONS = ['.gpx', '.kml', '.kmz', '.geojson', '.json']

/** A file whose latitudes and longitudes seem to have been swapped: read the other way round they would all lie on the Earth. */
export class SwappedError extends JourneyError {
  override name = 'SwappedError'
}
