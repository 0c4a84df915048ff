import type { RateKind } from '../camera/comfort'
import { fittedView } from '../camera/fit'
import { projectionOf } from '../camera/projection'
import type { View } from '../camera/view'
import type { ViewTrack } from '../camera/view-track'
import { SAFE } from '../camera/view-track'
import { clamp } from '../geometry/clamp'
import type { Point } from '../geometry/point'
import type { Moment } from '../journey/schema'
import { LEAST_FILL } from '../journey/schema'
import type { Temperament } from '../camera/temperament'
import { LIMITS } from '../camera/temperament'
import type { TimedTrip } from '../trips/compile-traveller'
import { frameTime } from '../pace/rate'
import { globeView } from './globe'
import type { Manner, Sketch, TimedSketch } from './manner'
import { GLOBE_SEEN, isTilted, MANNERS, MOST_MAGNIFIED, shotOf, shotsIn, timed, waySeconds } from './manner'
import { outOfFrame } from './out-of-frame'
import type { Scene, TimedShot } from './shots'
import { seenTrips } from './shots'
import { excessesOf, isPleasant } from './sketch-comfort'

/**
 * The camera that needs no setting up: shots for any journey, by temperament. It is made anew whenever the journey changes, so its shots have names that
 * stay: what is set by hand takes the place of the shot of the same name.
 */

/** What the planner must know beside the scene. */
export interface PlanGround {
  /** The greatest zoom at which the map is sharp; Infinity where it always is. */
  sharpZoom: number
  /** Keeps a view on the map, whether or not the film does. */
  onMap: (view: View) => View
  /** Keeps a view where the film's camera may be; null where that is anywhere. */
  hold: ViewTrack['hold']
  momentOf: (time: number) => Moment
  /** Whether it begins with the globe. */
  globe: boolean
}

/** What a trip that is seen as a whole leaves free at the frame's edges at the least, in shares of its sides: room for a pin and the name beside it. */
const ROOM = 0.06
/** Seconds between two looks at how fast the camera moves: a tenth of the work of looking at each frame. */
const STEP = 0.1
/** In long films it is looked at no more often: so many times while a plan is looked for, and so many times at the end. */
const MOST_LOOKS = { rough: 900, fine: 3600 }
/** What is planned stays this far below the limits of comfort: looked at in steps, as the worst may lie between two; and frame by frame, for what rounding does. */
const MARGIN = 0.9
const FINE_MARGIN = 0.98
/** By how many degrees a second the globe turns at the beginning: some fifteen while it is seen, so that it is noticed. */
const GLOBE_SPIN = 10
/**
 * How often a plan is bettered before there is none. Each time something becomes calmer for good: a way longer, no more turning, more distance, less tilt. Of
 * the random trips of tests/core/shots.test.ts half need it, and none that becomes pleasant at all more than 13 times.
 */
const TRIES = 20
/** A picture of as much as the map has room for follows the traveller as evenly as can be, in seconds. */
const EVEN = 2
/** No way to a shot takes longer than so many times what is usual: a slower one seems not to move. */
const SLOWEST = 2.2

/** The shots of a plan; none where nobody goes anywhere. Where there is no time to come down from the globe it does without that. */
export function plannedShots(temperament: Temperament, scene: Scene, ground: PlanGround): TimedShot[] {
  const trips = seenTrips(scene)
  const points = scene.route
  if (!trips.some(({ legs }) => legs.length > 0) || points.every(({ x, y }) => x === points[0]!.x && y === points[0]!.y)) return []
  const whole = overview(points, scene, ground)
  const globe = ground.globe ? globeOpening(scene) : undefined
  const steady = [timed(whole('opening'), 0, 0)]
  if (temperament === 'steady') return named((globe && fromGlobe(globe, whole('opening'), scene, ground)) ?? steady, ground)
  const found = plannedIn(MANNERS[temperament], globe, trips, whole, scene, ground)
  const plain = found ?? (globe && plannedIn(MANNERS[temperament], undefined, trips, whole, scene, ground))
  return named(plain ?? steady, ground)
}

/** The globe with the trip in front; undefined where the map does not know where it lies. */
function globeOpening({ globe, route, reference, opening }: Scene): Sketch | undefined {
  const { centre } = fittedView(route, { bearing: 0, pitch: 0 }, reference, SAFE, opening.zoom)
  const shot = { kind: 'globe', bearing: 0, pitch: 0, shift: { x: 0, y: 0 }, fill: 1, stop: null, spin: GLOBE_SPIN } as const
  const view = globe && globeView(globe, shot, centre, reference)
  return view && { key: 'globe', shot, zoom: view.zoom }
}

/** From the globe down to a picture of the whole, as fast as is pleasant; undefined where the film is too short. */
function fromGlobe(globe: Sketch, whole: Sketch, scene: Scene, ground: PlanGround): TimedSketch[] | undefined {
  const seconds = waySeconds(globe.zoom, whole.zoom, LIMITS.steady)
  for (let slowness = 1; slowness <= SLOWEST; slowness += 0.2) {
    const sketches = [timed(globe, 0, 0), timed(whole, GLOBE_SEEN, seconds * slowness)]
    if (isPleasant(excessesOf(sketches, scene, ground.hold, LIMITS.steady, fineStep(scene)), FINE_MARGIN)) return sketches
  }
  return undefined
}

