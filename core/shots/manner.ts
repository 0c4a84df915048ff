import { greatest, least } from '../geometry/extremes'
import { GREATEST_ZOOM } from '../camera/view'
import { smoothed } from '../camera/smoothing'
import type { Rates } from '../camera/comfort'
import { COMFORT } from '../camera/comfort'
import type { Temperament } from '../camera/temperament'
import { LIMITS } from '../camera/temperament'
import type { ChaseShot, Moment, Shot, ShotOf } from '../journey/schema'
import type { TimedTrip } from '../trips/compile-traveller'
import { framesPerSecond } from '../pace/rate'
import type { Scene } from './shots'

/** The shots that a temperament would take of a journey, before it is known whether they are pleasant to watch. */

/** A shot without a moment; it gets one when all is known. */
export interface Sketch {
  key: string
  shot: Sketched<ShotOf<'overview'>> | Sketched<ShotOf<'globe'>> | Sketched<ChaseShot>
  zoom: number
  /** Whether it shows the whole, or as much of it as the map has room for. */
  isWhole?: true
}

/** What of a shot is not the same for all. */
type Sketched<S extends Shot> = Omit<S, 'id' | 'at' | 'transition' | 'easing' | 'orbit' | 'dolly'> & { orbit?: number }

export interface TimedSketch extends Sketch {
  time: number
  transition: number
}

export const timed = (sketch: Sketch, time: number, transition: number): TimedSketch => ({ ...sketch, time, transition })

/** A sketch as a shot of the document. */
export function shotOf({ shot, transition }: TimedSketch, id: string, at: Moment): Shot {
  const common = { id, at, transition: Math.round(transition * 1000) / 1000, easing: 'ease-in-out', orbit: 0, dolly: null } as const
  return { ...common, ...shot }
}

/** How a temperament films. */
export interface Manner {
  /** How fast the picture may move. */
  limits: Rates
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

export const MANNERS: Readonly<Record<Exclude<Temperament, 'steady'>, Manner>> = {
  calm: {
    limits: LIMITS.calm,
    closeness: 1.8,
    pitches: [14],
    bearings: [0],
    turns: false,
    lead: 0.35,
    smoothing: 2.4,
    opens: true,
    alike: 1.5,
    least: 6,
    orbit: 0,
  },
  lively: {
    limits: LIMITS.lively,
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

/** A map is magnified beyond its own pixels by no more than this: there it begins to look soft (by eye). */
export const MOST_MAGNIFIED = 1.24
/** A view that is hardly closer than the overview is none of its own: the move to it would be seen, and show nothing new. */
const CLOSER = 1.15
/**
 * How fast the picture moves where the camera is as close to a traveller as it goes, as a share of how fast it may: the ways to and from the shot come on top
 * of it.
 */
const PAN = 0.7
/** How long the whole is seen at the beginning and the end, in seconds, where there is time: long enough to be taken in, by eye. */
const WHOLE = 0.6
/** Someone who rests so long is gone round, in seconds: in less, the camera would hardly be there before it leaves. */
const LONG_REST = 2.6
/** How much closer it goes for that. */
const ORBIT_ZOOM = 1.25
/** What is left of a leg's tilt where the camera, kept on the map, would lose the traveller: first it does not turn with the road any more, then it looks straight down. */
const CALMED = [1, 0.5, 0] as const
/** How long the globe is seen before the camera comes down, in seconds: as WHOLE, and for its turning to be seen. */
export const GLOBE_SEEN = 1.4

/** How many times its mean rate the zoom changes in the middle of a way that begins and ends gently (measured over the plans of many trips). */
const PEAK = 2.1
/** The seconds of a way in which the zoom stays, for each frame width a second that the picture may move (by eye). */
const MOVE = 0.65

/** The seconds that the camera takes from one zoom to another: as many as the doublings of the zoom need, and enough for a move between places where it stays. */
export const waySeconds = (from: number, to: number, { pan, zoom }: Rates): number =>
  Math.max(MOVE / pan, (PEAK / zoom) * Math.abs(Math.log2(from / to)))

/** What was changed of what a manner would do: how many times as long the ways to shots take, and how often shots were made calmer, by their keys. */
export interface Changes {
  slowness: ReadonlyMap<string, number>
  calmed: ReadonlyMap<string, number>
}

/** Whether a shot can be made calmer. */
export const isTilted = ({ shot }: Sketch): boolean =>
  shot.kind === 'chase' && (shot.pitch !== 0 || shot.bearing !== 0 || shot.turns || !!shot.orbit)

/** A part of the film that one shot may follow: a leg, or all that several travellers do. */
interface Part {
  key: string
  from: number
  to: number
  zoom: number
}

/** The shots of a manner, one after the other. @param whole gives the picture of the whole, by a key */
export function shotsIn(
  manner: Manner,
  globe: Sketch | undefined,
  { slowness, calmed }: Changes,
  trips: readonly TimedTrip[],
  whole: (key: string) => Sketch,
  scene: Scene,
  sharpZoom: number,
): TimedSketch[] {
  const opening = whole('opening')
  const parts = joined(partsOf(trips, opening.zoom, manner, scene, sharpZoom), manner, opening.zoom)
  const seconds = (a: Sketch, b: Sketch) =>
    (slowness.get(b.key) ?? 1) * waySeconds(a.zoom, b.zoom, a.shot.kind === 'globe' ? COMFORT : manner.limits)
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
  { closeness, smoothing, limits }: Manner,
  scene: Scene,
  sharpZoom: number,
): Part[] {
  const perSecond = framesPerSecond(scene.rate)
  const speeds = trips.map((trip) => {
    const { x, y } = scene.pathOf(trip)
    const [sx, sy] = [smoothed(x, smoothing * perSecond, 'on'), smoothed(y, smoothing * perSecond, 'on')]
    return sx.map((at, k) => (k > 0 ? Math.hypot(at - sx[k - 1]!, sy[k]! - sy[k - 1]!) * perSecond : 0))
  })
  const zoomFor = (from: number, to: number) => {
    const [a, b] = [Math.floor(from * perSecond), Math.ceil(to * perSecond)]
    const fastest = Math.max(1e-9, greatest(speeds.map((of) => greatest(of.subarray(a, b + 1)))))
    return Math.min(
      GREATEST_ZOOM / ORBIT_ZOOM,
      closeness * whole,
      Math.max(whole, MOST_MAGNIFIED * sharpZoom),
      (PAN * limits.pan * scene.reference.width) / fastest,
    )
  }
  const [only] = trips
  if (trips.length === 1)
    return only!.legs.map(({ leg, depart, arrive }) => ({ key: leg.id, from: depart, to: arrive, zoom: zoomFor(depart, arrive) }))
  const legs = trips.flatMap((trip) => trip.legs)
  const [from, to] = [least(legs.map(({ depart }) => depart)), greatest(legs.map(({ arrive }) => arrive))]
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
