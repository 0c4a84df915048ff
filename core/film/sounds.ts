import { clamp } from '../geometry/clamp'
import type { CompiledJourney, CompiledLeg, CompiledTraveller, Ride } from '../trips/compiled'
import { lengthAt } from '../trips/compiled'
import { pinStart } from '../marks/pins'
import type { SoundKind } from '../journey/schema'
import { smooth } from '../pace/easing'
import type { Voice } from '../vehicles/artwork'
import { voiceOf } from '../dress/vehicle'
import { SOUND_RATE } from '../sound/pcm'
import type { Sound } from '../sound/synth'
import { bell, engineAt, joint, oar, pop, samplesIn, whoosh } from '../sound/synth'

/** The sounds that a film makes: of pins that appear and of vehicles that travel. The same film makes the same sounds, from whichever moment one listens. */

/** A sound at a moment of the film, in seconds. */
interface Event {
  at: number
  sound: Sound
  kind: SoundKind
  loudness: number
}

/** A sound that lasts as long as a vehicle travels. */
interface Drone {
  from: number
  to: number
  kind: SoundKind
  /** The turns of the engine up to a moment, from the start, and how hard it works. */
  turns: Float64Array
  loud: Float64Array
}

export interface FilmSounds {
  events: readonly Event[]
  drones: readonly Drone[]
}

/** What is heard at most at once stays below this: three sounds at full level do not clip. */
const HEADROOM = 0.35

/** Speeds of a drone are known so many times a second. */
const LOOKS = 50

/** The sounds that are asked for; empty where all levels are 0. */
export function soundsOf(compiled: CompiledJourney): FilmSounds {
  const { journey, marks, lastTime, travellers } = compiled
  const events: Event[] = []
  const drones: Drone[] = []
  const levels = journey.sounds
  const add = (kind: SoundKind, at: number, sound: Sound, loudness = 1) => {
    if (levels[kind] > 0 && at >= 0 && at <= lastTime) events.push({ at, sound, kind, loudness: loudness * levels[kind] })
  }
  for (const { stop, arrive, isStop } of marks)
    if (isStop && stop.pin.shape !== 'none') add('pin', pinStart(arrive, stop.pin, lastTime) + 0.05, pop)
  for (const trip of travellers.filter(({ traveller }) => traveller.shown)) {
    for (const { leg, ride, from, to } of ridesOf(trip)) {
      const voice = voiceOf(ride.choice)
      if (voice === 'aircraft') add('take-off', from, whoosh)
      if (voice === 'bell') add('bell', from, bell)
      if (voice === 'oars') for (const at of beatsOf(leg, from, to, ROWED)) add('oars', at, oar)
      if (voice === 'rails') for (const at of beatsOf(leg, from, to, JOINTS)) add('rails', at, joint, at === 0 ? 0 : 1)
      if ((voice === 'engine' || voice === 'aircraft') && levels.engine > 0) drones.push(droneOf(leg, voice, from, to, levels.engine))
    }
  }
  return { events: events.sort((a, b) => a.at - b.at), drones }
}

/** When each vehicle of a trip travels, in seconds. */
function ridesOf({ legs }: CompiledTraveller): { leg: CompiledLeg; ride: Ride; from: number; to: number }[] {
  return legs.flatMap((leg) =>
    leg.rides.map((ride, i) => ({ leg, ride, from: Math.max(leg.depart, ride.at), to: leg.rides[i + 1]?.at ?? leg.arrive })),
  )
}

/** A rhythm that quickens with the speed: beats a second at mean speed, and the pattern of a bar, in beats. */
interface Rhythm {
  perSecond: number
  pattern: readonly number[]
  bar: number
}
const ROWED: Rhythm = { perSecond: 1.1, pattern: [0], bar: 1 }
/** Two axles over a joint, twice for each carriage. */
const JOINTS: Rhythm = { perSecond: 5, pattern: [0, 0.55, 2.2, 2.75], bar: 5 }

/** The moments of a rhythm while a leg is travelled: at twice the mean speed it goes twice as fast, but never so fast that it blurs. */
function beatsOf(leg: CompiledLeg, from: number, to: number, { perSecond, pattern, bar }: Rhythm): number[] {
  const steps = Math.max(1, Math.ceil((to - from) * LOOKS))
  const found: number[] = []
  let beat = 0
  let next = 0
  const due = () => Math.floor(next / pattern.length) * bar + pattern[next % pattern.length]!
  for (let k = 0; k <= steps; k++) {
    const t = from + ((to - from) * k) / steps
    while (beat >= due()) {
      found.push(t)
      next++
    }
    beat += (perSecond * clamp(speedAt(leg, t), 0, 1.8)) / LOOKS
  }
  return found
}

/** The speed of a leg at a moment, in its mean speeds. */
function speedAt(leg: CompiledLeg, t: number): number {
  const { course, depart, arrive } = leg
  if (course.length === 0 || arrive <= depart) return 0
  const step = 0.01
  return ((lengthAt(leg, t + step) - lengthAt(leg, t - step)) / (2 * step) / course.length) * (arrive - depart)
}

/** How an engine turns at rest and at mean speed, in Hz. */
const PITCH: Readonly<Record<Extract<Voice, 'engine' | 'aircraft'>, readonly [idle: number, more: number]>> = {
  engine: [42, 46],
  aircraft: [70, 62],
}

function droneOf(leg: CompiledLeg, voice: 'engine' | 'aircraft', from: number, to: number, level: number): Drone {
  const count = Math.max(2, Math.ceil((to - from) * LOOKS) + 1)
  const turns = new Float64Array(count)
  const loud = new Float64Array(count)
  const [idle, more] = PITCH[voice]
  for (let k = 0; k < count; k++) {
    const t = from + k / LOOKS
    const speed = clamp(speedAt(leg, Math.min(t, to)), 0, 2)
    if (k > 0) turns[k] = turns[k - 1]! + (idle + more * speed) / LOOKS
    // It comes and goes with its vehicle.
    loud[k] = level * (0.35 + 0.65 * Math.min(1, speed)) * smooth((t - from) / 0.3) * smooth((to - t) / 0.4)
  }
  return { from, to, kind: 'engine', turns, loud }
}

/** Adds the sounds of a part of a film to samples. @param first the number of the first sample from the film's start */
export function addSounds({ events, drones }: FilmSounds, out: Float32Array, first: number): void {
  const end = first + out.length
  for (const { at, sound, loudness } of events) {
    const start = Math.round(at * SOUND_RATE)
    const stop = Math.min(end, start + samplesIn(sound.seconds))
    for (let i = Math.max(first, start); i < stop; i++) out[i - first]! += HEADROOM * loudness * sound.at((i - start) / SOUND_RATE)
  }
  for (const { from, to, turns, loud } of drones) {
    const start = Math.round(from * SOUND_RATE)
    const stop = Math.min(end, Math.round(to * SOUND_RATE))
    for (let i = Math.max(first, start); i < stop; i++) {
      const t = (i - start) / SOUND_RATE
      const k = Math.min(turns.length - 2, Math.floor(t * LOOKS))
      const u = t * LOOKS - k
      out[i - first]! += HEADROOM * engineAt(turns[k]! * (1 - u) + turns[k + 1]! * u, loud[k]! * (1 - u) + loud[k + 1]! * u, t)
    }
  }
}
