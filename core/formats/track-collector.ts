import type { LonLat } from '../geo/lon-lat'
import { JourneyError } from '../error'
import type { Track, TrackSegment } from '../tracks/track'
import { filledIn, risingOnes } from './fill-in'
import { SwappedError, TRACK_LIMITS } from '../tracks/track'

/** Takes points one by one, and checks them. */
export class TrackCollector {
  private readonly segments: TrackSegment[] = []
  private readonly waypoints: Track['waypoints'] = []
  private lonLat: number[] = []
  private times: number[] = []
  private heights: number[] = []
  private badTimes = 0
  private count = 0
  /** How many points do not lie on the Earth, and whether all of them would with latitude and longitude swapped. */
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

  /** @param time seconds since 1970; @param height metres above the sea; each NaN where it is not known */
  point(lon: number, lat: number, time: number, height: number): void {
    const at = this.checked(lon, lat)
    this.lonLat.push(at.lon, at.lat)
    this.times.push(time)
    this.heights.push(height)
  }

  endSegment(): void {
    // A segment of one point is no line; empty ones come from recorders that lost their signal.
    if (this.lonLat.length >= 4) {
      const rising = risingOnes(this.times)
      const times = filledIn(rising)
      if (times) this.badTimes += rising.filter(Number.isNaN).length
      this.segments.push({ lonLat: new Float64Array(this.lonLat), times, heights: filledIn(this.heights) })
    }
    this.lonLat = []
    this.times = []
    this.heights = []
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
    return { segments: this.segments, waypoints: this.waypoints, badTimes: this.badTimes }
  }
}
