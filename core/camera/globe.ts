import type { Point } from '../geometry/point'

/** A place on the globe in radians: longitude east, latitude north. */
export interface Spot {
  lon: number
  lat: number
}

/** The Earth as a globe, and how a journey's ground shows it. It is taken for a sphere: what is seen is a picture, not a survey. */
export interface Globe {
  /** Undefined where the ground shows no place of the Earth. */
  toSpot(p: Point): Spot | undefined
  /** Undefined for places that the map's projection does not show. */
  toGround(spot: Spot): Point | undefined
  /** How the Earth lies about a ground point: its radius in ground units there, and the direction of north on the ground in radians clockwise from the right. */
  around(p: Point): { radius: number; north: number } | undefined
  /** Once round the Earth to the east on the ground, where longitudes run along straight lines; else undefined. */
  readonly round: Point | undefined
}

/** How far the ground is bent to the globe: 0 is the flat map, 1 the globe; and by how many degrees the globe is turned eastwards under the camera. */
export interface Bend {
  globe: Globe
  share: number
  spin: number
}

/** The copy of a ground point that is nearest to another, on a map that goes once round the Earth. */
export function nearestCopy({ round }: Pick<Globe, 'round'>, p: Point, to: Point): Point {
  if (!round) return p
  const turns = Math.round(((to.x - p.x) * round.x + (to.y - p.y) * round.y) / (round.x * round.x + round.y * round.y))
  return turns === 0 ? p : { x: p.x + turns * round.x, y: p.y + turns * round.y }
}

/**
 * The radius of a globe, in the frame's pixels at its nearest point, that is seen as a disc of some radius from a distance in pixels. The eye at a distance
 * d from a sphere of radius R sees it as wide as tan(asin(R / (d + R))); solved for R.
 */
export const globeRadius = (disc: number, distance: number): number =>
  (disc * disc + disc * Math.sqrt(disc * disc + distance * distance)) / distance
