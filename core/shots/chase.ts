import { greatest, least } from '../geometry/extremes'
import { awayAt, awayOf, directionOf, offsetOf, rightOf, tiltOf } from '../camera/optics'
import { shiftedView } from '../camera/projection'
import { keptInView, zoomAbout } from '../camera/fit'
import { leastWithin, smoothed, smoothingReach } from '../camera/smoothing'
import type { View } from '../camera/view'
import { GREATEST_ZOOM, LEAST_ZOOM } from '../camera/view'
import type { Look } from '../camera/view-track'
import { SAFE } from '../camera/view-track'
import { degrees, turnBetween, wrapDegrees } from '../geometry/angle'
import { clamp } from '../geometry/clamp'
import type { Point } from '../geometry/point'
import type { Size } from '../geometry/size'
import type { ChaseShot } from '../journey/schema'
import type { Path } from '../trips/travelled-path'
import { sampleAt } from '../trips/travelled-path'
import type { Motions } from './shot-motion'

/** The camera that stays on a traveller or several. Its way is known from the first frame to the last, so it is smoothed without lag. */

/** A traveller that moves by this share of the frame's width in a second has half of its room ahead; one at rest has none. */
const LEAD_SPEED = 0.03
/** The greatest room ahead, in shares of the frame's width and height. */
const LEAD = 0.3
/** The speed of the picture, in frame widths a second, above which a camera that minds it draws back. */
const CALM_SPEED = 0.25
/** The least smoothing of what depends on speed and direction, in seconds. */
const STEADY = 0.6
/** How much more the direction is smoothed than the way, and the least of it, in seconds. */
const TURN_SMOOTHER = 2
const STEADY_TURN = 1
/** A traveller slower than this share of its greatest speed has no direction of its own. */
const SLOW = 0.02

/** A part of the film, in seconds, and its frames in a second. */
export interface Reel {
  from: number
  to: number
  perSecond: number
}

export function chaseLook(shot: ChaseShot, paths: readonly Path[], { from, to, perSecond }: Reel, motions: Motions, reference: Size): Look {
  const sigma = shot.smoothing * perSecond
  const steady = Math.max(shot.smoothing, STEADY) * perSecond
  // What is filtered one after the other needs frames before and after the part that is shown.
  const steadyTurn = Math.max(TURN_SMOOTHER * shot.smoothing, STEADY_TURN) * perSecond
  const pad = smoothingReach(sigma) + 2 * smoothingReach(steady) + smoothingReach(steadyTurn)
  const first = Math.max(0, Math.floor(from * perSecond) - pad)
  const last = Math.min(paths[0]!.x.length, Math.ceil(to * perSecond) + pad + 1)
  const cut = (values: Float64Array) => values.subarray(first, last)
  const middle = { x: middleOf(paths.map(({ x }) => cut(x))), y: middleOf(paths.map(({ y }) => cut(y))) }
  const way = { x: smoothed(middle.x, sigma, 'on'), y: smoothed(middle.y, sigma, 'on') }
  const velocity = velocityOf({ x: smoothed(middle.x, steady, 'on'), y: smoothed(middle.y, steady, 'on') }, perSecond)
  const zoom = smoothed(zoomBySpeed(shot, velocity, reference), STEADY * perSecond, 'still')
  const lead = leadOf(velocity, shot.zoom, reference, steady)
  const turn = shot.turns ? smoothed(directionsOf(velocity), steadyTurn, 'still') : undefined
  const resting = smoothed(
    cut(paths.length === 1 ? paths[0]!.rests : middleOf(paths.map(({ rests }) => rests))),
    STEADY * perSecond,
    'still',
  )

  const indexAt = (time: number) => time * perSecond - first
  /** From where it looks at a time, and how near. */
  const aimAt = (time: number) => {
    const i = indexAt(time)
    const { bearing, pitch, zoomBy } = motions(time, sampleAt(resting, i))
    const ahead = turn ? 90 + degrees(sampleAt(turn, i)) : 0
    return { bearing: wrapDegrees(bearing + ahead), pitch, zoom: sampleAt(zoom, i) * zoomBy }
  }
  const keeps = paths.map(({ at }) => at)
  const [only] = paths
  if (paths.length === 1) {
    return {
      isStill: false,
      keeps,
      at(time) {
        const i = indexAt(time)
        const wanted = { x: sampleAt(way.x, i), y: sampleAt(way.y, i) }
        const ahead = { x: shot.lead * sampleAt(lead.x, i), y: shot.lead * sampleAt(lead.y, i) }
        return besideTraveller(only!.at(time), wanted, ahead, shot.shift, aimAt(time), reference)
      },
    }
  }
  const near = zoomForAll(way, paths, first, (k) => aimAt((first + k) / perSecond), reference, STEADY * perSecond)
  return {
    isStill: false,
    keeps,
    at(time) {
      const i = indexAt(time)
      const aim = aimAt(time)
      const zoom = Math.min(aim.zoom, sampleAt(near, i))
      const ahead = (shot.lead * LEAD * reference.height) / zoom
      const centre = { x: sampleAt(way.x, i) + ahead * sampleAt(lead.x, i), y: sampleAt(way.y, i) + ahead * sampleAt(lead.y, i) }
      // Room ahead and beside is given as far as there is any.
      return keptInView(shiftedView({ ...aim, centre, zoom }, shot.shift, reference), keeps.map((where) => where(time)), reference, SAFE) // prettier-ignore
    },
  }
}

