import type { Cubic } from './cubic'
import { lineCubic } from './cubic'
import type { Point } from './point'
import { add, distance, mix, rotate, scaleBy, subtract } from './point'

/** Below this bow an arc cannot be told from its chord (a thousandth of a pixel on a chord of 1000). */
const FLAT = 1e-6

/** Ends closer to each other than this, in gu, count as one spot: they have no direction. */
const NO_LENGTH = 1e-9

/**
 * A circular arc from a to b as cubics of at most a quarter turn each.
 *
 * @param bow signed sagitta over chord; positive bows to the left of the direction of travel (y down). 0 is a straight line, 0.5 half a circle.
 * Source: the handle length (4/3) tan(angle/4) of the standard cubic approximation of an arc, as in W3C SVG 2, appendix on elliptical arcs.
 */
export function bowedCubics(a: Point, b: Point, bow: number): Cubic[] {
  const chord = distance(a, b)
  if (Math.abs(bow) < FLAT || chord < NO_LENGTH) return [lineCubic(a, b)]
  const turn = 4 * Math.atan(2 * bow) // the arc's whole angle, signed
  const radius = chord / 2 / Math.sin(Math.abs(turn) / 2)
  // With y down, bowing to the left means that the direction turns to the right (clockwise, positive angles).
  const pieces = Math.max(1, Math.ceil(Math.abs(turn) / (Math.PI / 2) - 1e-9))
  const step = turn / pieces
  const handle = (4 / 3) * Math.tan(Math.abs(step) / 4) * radius
  const unit = scaleBy(subtract(b, a), 1 / chord)
  const cubics: Cubic[] = []
  let from = a
  let direction = rotate(unit, -turn / 2)
  for (let i = 0; i < pieces; i++) {
    const nextDirection = rotate(direction, step)
    const hop = scaleBy(rotate(direction, step / 2), 2 * radius * Math.sin(Math.abs(step) / 2))
    const to = i === pieces - 1 ? b : add(from, hop)
    cubics.push([from, add(from, scaleBy(direction, handle)), subtract(to, scaleBy(nextDirection, handle)), to])
    from = to
    direction = nextDirection
  }
  return cubics
}

/** The bow for which the middle of the arc from a to b is as far off the chord as `through`; the inverse of the above. */
export function bowThrough(a: Point, b: Point, through: Point): number {
  const chord = distance(a, b)
  if (chord < NO_LENGTH) return 0
  const off = subtract(through, mix(a, b, 0.5))
  return ((b.y - a.y) * off.x - (b.x - a.x) * off.y) / (chord * chord)
}

/**
 * A bow of the same size that arches over the way from a to b as seen on the map: towards the north if that is known, else upwards.
 * @param earth where points of the ground lie on the Earth
 */
export function upwardBow(a: Point, b: Point, bow: number, earth?: { toLonLat(p: Point): { lat: number } | undefined }): number {
  const middle = mix(a, b, 0.5)
  // Positive bows lie to the left of the direction of travel.
  const aside = { x: (b.y - a.y) / 10, y: -(b.x - a.x) / 10 }
  const [left, right] = [earth?.toLonLat(add(middle, aside)), earth?.toLonLat(subtract(middle, aside))]
  const isLeft = left && right ? left.lat >= right.lat : aside.y <= 0
  return isLeft ? Math.abs(bow) : -Math.abs(bow)
}
