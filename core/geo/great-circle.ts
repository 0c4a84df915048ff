import geodesic from 'geographiclib-geodesic'
import type { Point } from '../geometry/point'
import { distance, mix } from '../geometry/point'
import type { GroundGeo } from './ground'
import type { LonLat } from './lon-lat'
import { wrapLongitude } from './lon-lat'

const { WGS84 } = geodesic.Geodesic

/** A line on the ground: x and y in turn, broken after the points whose numbers are in `breaks`. */
export interface GroundLine {
  points: Float64Array
  breaks: number[]
}

/** The line is bisected at most this many times: a 65 000th of half the Earth is 300 m. */
const MOST_DEPTH = 16

/** Pieces are halved at least this many times, so that no bend is missed. */
const LEAST_DEPTH = 4

/** A piece that is still so many times longer on the ground than its neighbours when it cannot be halved any more leads over a cut of the map. */
const CUT = 50

/**
 * The shortest way over the ellipsoid between two ground points, as a line on the ground that is nowhere further from it than `tolerance`; it is broken
 * where the map is cut or does not show it. Undefined where the ends have no place on the Earth.
 * Source: Karney, Algorithms for geodesics (2013); package geographiclib-geodesic.
 */
export function greatCircle(a: Point, b: Point, geo: GroundGeo, tolerance: number): GroundLine | undefined {
  const [from, to] = [geo.toLonLat(a), geo.toLonLat(b)]
  if (!from || !to) return undefined
  const line = WGS84.InverseLine(from.lat, from.lon, to.lat, to.lon)
  const whole = line.s13
  const placeAt = (u: number): LonLat => {
    const { lat2, lon2 } = line.Position(u * whole)
    return { lat: lat2!, lon: wrapLongitude(lon2!) }
  }
  const groundAt = (u: number): Point | undefined => (u === 0 ? a : u === 1 ? b : geo.toGround(placeAt(u)))
  const samples: { p: Point | undefined; u: number }[] = [{ p: a, u: 0 }]
  const halve = (u0: number, p0: Point | undefined, u1: number, p1: Point | undefined, depth: number): void => {
    const u = (u0 + u1) / 2
    const p = groundAt(u)
    const isFlat = p && p0 && p1 && distance(p, mix(p0, p1, 0.5)) < tolerance
    const isHidden = !p && !p0 && !p1
    if (depth >= MOST_DEPTH || (depth >= LEAST_DEPTH && (isFlat || isHidden))) {
      samples.push({ p: p1, u: u1 })
      return
    }
    halve(u0, p0, u, p, depth + 1)
    halve(u, p, u1, p1, depth + 1)
  }
  halve(0, a, 1, b, 0)
  return joined(samples)
}

/** Puts the samples that the map shows into one line; where the map leaves some out, or is cut between two, the line is broken. */
function joined(samples: readonly { p: Point | undefined; u: number }[]): GroundLine {
  const xy: number[] = []
  const breaks: number[] = []
  const finest = 2 ** -MOST_DEPTH
  let isHidden = false
  samples.forEach(({ p, u }, i) => {
    if (!p) {
      isHidden = true
      return
    }
    const before = samples[i - 1]
    // Pieces so short that they cannot be halved stand where the line cannot be followed: over a cut it is far to the other side.
    const isFine = before?.p && u - before.u <= finest * 1.5
    const isCut = isFine && distance(before.p!, p) > CUT * longest(samples, i, finest)
    if (xy.length > 0 && (isHidden || isCut)) breaks.push(xy.length / 2 - 1)
    isHidden = false
    xy.push(p.x, p.y)
  })
  return { points: Float64Array.from(xy), breaks }
}

/** The longest of the neighbouring pieces, scaled to the same share of the way. */
function longest(samples: readonly { p: Point | undefined; u: number }[], i: number, share: number): number {
  let most = 0
  for (const k of [i - 2, i - 1, i + 1, i + 2]) {
    const [a, b] = [samples[k - 1], samples[k]]
    if (k !== i && a?.p && b?.p) most = Math.max(most, (distance(a.p, b.p) * share) / (b.u - a.u))
  }
  return most
}