/** The middle of the least box about several travellers, frame by frame. */
function middleOf(values: readonly Float64Array[]): Float64Array {
  return values.length === 1
    ? values[0]!
    : values[0]!.map((_, k) => (least(values.map((of) => of[k]!)) + greatest(values.map((of) => of[k]!))) / 2)
}

interface Track {
  x: Float64Array
  y: Float64Array
}

/** Ground units a second, as differences of the frames before and after. */
function velocityOf({ x, y }: Track, perSecond: number): Track {
  const slope = (values: Float64Array) =>
    values.map((_, k) => {
      const [a, b] = [Math.max(0, k - 1), Math.min(values.length - 1, k + 1)]
      return b > a ? ((values[b]! - values[a]!) * perSecond) / (b - a) : 0
    })
  return { x: slope(x), y: slope(y) }
}

function zoomBySpeed({ zoom, bySpeed }: ChaseShot, { x, y }: Track, reference: Size): Float64Array {
  return x.map((vx, k) => {
    const speed = (Math.hypot(vx, y[k]!) * zoom) / reference.width
    return clamp(zoom * (1 + (speed / CALM_SPEED) ** 2) ** (-bySpeed / 2), LEAST_ZOOM, GREATEST_ZOOM)
  })
}

/** The direction of travel, as long as the speed is worth: nothing at rest, 1 at full speed. */
function leadOf({ x, y }: Track, zoom: number, reference: Size, sigma: number): Track {
  const least = (LEAD_SPEED * reference.width) / zoom
  const weights = x.map((vx, k) => 1 / (Math.hypot(vx, y[k]!) + least))
  return { x: smoothed(x.map((vx, k) => vx * weights[k]!), sigma, 'still'), y: smoothed(y.map((vy, k) => vy * weights[k]!), sigma, 'still') } // prettier-ignore
}

/** Directions of travel in radians, which never jump by more than half a turn; during rests they turn evenly towards the next. */
function directionsOf({ x, y }: Track): Float64Array {
  const speeds = x.map((vx, k) => Math.hypot(vx, y[k]!))
  const most = speeds.reduce((a, b) => Math.max(a, b), 0)
  const angles = new Float64Array(x.length)
  let known = -1
  for (let k = 0; k < x.length; k++) {
    if (speeds[k]! <= SLOW * most) continue
    const angle = Math.atan2(y[k]!, x[k]!)
    angles[k] = known < 0 ? angle : angles[known]! + turnBetween(angles[known]!, angle)
    if (known < 0) angles.fill(angle, 0, k)
    else for (let i = known + 1; i < k; i++) angles[i] = angles[known]! + ((angles[k]! - angles[known]!) * (i - known)) / (k - known)
    known = k
  }
  if (known >= 0) angles.fill(angles[known]!, known + 1)
  // Never a direction: north is up.
  else angles.fill(-Math.PI / 2)
  return angles
}

/** Stays below a limit, which is approached ever more slowly, and hardly differs from the value where that is small. */
const within = (value: number, limit: number): number => value / (1 + Math.abs(value / limit) ** 6) ** (1 / 6)

/**
 * The view whose middle is at a wanted place, with room ahead, as far as the traveller stays in the safe area: the middle is moved back just enough,
 * gently enough that nothing jerks.
 */
function besideTraveller(
  traveller: Point,
  wanted: Point,
  ahead: Point,
  shift: Point,
  { bearing, pitch, zoom }: Omit<View, 'centre'>,
  reference: Size,
): View {
  const { width, height } = reference
  const direction = directionOf(bearing)
  const tilt = tiltOf(pitch, reference)
  const [offX, offY] = [(traveller.x - wanted.x) * zoom, (traveller.y - wanted.y) * zoom]
  const edge = (SAFE / 2) * height
  const far = awayOf(direction, offX, offY) - LEAD * height * awayOf(direction, ahead.x, ahead.y) - shift.y * height
  const away = within(far, far > 0 ? awayAt(tilt, edge) : -awayAt(tilt, -edge))
  const aside = rightOf(direction, offX, offY) - LEAD * width * rightOf(direction, ahead.x, ahead.y) + shift.x * width
  const right = within(aside, ((SAFE / 2) * width * (tilt.distance + away * tilt.sin)) / tilt.distance)
  const { x, y } = offsetOf(direction, right, away)
  return { centre: { x: traveller.x - x / zoom, y: traveller.y - y / zoom }, zoom, bearing, pitch }
}

/**
 * The greatest zoom that has all travellers in the safe area about a given middle, frame by frame, made even: first the least of what is asked about each
 * frame, then the mean of that, which is nowhere more than asked.
 */
function zoomForAll(
  way: Track,
  paths: readonly Path[],
  first: number,
  aim: (k: number) => Omit<View, 'centre'>,
  reference: Size,
  sigma: number,
): Float64Array {
  const asked = way.x.map((x, k) => {
    const view = { ...aim(k), centre: { x, y: way.y[k]! } }
    const points = paths.map((path) => ({ x: path.x[first + k]!, y: path.y[first + k]! }))
    return clamp(Math.min(view.zoom, zoomAbout(view, points, reference, SAFE)), LEAST_ZOOM, GREATEST_ZOOM)
  })
  return smoothed(leastWithin(asked, smoothingReach(sigma)), sigma, 'still')
}
