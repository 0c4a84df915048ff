import { radians } from '../geometry/angle'
import { clamp } from '../geometry/clamp'
import type { Point } from '../geometry/point'
import type { Size } from '../geometry/size'
import type { Bend, Spot } from './globe'
import { nearestCopy } from './globe'
import { directionOf, DISTANCE, NEAR } from './optics'
import type { Projection } from './projection-type'
import type { View } from './view'

/** Newton's method stops when the place is right to so many reference pixels, or after so many steps. */
const RIGHT = 1e-7
const STEPS = 12
/** The clearance of what is never seen, in reference pixels. */
const NEVER = -1e9
/** The share from which on the ground is the globe itself. */
const WHOLE = 1 - 1e-9

/**
 * The projection of ground that is bent to a globe, or some of the way. A point's offset from the middle goes from the map's own (share 0) to the one with
 * its true distance and direction (share 1, the azimuthal equidistant projection: Snyder, Map Projections - A Working Manual, USGS PP 1395, chapter 25),
 * and is laid on a sphere that touches the ground in the middle and whose radius is the Earth's divided by the share: so that there is a sphere's edge at any
 * share, and the way back from the frame is a ray's first hit on it.
 * @returns undefined where the middle of the view is not on the Earth
 */
export function bentProjection(view: View, bend: Bend, reference: Size): Projection | undefined {
  const { centre, zoom, bearing } = view
  const { globe, share } = bend
  const around = globe.around(centre)
  const middle = globe.toSpot(centre)
  if (!around || !middle) return undefined
  const { cos, sin } = directionOf(bearing)
  const pitch = radians(view.pitch)
  const [along, up] = [Math.cos(pitch), Math.sin(pitch)]
  const [middleX, middleY] = [reference.width / 2, reference.height / 2]
  const f = DISTANCE * reference.height
  const earth = around.radius * zoom
  const radius = earth / share
  const [sinLat, cosLat] = [Math.sin(middle.lat), Math.cos(middle.lat)]
  const [northX, northY] = [Math.cos(around.north), Math.sin(around.north)]
  const spin = radians(bend.spin)

  /** The true offset of a spot from the middle, in pixels along the ground's axes. */
  function trueOffset({ lon, lat }: Spot): Point {
    const turn = lon + spin - middle!.lon
    const [s, c] = [Math.sin(lat), Math.cos(lat)]
    const east = c * Math.sin(turn)
    const north = cosLat * s - sinLat * c * Math.cos(turn)
    const sine = Math.hypot(east, north)
    const angle = Math.atan2(sine, sinLat * s + cosLat * c * Math.cos(turn))
    const k = sine < 1e-12 ? earth : (earth * angle) / sine
    return { x: k * (north * northX - east * northY), y: k * (north * northY + east * northX) }
  }

  /** The spot at a true offset. */
  function spotAt({ x, y }: Point): Spot {
    const [north, east] = [x * northX + y * northY, y * northX - x * northY]
    const way = Math.hypot(x, y)
    if (way < 1e-9) return { lon: middle!.lon - spin, lat: middle!.lat }
    const [s, c] = [Math.sin(way / earth), Math.cos(way / earth)]
    const lat = Math.asin(clamp(c * sinLat + (north / way) * s * cosLat, -1, 1))
    return { lon: middle!.lon - spin + Math.atan2((east / way) * s, cosLat * c - (north / way) * sinLat * s), lat }
  }

  /** The offset of a ground point from the middle, in pixels along the ground's axes, as far as it is bent; undefined off the Earth. */
  function offsetOf(p: Point): Point | undefined {
    const spot = globe.toSpot(p)
    if (!spot) return undefined
    const to = trueOffset(spot)
    if (share >= WHOLE) return to
    const near = nearestCopy(globe, p, centre)
    return { x: (1 - share) * (near.x - centre.x) * zoom + share * to.x, y: (1 - share) * (near.y - centre.y) * zoom + share * to.y }
  }

  /** The ground point with an offset: of the two whose offsets are known at once the nearer one, bettered by Newton's method. */
  function groundOf(offset: Point): Point | undefined {
    const onGlobe = globe.toGround(spotAt(offset))
    if (share >= WHOLE) return onGlobe
    const off = (p: Point | undefined) => {
      const at = p && offsetOf(p)
      return at ? Math.hypot(at.x - offset.x, at.y - offset.y) : Infinity
    }
    const onMap = { x: centre.x + offset.x / zoom, y: centre.y + offset.y / zoom }
    let best = off(onMap) < off(onGlobe) ? onMap : onGlobe && nearestCopy(globe, onGlobe, centre)
    if (!best) return undefined
    let error = off(best)
    const step = 0.05 / zoom
    for (let i = 0; i < STEPS && error > RIGHT; i++) {
      const at = offsetOf(best)
      const [right, down] = [offsetOf({ x: best.x + step, y: best.y }), offsetOf({ x: best.x, y: best.y + step })]
      if (!at || !right || !down) return undefined
      const [a, b, c, d] = [(right.x - at.x) / step, (right.y - at.y) / step, (down.x - at.x) / step, (down.y - at.y) / step]
      const det = a * d - b * c
      const [x, y] = [offset.x - at.x, offset.y - at.y]
      const [dx, dy] = [(d * x - c * y) / det, (a * y - b * x) / det]
      // A step that leads astray is halved.
      let k = 1
      let next: Point = { x: best.x + dx, y: best.y + dy }
      while (off(next) >= error && k > 1e-3) {
        k /= 2
        next = { x: best.x + k * dx, y: best.y + k * dy }
      }
      const now = off(next)
      if (!(now < error)) break
      ;[best, error] = [next, now]
    }
    if (error > 0.5) return undefined
    return globe.round ? globe.toGround(globe.toSpot(best)!) : best
  }

  /** Where an offset lies in space: to the right of the middle, away from the camera, and above the ground (below it, negative). */
  function laid(offset: Point): [number, number, number] {
    const [x, y] = [offset.x * cos + offset.y * sin, offset.x * sin - offset.y * cos]
    const way = Math.hypot(x, y)
    const angle = Math.min(Math.PI, way / radius)
    const k = way < 1e-9 ? 1 : (radius * Math.sin(angle)) / way
    return [k * x, k * y, -2 * radius * Math.sin(angle / 2) ** 2]
  }

  /** Ground that is not on the Earth lies where it would on the flat map, and is never seen. */
  const spaceOf = (p: Point) => laid(offsetOf(p) ?? { x: (p.x - centre.x) * zoom, y: (p.y - centre.y) * zoom })
  const depthOf = ([, y, z]: readonly [number, number, number]) => Math.max(NEAR * f, f + y * up - z * along)
  const inFrame = (at: readonly [number, number, number]): Point => {
    const k = f / depthOf(at)
    return { x: middleX + at[0] * k, y: middleY - (at[1] * along + at[2] * up) * k }
  }
  const toScreen = (p: Point): Point => inFrame(spaceOf(p))
  /** How far the camera is above the plane that touches the sphere at a place. */
  const heightAbove = ([x, y, z]: readonly [number, number, number]): number =>
    (-x * x + y * (-f * up - y) + (radius + z) * (f * along - z)) / radius

  // The ray through a place of the frame, from the camera at (0, -f up, f along) to the sphere about (0, 0, -radius).
  const [eyeY, eyeZ] = [-f * up, f * along + radius]
  const eyeBeyond = f * f + 2 * f * along * radius
  const rayOf = ({ x, y }: Point) => {
    const [right, above] = [x - middleX, middleY - y]
    const [dx, dy, dz] = [right, f * up + above * along, above * up - f * along]
    const a = dx * dx + dy * dy + dz * dz
    const b = dy * eyeY + dz * eyeZ
    return { right, above, dx, dy, dz, a, b, disc: b * b - a * eyeBeyond }
  }
  /** The offset of what is seen at a place; where the ray misses, of what it passes nearest to. */
  function offsetBy(p: Point): Point {
    const { dx, dy, dz, a, b, disc } = rayOf(p)
    const t = disc <= 0 ? -b / a : eyeBeyond / (-b + Math.sqrt(disc))
    const [x, y, height] = [t * dx, eyeY + t * dy, eyeZ + t * dz]
    const across = Math.hypot(x, y)
    const k = across < 1e-9 ? 1 : (radius * Math.atan2(across, height)) / across
    return { x: k * (x * cos + y * sin), y: k * (x * sin - y * cos) }
  }
  const inside = (p: Point): number => insideOf(rayOf(p))
  function insideOf({ right, above, a, b, disc }: ReturnType<typeof rayOf>): number {
    const [across, down] = [-2 * right * eyeBeyond, 2 * b * (along * eyeY + up * eyeZ) - 2 * above * eyeBeyond]
    const slope = Math.sqrt(across * across + down * down)
    // Far from the edge the square root of what is left says how far, near it the slope does.
    return slope === 0 ? Math.sqrt(Math.max(0, disc) / a) : disc / slope
  }
  const toGround = (p: Point): Point | undefined => (rayOf(p).disc < 0 ? undefined : groundOf(offsetBy(p)))

  const eye = Math.hypot(eyeY, eyeZ)
  /** Where the sphere's middle is seen: towards it the globe is met from anywhere beside it. */
  const target = ((): Point => {
    const depth = f + radius * along
    return { x: middleX, y: middleY + (radius * up * f) / depth }
  })()

  const step = 0.25 / zoom
  const slope = (of: (p: Point) => Point, p: Point) => {
    const [left, right] = [of({ x: p.x - step, y: p.y }), of({ x: p.x + step, y: p.y })]
    const [above, below] = [of({ x: p.x, y: p.y - step }), of({ x: p.x, y: p.y + step })]
    const k = 1 / (2 * step * zoom)
    return [(right.x - left.x) * k, (right.y - left.y) * k, (below.x - above.x) * k, (below.y - above.y) * k] as const
  }

  return {
    view,
    reference,
    isFlat: false,
    horizon: -Infinity,
    toScreen,
    toGround,
    depthScale: (p) => f / depthOf(spaceOf(p)),
    scaleAt(p) {
      const [a, b, c, d] = slope((at) => offsetOf(at) ?? { x: at.x * zoom, y: at.y * zoom }, p)
      return (zoom * Math.sqrt(Math.abs(a * d - b * c)) * f) / depthOf(spaceOf(p))
    },
    groundAxes: (p) => slope(toScreen, p),
    clearance(p) {
      if (!offsetOf(p)) return NEVER
      const at = spaceOf(p)
      return Math.min(f + at[1] * up - at[2] * along - NEAR * f, heightAbove(at))
    },
    onGround(p) {
      if (inside(p) >= 1) return p
      let [near, far] = [0, 1]
      for (let i = 0; i < 40; i++) {
        const k = (near + far) / 2
        if (inside({ x: p.x + (target.x - p.x) * k, y: p.y + (target.y - p.y) * k }) >= 1) far = k
        else near = k
      }
      return { x: p.x + (target.x - p.x) * far, y: p.y + (target.y - p.y) * far }
    },
    bent: {
      share,
      round: globe.round,
      inside,
      look(x, y, out) {
        const ray = rayOf({ x, y })
        out[0] = insideOf(ray)
        out[1] = ray.disc > 0 ? Math.sqrt(ray.disc / ray.a) / radius : 0
      },
      groundBy: (p) => groundOf(offsetBy(p)),
      spotBy: (p) => spotAt(offsetBy(p)),
      lay(x, y, spot, out) {
        const to = trueOffset(spot)
        const k = (1 - share) * zoom
        const at = laid({ x: k * (x - centre.x) + share * to.x, y: k * (y - centre.y) + share * to.y })
        const seen = inFrame(at)
        out[0] = seen.x
        out[1] = seen.y
        out[2] = heightAbove(at)
      },
      toEdge(p) {
        const [x, y, z] = spaceOf(p)
        const [nx, ny, nz] = [x / radius, y / radius, 1 + z / radius]
        const [uy, uz] = [eyeY / eye, eyeZ / eye]
        const towards = ny * uy + nz * uz
        const [mx, my, mz] = [nx, ny - towards * uy, nz - towards * uz]
        const length = Math.hypot(mx, my, mz)
        const [c, s] = [radius / eye, Math.sqrt(1 - (radius / eye) ** 2)]
        const k = length < 1e-12 ? 0 : (s * radius) / length
        return inFrame([mx * k, c * uy * radius + my * k, c * uz * radius + mz * k - radius])
      },
    },
  }
}
