import { remembered } from '../remembered'
import { courseGround } from '../courses/compile-course'
import { trackDistance } from '../geo/geodesic'
import type { GroundGeo } from '../geo/ground'
import type { Course } from '../geometry/course'
import { pieceAt } from '../geometry/course'
import { clamp } from '../geometry/clamp'
import type { DistanceUnit, Journey, Leg, TrackCourse } from '../journey/schema'
import { readHeights } from '../journey/track-line'

/** Metres to a kilometre, an international mile (1959) and a nautical mile (First International Extraordinary Hydrographic Conference, 1929). */
export const METRES: Readonly<Record<DistanceUnit, number>> = { km: 1000, mi: 1609.344, nmi: 1852 }

/** How long ways on the ground are, in metres: by the map's place on the Earth, else by a scale that was given. */
export type Ruler = { geo: GroundGeo } | { metresPerUnit: number }

/** The ruler of a journey; undefined where neither the Earth nor a scale is known. */
export function rulerOf(journey: Pick<Journey, 'sheets' | 'networks' | 'measures'>): Ruler | undefined {
  const { geo } = courseGround(journey)
  if (geo) return { geo }
  const { metresPerUnit } = journey.measures
  return metresPerUnit === null ? undefined : { metresPerUnit }
}

/** The metres up to each point of a course; undefined where some point has no place on the Earth. */
const metresTable = remembered((course: Course, geo: GroundGeo): Float64Array => {
  const { points, breaks } = course
  const metres = new Float64Array(points.length / 2)
  let before = geo.toLonLat({ x: points[0]!, y: points[1]! })
  let next = 0
  for (let i = 1; i < metres.length; i++) {
    const here = geo.toLonLat({ x: points[2 * i]!, y: points[2 * i + 1]! })
    const isBroken = breaks[next] === i - 1
    if (isBroken) next++
    metres[i] = metres[i - 1]! + (here && before && !isBroken ? trackDistance(before, here) : 0)
    before = here
  }
  return metres
})

/** The metres along a course up to a length in ground units: geodesic ones between the points of its polyline, or by the scale. */
export function metresAlong(course: Course, s: number, ruler: Ruler): number {
  const within = clamp(s, 0, course.length)
  if ('metresPerUnit' in ruler) return within * ruler.metresPerUnit
  return between(course, within, metresTable(course, ruler.geo))
}

/** A value that is known at the points of a course, at a length of it. */
function between(course: Course, s: number, values: ArrayLike<number>): number {
  const i = pieceAt(course, s)
  const span = course.lengths[i + 1]! - course.lengths[i]!
  const u = span > 0 ? (s - course.lengths[i]!) / span : 0
  return values[i]! + (values[i + 1]! - values[i]!) * u
}

const heightsOf = remembered((shape: TrackCourse) => readHeights(shape.heights ?? ''))

/** Metres above the sea at a length of a leg's course; undefined where they were not recorded. */
export function heightAt({ course: shape }: Leg, course: Course, s: number): number | undefined {
  if (shape.kind !== 'track' || shape.heights === null) return undefined
  const known = heightsOf(shape)
  return known.length === course.lengths.length ? between(course, clamp(s, 0, course.length), known) : undefined
}

const figure = new Intl.NumberFormat('en', { maximumFractionDigits: 0 })
const fine = new Intl.NumberFormat('en', { minimumFractionDigits: 1, maximumFractionDigits: 1 })

/** A distance for people to read; the part that is less than a whole only as far as it tells something. @param isRunning whether it goes on changing, and keeps its decimals */
export function formatDistance(metres: number, unit: DistanceUnit, isRunning = false): string {
  const value = metres / METRES[unit]
  const isFine = isRunning ? metres < 100 * METRES[unit] : value < 10
  return `${isFine ? fine.format(value) : figure.format(value)} ${UNIT_SIGNS[unit]}`
}

/** The signs of the units. `NM` is what ICAO uses for the nautical mile. */
export const UNIT_SIGNS: Readonly<Record<DistanceUnit, string>> = { km: 'km', mi: 'mi', nmi: 'NM' }

const FOOT = 0.3048

export const formatHeight = (metres: number, unit: 'm' | 'ft'): string => `${figure.format(unit === 'm' ? metres : metres / FOOT)} ${unit}`
