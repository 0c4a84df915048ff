import { remembered } from '../remembered'
import { fittedView, zoomAbout } from '../camera/fit'
import type { Globe } from '../camera/globe'
import { shiftedView } from '../camera/projection'
import type { View } from '../camera/view'
import { GREATEST_ZOOM, LEAST_ZOOM } from '../camera/view'
import type { Look, PlacedShot } from '../camera/view-track'
import { SAFE } from '../camera/view-track'
import { wrapDegrees } from '../geometry/angle'
import { clamp } from '../geometry/clamp'
import type { Course } from '../geometry/course'
import { convexHull } from '../geometry/hull'
import type { Point } from '../geometry/point'
import type { Size } from '../geometry/size'
import type { AimedShot, Shot, ShotOf } from '../journey/schema'
import { cubicBezier, NAMED_CURVES } from '../pace/easing'
import type { FrameRate } from '../pace/rate'
import { chaseLook } from './chase'
import type { TimedTrip } from '../trips/compile-traveller'
import type { Path } from '../trips/travelled-path'
import { globeView, spinAt } from './globe'
import { framesPerSecond } from '../pace/rate'
import { pathOf } from '../trips/travelled-path'
import type { Motions } from './shot-motion'
import { motionsOf } from './shot-motion'

/** What shots are made of: the trips with their times, and the frame. */
export interface Scene {
  trips: readonly TimedTrip[]
  /** Points that say how far the trips reach that are seen; found when they are first asked for. */
  readonly route: readonly Point[]
  opening: View
  lastTime: number
  frames: number
  rate: FrameRate
  reference: Size
  /** The Earth, where the map knows where it lies. */
  globe: Globe | undefined
  /** The path of a trip, which is made once. */
  pathOf(trip: TimedTrip): Path
}

export function sceneOf(scene: Omit<Scene, 'pathOf' | 'route'>): Scene {
  const known = new Map<TimedTrip, Path>()
  let route: Point[] | undefined
  return {
    ...scene,
    get route() {
      return (route ??= routePoints(seenTrips(scene)))
    },
    pathOf(trip) {
      const path = known.get(trip) ?? pathOf(trip, scene.frames, scene.rate)
      known.set(trip, path)
      return path
    },
  }
}

/** A shot and when the camera leaves for it, in seconds. */
export interface TimedShot {
  shot: Shot
  time: number
}

/** Makes shots ready to be looked through. Each one's motion lasts until the camera has arrived at the next. */
export function placeShots(timed: readonly TimedShot[], scene: Scene): PlacedShot[] {
  const ordered = [...timed].sort((a, b) => a.time - b.time)
  return ordered.map(({ shot, time }, i) => {
    const next = ordered[i + 1]
    const until = Math.max(time, Math.min(scene.lastTime, next ? next.time + next.shot.transition : Infinity))
    const [x1, y1, x2, y2] = NAMED_CURVES[shot.easing]
    return {
      start: time,
      end: time + shot.transition,
      progress: cubicBezier(x1, y1, x2, y2),
      passes: shot.kind === 'free' && shot.passes,
      look: lookOf(shot, { from: time, to: until, leave: next?.time ?? scene.lastTime, isFirst: i === 0 || shot.transition === 0 }, scene),
    }
  })
}

/** When a shot begins, when the camera leaves it and when it has arrived at the next, in seconds; and whether it comes to it from nowhere. */
interface Take {
  from: number
  leave: number
  to: number
  isFirst: boolean
}

function lookOf(shot: Shot, take: Take, scene: Scene): Look {
  const { reference, trips } = scene
  const { from, to } = take
  const motions = motionsOf(shot, shot.kind === 'free' ? shot.view : shot, from, to)
  const isStill = shot.orbit === 0 && shot.dolly === null
  switch (shot.kind) {
    case 'free':
      return isStill ? still(shot.view) : moving(shot.view, motions)
    case 'close-up': {
      const stop = trips.flatMap(({ visits }) => visits).find(({ stop: { id } }) => id === shot.stop)?.stop
      const view = shiftedView({ ...aimOf(shot), centre: stop?.at ?? scene.opening.centre, zoom: shot.zoom }, shot.shift, reference)
      return isStill ? still(view) : moving(view, motions)
    }
    case 'leg': {
      const leg = trips.flatMap(({ legs }) => legs).find((entry) => entry.leg.id === shot.leg)
      return framing(shot, leg ? hullOf(leg.course) : [], motions, { from, to }, scene, [])
    }
    case 'overview':
      return framing(shot, scene.route, motions, { from, to }, scene, seenTrips(scene).map((trip) => scene.pathOf(trip).at)) // prettier-ignore
    case 'globe':
      return globeLook(shot, take, motions, scene) ?? framing(shot, scene.route, motions, { from, to }, scene, [])
    case 'chase': {
      const asked = trips.filter(({ traveller, visits }) => shot.travellers.includes(traveller.id) && visits.length > 0)
      const followed = asked.length > 0 ? asked : seenTrips(scene)
      if (followed.length === 0) return still(scene.opening)
      const reel = { from, to, perSecond: framesPerSecond(scene.rate) }
      return chaseLook(shot, followed.map(scene.pathOf), reel, motions, reference)
    }
    default:
      return shot satisfies never
  }
}

