import { fittedView } from '../camera/fit'
import { projectionOf } from '../camera/projection'
import { smoothed } from '../camera/smoothing'
import type { View } from '../camera/view'
import { GREATEST_ZOOM } from '../camera/view'
import { SAFE } from '../camera/view-track'
import { clamp } from '../geometry/clamp'
import type { Point } from '../geometry/point'
import type { ChaseShot, Moment, Temperament } from '../journey/schema'
import type { TimedTrip } from './compile-traveller'
import { frameTime } from '../pace/rate'
import { globeView } from './globe'
import { framesPerSecond } from './paths'
import type { Scene, TimedShot } from './shots'
import { seenTrips } from './shots'
import type { Sketch, Sketched, TimedSketch } from './sketch'
import { shotOf, timed } from './sketch'
import { areInFrame, excessesOf, isPleasant } from './sketch-comfort'

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
  /** Keeps a view where the film's camera may be. */
  hold: (view: View) => View
  momentOf: (time: number) => Moment
  /** Whether it begins with the globe. */
  globe: boolean
}

/** How a temperament films. */
interface Manner {
  /** How much closer than the overview it goes. */
  closeness: number
  pitches: readonly number[]
  bearings: readonly number[]
  /** Whether the camera turns with the road. */
  turns: boolean
  lead: number
  smoothing: number
  /** Whether it begins with the whole, or at once with the first leg. */
  opens: boolean
  /** Legs whose zooms are within this factor are filmed in one; below 1 none are. */
  alike: number
  /** Legs are filmed together until that takes so many seconds. */
  least: number
  /** Degrees a second round a stop where one rests for long; 0 for none. */
  orbit: number
}

const MANNERS: Readonly<Record<Exclude<Temperament, 'steady'>, Manner>> = {
  calm: {
    closeness: 1.8,
    pitches: [18],
    bearings: [0],
    turns: false,
    lead: 0.35,
    smoothing: 1.2,
    opens: true,
    alike: 1.5,
    least: 6,
    orbit: 0,
  },
  lively: {
    closeness: 2.8,
    pitches: [48, 34, 52],
    bearings: [0, -14, 16],
    turns: true,
    lead: 0.6,
    smoothing: 0.8,
    opens: false,
    alike: 0,
    least: 3.5,
    orbit: 8,
  },
}

/** A map is magnified beyond its own pixels by no more than this. */
const MOST_MAGNIFIED = 1.25
/** What a trip that is seen as a whole leaves free at the frame's edges at the least, in shares of its sides, for names and cards. */
const ROOM = 0.06
/** A view that is hardly closer than the overview is none of its own. */
const CLOSER = 1.15
/** What is planned stays this far below the limits of comfort, looked at in steps and frame by frame. */
const MARGIN = 0.9
const FINE_MARGIN = 0.98
/** The share of the greatest pleasant speed of the picture up to which the camera closes in on a traveller. */
const PAN = 0.42
/** Seconds between two looks at how fast the camera moves. */
const STEP = 0.1
/** How long the whole is seen at the beginning and the end, in seconds, where there is time. */
const WHOLE = 0.6
/** How long the globe is seen before the camera comes down, in seconds, and by how many degrees a second it turns. */
const GLOBE_SEEN = 1.4
const GLOBE_SPIN = 10
/** Someone who rests so long is gone round, in seconds. */
const LONG_REST = 2.6
const ORBIT_ZOOM = 1.25
const TRIES = 20
/** What is left of a leg's tilt where the camera, kept on the map, would lose the traveller: first it does not turn with the road any more, then it looks straight down. */
const CALMED = [1, 0.5, 0] as const
/** A picture of as much as the map has room for follows the traveller as evenly as can be, in seconds. */
const EVEN = 2
/** No way to a shot takes longer than so many times what is usual. */
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

/** The seconds that the camera takes from one zoom to another. */
const waySeconds = (from: number, to: number): number => Math.max(1.3, 1.9 * Math.abs(Math.log2(from / to)))

