import { remembered } from '../remembered'
import type { Globe } from '../camera/globe'
import { globeRadius, nearestCopy } from '../camera/globe'
import { DISTANCE } from '../camera/optics'
import type { View } from '../camera/view'
import { SAFE } from '../camera/view-track'
import type { GroundGeo } from '../geo/ground'
import { degrees, radians, turnBetween } from '../geometry/angle'
import { clamp } from '../geometry/clamp'
import type { Point } from '../geometry/point'
import type { Size } from '../geometry/size'
import type { Sheet, ShotOf } from '../journey/schema'
import { sheetToGround, usedPart } from '../sheet/place'

/** The globe of a ground that knows where it lies on the Earth; the same ground has the same one. */
export const globeOf = remembered(makeGlobe)

/** Degrees over which it is measured how the Earth lies about a point: small, but well above rounding. */
const NEAR_BY = 1e-3

function makeGlobe(geo: GroundGeo): Globe {
  const toGround = ({ lon, lat }: { lon: number; lat: number }): Point | undefined => geo.toGround({ lon, lat })
  const round = onceRound(geo)
  const middle = middleOf(geo.sheet)
  /** Longitudes run on over the edges of a map of the world: the same place on the map itself. */
  const atHome = (p: Point): Point => nearestCopy({ round }, p, middle)
  return {
    toSpot(p) {
      const at = geo.toLonLat(atHome(p))
      return at && { lon: radians(at.lon), lat: radians(at.lat) }
    },
    toGround: ({ lon, lat }) => toGround({ lon: degrees(turnBetween(0, lon)), lat: degrees(lat) }),
    around(p) {
      const home = atHome(p)
      const at = geo.toLonLat(home)
      if (!at || Math.abs(at.lat) > 89) return undefined
      // All of one copy of the map, also where p is at its edge.
      const beside = (lon: number, lat: number) => {
        const there = toGround({ lon: at.lon + lon, lat: at.lat + lat })
        return there && nearestCopy({ round }, there, home)
      }
      const [north, south, east, west] = [beside(0, NEAR_BY), beside(0, -NEAR_BY), beside(NEAR_BY, 0), beside(-NEAR_BY, 0)]
      if (!north || !south || !east || !west) return undefined
      const turn = 2 * radians(NEAR_BY)
      const [up, across] = [
        { x: north.x - south.x, y: north.y - south.y },
        { x: east.x - west.x, y: east.y - west.y },
      ]
      // A radian of latitude is a radius long, one of longitude a radius times the cosine; their product is right whatever the map stretches.
      const area = Math.abs(up.x * across.y - up.y * across.x) / (turn * turn * Math.cos(radians(at.lat)))
      return area > 0 ? { radius: Math.sqrt(area), north: Math.atan2(up.y, up.x) } : undefined
    },
    round,
  }
}

/** Once round the Earth on the ground, if longitudes run along straight lines evenly, as on all cylindrical maps that are not tilted. */
function onceRound({ sheet, toGround, toLonLat }: GroundGeo): Point | undefined {
  const middle = toLonLat(middleOf(sheet))
  if (!middle) return undefined
  const lat = clamp(middle.lat, -60, 60)
  const spots = [-60, -20, 20, 60].map((by) => toGround({ lon: middle.lon + by, lat }))
  if (!spots.every((p) => p !== undefined)) return undefined
  const [a, b, c, d] = spots as [Point, Point, Point, Point]
  const step = { x: (d.x - a.x) / 3, y: (d.y - a.y) / 3 }
  const off = (p: Point, k: number) => Math.hypot(a.x + k * step.x - p.x, a.y + k * step.y - p.y)
  const length = Math.hypot(step.x, step.y)
  if (!(length > 0) || off(b, 1) > 1e-3 * length || off(c, 2) > 1e-3 * length) return undefined
  return { x: step.x * 9, y: step.y * 9 }
}

function middleOf(sheet: Sheet): Point {
  const { left, top, right, bottom } = usedPart(sheet)
  return sheetToGround(sheet.place, { x: (left + right) / 2, y: (top + bottom) / 2 })
}

/** The globe slows down over so many seconds to rest where its subject is in front, and takes as long to begin. */
const SLOWING = 1.2

/**
 * How far the globe is turned at a time, in degrees. Its subject is in front when the camera leaves it; where the camera has come to it from somewhere else, it
 * was in front then.
 * @param shot `arrive` is when the camera is there, `leave` when it leaves, in seconds; `isFirst` whether it comes from nowhere
 */
export function spinAt({ spin }: ShotOf<'globe'>, time: number, shot: { arrive: number; leave: number; isFirst: boolean }) {
  const { arrive, leave, isFirst } = shot
  const passed = isFirst ? leave - time : time - arrive
  if (spin === 0 || passed <= 0) return 0
  const begun = Math.min(passed, SLOWING)
  const turned = spin * ((begun * begun) / (2 * SLOWING) + Math.max(0, passed - SLOWING))
  return isFirst ? -turned : turned
}

/** The globe, with a ground point in front, filling a share of the safe area; undefined where the point is not on the Earth. */
export function globeView(
  globe: Globe,
  { bearing, pitch, fill }: Pick<ShotOf<'globe'>, 'bearing' | 'pitch' | 'fill'>,
  centre: Point,
  reference: Size,
): View | undefined {
  const around = globe.around(centre)
  if (!around) return undefined
  const disc = (fill * SAFE * Math.min(reference.width, reference.height)) / 2
  const zoom = globeRadius(disc, DISTANCE * reference.height) / around.radius
  return { centre, zoom, bearing, pitch, bend: { globe, share: 1, spin: 0 } }
}