/** The trips that are seen in the film; a camera has nothing to look at where nobody goes anywhere. */
export const seenTrips = ({ trips }: Pick<Scene, 'trips'>): TimedTrip[] =>
  trips.filter(({ traveller, visits }) => traveller.shown && visits.length > 0)

/** The convex hull of a course, which says how far it reaches from wherever it is looked at; found once for each. */
const hullOf = remembered((course: Course): readonly Point[] => convexHull(course.points))

/** Points that say how far trips reach. */
const routePoints = (trips: readonly TimedTrip[]): Point[] =>
  trips.flatMap(({ visits, legs }) => [...visits.map(({ stop }) => stop.at), ...legs.flatMap(({ course }) => hullOf(course))])

const still = (view: View): Look => ({ at: () => view, isStill: true, keeps: [] })

const aimOf = ({ bearing, pitch }: AimedShot) => ({ bearing, pitch })

/** A camera that goes round its middle, or towards it or away. */
const moving = (view: View, motions: Motions): Look => ({
  isStill: false,
  keeps: [],
  at(time) {
    const { bearing, pitch, zoomBy } = motions(time)
    return { ...view, bearing: wrapDegrees(bearing), pitch, zoom: clamp(view.zoom * zoomBy, LEAST_ZOOM, GREATEST_ZOOM) }
  },
})

/** The Earth as a globe; undefined where the map does not know where it lies. */
function globeLook(shot: ShotOf<'globe'>, { from, leave, isFirst }: Take, motions: Motions, scene: Scene): Look | undefined {
  const { globe, reference, opening, route } = scene
  const stop = scene.trips.flatMap(({ visits }) => visits).find(({ stop: { id } }) => id === shot.stop)?.stop
  const centre = stop?.at ?? (route.length > 0 ? fittedView(route, shot, reference, SAFE, opening.zoom).centre : opening.centre)
  const straight = globe && globeView(globe, shot, centre, reference)
  if (!straight) return undefined
  const view = globeView(globe, shot, shiftedView(straight, shot.shift, reference).centre, reference) ?? straight
  const isStill = shot.orbit === 0 && shot.dolly === null
  if (isStill && shot.spin === 0) return still(view)
  const moved = isStill ? still(view) : moving(view, motions)
  const turns = { arrive: from + shot.transition, leave, isFirst }
  return { isStill: false, keeps: [], at: (time) => ({ ...moved.at(time), bend: { globe, share: 1, spin: spinAt(shot, time, turns) } }) }
}

/** A camera that goes round something looks how much room that needs at least so many times, and whenever it has gone so many degrees further. */
const LEAST_LOOKS = 36
const LOOK_EVERY = 4

/** A camera that has something wholly in the frame, from all sides from which it looks at it. */
function framing(
  shot: AimedShot & { fill: number },
  points: readonly Point[],
  motions: Motions,
  { from, to }: { from: number; to: number },
  { opening, reference }: Scene,
  keeps: Look['keeps'],
): Look {
  if (points.length === 0) return still(opening)
  const filled = shot.fill <= 1 && shot.shift.x === 0 && shot.shift.y === 0 ? keeps : []
  const whole = (view: View): View =>
    shiftedView({ ...view, zoom: clamp(view.zoom * shot.fill, LEAST_ZOOM, GREATEST_ZOOM) }, shot.shift, reference)
  if (shot.orbit === 0 && shot.dolly === null)
    return { ...still(whole(fittedView(points, shot, reference, SAFE, opening.zoom))), keeps: filled }
  const middle = motions((from + to) / 2)
  const fit = fittedView(points, middle, reference, SAFE, opening.zoom)
  let { zoom } = fit
  const looks = Math.max(LEAST_LOOKS, Math.ceil((Math.abs(shot.orbit) * (to - from)) / LOOK_EVERY))
  for (let i = 0; i <= looks; i++) {
    const { bearing, pitch, zoomBy } = motions(from + ((to - from) * i) / looks)
    zoom = Math.min(zoom, zoomAbout({ centre: fit.centre, bearing, pitch }, points, reference, SAFE) / zoomBy)
  }
  return { ...moving(whole({ ...fit, zoom }), motions), keeps: filled }
}