/** From the globe down to a picture of the whole, as fast as is pleasant; undefined where the film is too short. */
function fromGlobe(globe: Sketch, whole: Sketch, scene: Scene, ground: PlanGround): TimedSketch[] | undefined {
  const seconds = waySeconds(globe.zoom, whole.zoom)
  for (let slowness = 1; slowness <= SLOWEST; slowness += 0.2) {
    const sketches = [timed(globe, 0, 0), timed(whole, GLOBE_SEEN, seconds * slowness)]
    if (isPleasant(excessesOf(sketches, scene, ground.hold, frameTime(1, scene.rate)), FINE_MARGIN)) return sketches
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
  for (let i = 0; i < TRIES; i++) {
    const sketches = shotsIn(manner, globe, { slowness, calmed }, trips, whole, scene, ground)
    let margin = MARGIN
    let excesses = excessesOf(sketches, scene, ground.hold, STEP)
    if (calm(sketches, excesses.lost)) continue
    if (isPleasant(excesses, margin)) {
      // What seems pleasant is looked at frame by frame.
      margin = FINE_MARGIN
      excesses = excessesOf(sketches, scene, ground.hold, frameTime(1, scene.rate))
      if (calm(sketches, excesses.lost)) continue
      if (isPleasant(excesses, margin)) return sketches
    }
    const { onWays, elsewhere } = excesses
    const tooFast = [...onWays].filter(([, { excess }]) => excess > margin)
    // First the ways on which it is too fast take longer; then it turns less, then it keeps more distance.
    const slower = tooFast.filter(([way]) => (slowness.get(way) ?? 1) < SLOWEST)
    for (const [way, { excess }] of slower) slowness.set(way, (slowness.get(way) ?? 1) * clamp(excess / margin + 0.02, 1.1, 1.5))
    if (slower.length > 0 && elsewhere.excess <= margin) continue
    const worst = [...onWays.values(), elsewhere].reduce((a, b) => (b.excess > a.excess ? b : a))
    if (worst.kind === 'turn' && (manner.turns || manner.orbit !== 0)) manner = { ...manner, turns: false, orbit: 0 }
    else manner = { ...manner, closeness: 1 + (manner.closeness - 1) * 0.7, pitches: manner.pitches.map((pitch) => pitch * 0.85) }
  }
  return undefined
}

const isTilted = ({ shot }: Sketch): boolean =>
  shot.kind === 'chase' && (shot.pitch !== 0 || shot.bearing !== 0 || shot.turns || !!shot.orbit)

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
 * that has room for, one that is as wide as can be and follows the travellers.
 */
function overview(points: readonly Point[], scene: Scene, { onMap, hold }: PlanGround): (key: string) => Sketch {
  const { reference, opening } = scene
  const plain = fittedView(points, { bearing: 0, pitch: 0 }, reference, SAFE, opening.zoom)
  const held = onMap(plain)
  const { toScreen } = projectionOf(held, reference)
  const [x, y] = [ROOM * reference.width, ROOM * reference.height]
  const hasRoom = points.every((p) => {
    const seen = toScreen(p)
    return seen.x >= x && seen.y >= y && seen.x <= reference.width - x && seen.y <= reference.height - y
  })
  const shift = toScreen(plain.centre)
  const aim = !hasRoom
    ? { fill: 1, shift: { x: 0, y: 0 } }
    : {
        fill: held.zoom / plain.zoom,
        shift: { x: clamp(shift.x / reference.width - 0.5, -0.5, 0.5), y: clamp(shift.y / reference.height - 0.5, -0.5, 0.5) },
      }
  const seen = hold(plain)
  if (
    !hasRoom &&
    !areInFrame(
      points.map((p) => () => p),
      0,
      seen,
      reference,
    )
  ) {
    const follow = { bearing: 0, pitch: 0, shift: { x: 0, y: 0 }, bySpeed: 0, lead: 0, smoothing: EVEN, turns: false }
    return (key) => ({ key, shot: { kind: 'chase', travellers: [], zoom: seen.zoom, ...follow }, zoom: seen.zoom, isWhole: true })
  }
  return (key) => ({ key, shot: { kind: 'overview', bearing: 0, pitch: 0, ...aim }, zoom: hasRoom ? held.zoom : plain.zoom, isWhole: true })
}

/** A part of the film that one shot may follow: a leg, or all that several travellers do. */
interface Part {
  key: string
  from: number
  to: number
  zoom: number
}

function shotsIn(
  manner: Manner,
  globe: Sketch | undefined,
  { slowness, calmed }: { slowness: ReadonlyMap<string, number>; calmed: ReadonlyMap<string, number> },
  trips: readonly TimedTrip[],
  whole: (key: string) => Sketch,
  scene: Scene,
  ground: PlanGround,
): TimedSketch[] {
  const opening = whole('opening')
  const parts = joined(partsOf(trips, opening.zoom, manner, scene, ground), manner, opening.zoom)
  const seconds = (a: Sketch, b: Sketch) => (slowness.get(b.key) ?? 1) * waySeconds(a.zoom, b.zoom)
  const shots: TimedSketch[] = []
  /** Puts a shot about a moment, so that a share of its transition is before it, and that before it is over; the first one is there at once. */
  const follow = (sketch: Sketch, moment: number, before: number, latest = Infinity) => {
    const last = shots.at(-1)
    if (!last) return void shots.push(timed(sketch, 0, 0))
    const takes = seconds(last, sketch)
    const soonest =
      shots.length > 1 || (last.shot.kind === 'chase' && !last.isWhole)
        ? last.time + last.transition
        : last.shot.kind === 'globe'
          ? GLOBE_SEEN
          : WHOLE
    shots.push(timed(sketch, Math.max(soonest, Math.min(moment - before * takes, latest - takes)), takes))
  }
  if (globe) follow(globe, 0, 0)
  else if (manner.opens) follow(opening, 0, 0)
  parts.forEach((part, i) => {
    const isWide = part.zoom < CLOSER * opening.zoom
    const sketch = isWide ? whole(`wide-${part.key}`) : chase(part, i, manner, calmed)
    const before = parts[i - 1]
    if (!isWide || !shots.at(-1)?.isWhole) follow(sketch, before ? (before.to + part.from) / 2 : part.from, i === 0 ? 0.7 : 0.5)
    const rest = (parts[i + 1]?.from ?? 0) - part.to
    if (trips.length === 1 && manner.orbit !== 0 && !isWide && rest >= LONG_REST) follow(round(part, i, manner, calmed), part.to, 0.3)
  })
  if (!shots.at(-1)!.isWhole) follow(whole('end'), parts.at(-1)!.to, 0.35, scene.lastTime - WHOLE)
  return shots
}

const chase = (part: Part, i: number, manner: Manner, calmed: ReadonlyMap<string, number>): Sketch => ({
  key: part.key,
  zoom: part.zoom,
  shot: calmer(chaseOf(part, i, manner), calmed.get(part.key)),
})

function calmer(shot: Sketched<ChaseShot>, times = 0): Sketched<ChaseShot> {
  const left = CALMED[Math.min(times, CALMED.length - 1)]!
  return times === 0 ? shot : { ...shot, turns: false, orbit: 0, pitch: shot.pitch * left, bearing: shot.bearing * left }
}

function chaseOf({ zoom }: Part, i: number, { pitches, bearings, turns, lead, smoothing }: Manner): Sketched<ChaseShot> {
  return {
    kind: 'chase',
    travellers: [],
    zoom,
    bySpeed: 0,
    lead,
    smoothing,
    turns,
    bearing: bearings[i % bearings.length]!,
    pitch: pitches[i % pitches.length]!,
    shift: { x: 0, y: 0 },
  }
}

/** Round the stop at which a part ends. It stays with the traveller, who rests there, so that whenever it moves on nothing is lost. */
function round(part: Part, i: number, manner: Manner, calmed: ReadonlyMap<string, number>): Sketch {
  const key = `rest-${part.key}`
  const zoom = part.zoom * ORBIT_ZOOM
  const bearing = manner.bearings[(i + 1) % manner.bearings.length]!
  const shot = { ...chaseOf(part, i, manner), zoom, bearing, orbit: i % 2 === 0 ? manner.orbit : -manner.orbit }
  return { key, zoom, shot: calmer(shot, calmed.get(key)) }
}

/** The legs of one traveller, or the time in which several are on their way; each with how close one can pleasantly be. */
function partsOf(
  trips: readonly TimedTrip[],
  whole: number,
  { closeness, smoothing }: Manner,
  scene: Scene,
  { sharpZoom }: PlanGround,
): Part[] {
  const perSecond = framesPerSecond(scene.rate)
  const speeds = trips.map((trip) => {
    const { x, y } = scene.pathOf(trip)
    const [sx, sy] = [smoothed(x, smoothing * perSecond, 'on'), smoothed(y, smoothing * perSecond, 'on')]
    return sx.map((at, k) => (k > 0 ? Math.hypot(at - sx[k - 1]!, sy[k]! - sy[k - 1]!) * perSecond : 0))
  })
  const zoomFor = (from: number, to: number) => {
    const [a, b] = [Math.floor(from * perSecond), Math.ceil(to * perSecond)]
    const fastest = Math.max(1e-9, ...speeds.map((of) => of.subarray(a, b + 1).reduce((most, speed) => Math.max(most, speed), 0)))
    return Math.min(
      GREATEST_ZOOM / ORBIT_ZOOM,
      closeness * whole,
      Math.max(whole, MOST_MAGNIFIED * sharpZoom),
      (PAN * scene.reference.width) / fastest,
    )
  }
  const [only] = trips
  if (trips.length === 1)
    return only!.legs.map(({ leg, depart, arrive }) => ({ key: leg.id, from: depart, to: arrive, zoom: zoomFor(depart, arrive) }))
  const legs = trips.flatMap((trip) => trip.legs)
  const [from, to] = [Math.min(...legs.map(({ depart }) => depart)), Math.max(...legs.map(({ arrive }) => arrive))]
  return [{ key: 'all', from, to, zoom: zoomFor(from, to) }]
}

/** Parts one after the other that are short, or are filmed from about as near, become one, from the farthest of them. */
function joined(parts: readonly Part[], { alike, least }: Manner, whole: number): Part[] {
  const list: Part[] = []
  for (const part of parts) {
    const last = list.at(-1)
    const both = last && Math.min(last.zoom, part.zoom)
    const areWide = last && Math.max(last.zoom, part.zoom) < CLOSER * whole
    const isShort = last && last.to - last.from < least
    if (last && both && (areWide || isShort || Math.max(last.zoom, part.zoom) <= alike * both))
      list[list.length - 1] = { ...last, to: part.to, zoom: both }
    else list.push(part)
  }
  return list
}