/** The shots of a manner, changed until they are pleasant to watch; undefined where that cannot be. @param globe with which they begin */
function plannedIn(
  first: Manner,
  globe: Sketch | undefined,
  trips: readonly TimedTrip[],
  whole: (key: string) => Sketch,
  scene: Scene,
  ground: PlanGround,
): TimedSketch[] | undefined {
  let manner = first
  /** How often each leg was made calmer, as the traveller was lost on it. */
  const calmed = new Map<string, number>()
  /** Makes the shots calmer in which a traveller is lost. @returns whether any can be */
  const calm = (sketches: readonly Sketch[], lost: ReadonlySet<string>): boolean => {
    const tilted = sketches.filter((sketch) => lost.has(sketch.key) && isTilted(sketch))
    for (const { key } of tilted) calmed.set(key, (calmed.get(key) ?? 0) + 1)
    return tilted.length > 0
  }
  /** By how much longer the way to a shot takes than usual. */
  const slowness = new Map<string, number>()
  /** What was worst when that was last known. */
  let kind: RateKind | undefined
  for (let i = 0; i < TRIES; i++) {
    const sketches = shotsIn(manner, globe, { slowness, calmed }, trips, whole, scene, ground.sharpZoom)
    let margin = MARGIN
    let excesses = excessesOf(sketches, scene, ground.hold, manner.limits, Math.max(STEP, scene.lastTime / MOST_LOOKS.rough))
    if (calm(sketches, excesses.lost)) continue
    if (isPleasant(excesses, margin)) {
      // What seems pleasant is looked at frame by frame.
      margin = FINE_MARGIN
      excesses = excessesOf(sketches, scene, ground.hold, manner.limits, fineStep(scene))
      if (calm(sketches, excesses.lost)) continue
      if (isPleasant(excesses, margin)) return sketches
    }
    const { onWays, elsewhere } = excesses
    const hasNoTime = elsewhere.excess === Infinity
    if (!hasNoTime) kind = [...onWays.values(), elsewhere].reduce((a, b) => (b.excess > a.excess ? b : a)).kind
    const tooFast = [...onWays].filter(([, { excess }]) => excess > margin)
    // First the ways on which it is too fast take longer; then it turns less, then it keeps more distance.
    const slower = tooFast.filter(([way]) => (slowness.get(way) ?? 1) < SLOWEST)
    for (const [way, { excess }] of slower) slowness.set(way, (slowness.get(way) ?? 1) * clamp(excess / margin + 0.02, 1.1, 1.5))
    if (slower.length > 0 && elsewhere.excess <= margin) continue
    // Ways that took longer and longer until there was no time left begin anew, without what they took it for.
    if (hasNoTime) slowness.clear()
    if (kind === 'turn' && (manner.turns || manner.orbit !== 0)) manner = { ...manner, turns: false, orbit: 0 }
    else manner = { ...manner, closeness: 1 + (manner.closeness - 1) * 0.7, pitches: manner.pitches.map((pitch) => pitch * 0.85) }
  }
  return undefined
}

/** Seconds between two frames that are looked at. */
const fineStep = ({ rate, lastTime }: Scene): number => Math.max(frameTime(1, rate), lastTime / MOST_LOOKS.fine)

/** Ids of at most forty letters; legs whose own ids are too long are told apart by numbers. */
function named(sketches: readonly TimedSketch[], { momentOf }: Pick<PlanGround, 'momentOf'>): TimedShot[] {
  const taken = new Set<string>()
  return sketches.map((sketch) => {
    const { key } = sketch
    let id = `plan-${key}`.slice(0, 40)
    for (let i = 2; taken.has(id); i++) id = `${`plan-${key}`.slice(0, 36)}-${i}`
    taken.add(id)
    return { time: sketch.time, shot: shotOf(sketch, id, momentOf(sketch.time)) }
  })
}

/**
 * The view of the whole, so that it also lies on the map if the trip still has room in the frame. Where the camera is kept on the map, and the whole is more than
 * that has room for, one that is as wide as can be and follows the travellers. A short trip does not fill the frame where the map would be soft.
 */
function overview(points: readonly Point[], scene: Scene, { onMap, hold, sharpZoom }: PlanGround): (key: string) => Sketch {
  const { reference, opening } = scene
  const fit = fittedView(points, { bearing: 0, pitch: 0 }, reference, SAFE, opening.zoom)
  const plain = { ...fit, zoom: Math.min(fit.zoom, Math.max(MOST_MAGNIFIED * sharpZoom, LEAST_FILL * fit.zoom)) }
  const held = onMap(plain)
  const fillAt = (zoom: number) => Math.max(LEAST_FILL, zoom / fit.zoom)
  const { toScreen } = projectionOf(held, reference)
  const [x, y] = [ROOM * reference.width, ROOM * reference.height]
  const hasRoom = points.every((p) => {
    const seen = toScreen(p)
    return seen.x >= x && seen.y >= y && seen.x <= reference.width - x && seen.y <= reference.height - y
  })
  const shift = toScreen(plain.centre)
  const aim = !hasRoom
    ? { fill: fillAt(plain.zoom), shift: { x: 0, y: 0 } }
    : {
        fill: fillAt(held.zoom),
        shift: { x: clamp(shift.x / reference.width - 0.5, -0.5, 0.5), y: clamp(shift.y / reference.height - 0.5, -0.5, 0.5) },
      }
  const seen = hold?.(plain) ?? plain
  const route = points.map((p) => () => p)
  if (!hasRoom && outOfFrame(route, 0, seen, reference) > 0) {
    const follow = { bearing: 0, pitch: 0, shift: { x: 0, y: 0 }, bySpeed: 0, lead: 0, smoothing: EVEN, turns: false }
    return (key) => ({ key, shot: { kind: 'chase', travellers: [], zoom: seen.zoom, ...follow }, zoom: seen.zoom, isWhole: true })
  }
  return (key) => ({ key, shot: { kind: 'overview', bearing: 0, pitch: 0, ...aim }, zoom: hasRoom ? held.zoom : plain.zoom, isWhole: true })
}
