import { mixColours } from '../colour/gradient'
import { clamp } from '../geometry/clamp'
import type { ChangingValue, Journey, ValueMark } from '../journey/schema'
import { ownerOf } from '../journey/schema'
import { cubicBezier, NAMED_CURVES } from '../pace/easing'
import type { EasingFunction } from '../pace/easing'
import type { StopTimes } from './span'
import { timeOf } from './span'

/** One change of a value: from what it is when it begins. Times in seconds of the film. */
interface Change<T> {
  start: number
  within: number
  from: T
  to: T
  ease: EasingFunction
}

/** A value over time: what it is at first, and its changes in their order. */
interface ValueTrack<T> {
  initial: T
  changes: readonly Change<T>[]
}

/** A value over time while its changes are put together. */
type GrowingTrack<T> = ValueTrack<T> & { changes: Change<T>[] }

/** The values of a journey that change, by their names. */
export interface ValueTracks {
  numbers: ReadonlyMap<string, ValueTrack<number>>
  colours: ReadonlyMap<string, ValueTrack<string>>
}

type Numbers = Exclude<ChangingValue, 'line-colour'>

/** What a value is before its first mark; a share of what is set, but for what is 0 unless something is done. */
const INITIAL: Readonly<Record<Numbers, number>> = {
  'line-width': 1,
  'line-opacity': 1,
  'line-light': 1,
  'vehicle-size': 1,
  'pin-size': 1,
  'name-size': 1,
  'sheet-opacity': 1,
  wash: 1,
  'edge-shade': 1,
  'map-dim': 0,
}

const nameOf = (value: ChangingValue, owner = ''): string => `${value} ${owner}`
const EASINGS = Object.fromEntries(
  Object.entries(NAMED_CURVES).map(([name, curve]) => [name, cubicBezier(...(curve as readonly [number, number, number, number]))]),
) as Record<ValueMark['easing'], EasingFunction>
const mixNumbers = (a: number, b: number, u: number): number => a + (b - a) * u

/** The tracks of a journey's value marks. Marks of one value at the same time are taken in the order of the document. */
export function compileValues({ valueMarks, travellers }: Journey, stops: ReadonlyMap<string, StopTimes>, lastTime: number): ValueTracks {
  const numbers = new Map<string, GrowingTrack<number>>()
  const colours = new Map<string, GrowingTrack<string>>()
  const timed = valueMarks.map((mark) => ({ mark, start: timeOf(mark.at, stops, lastTime) })).sort((a, b) => a.start - b.start)
  const legs = timed.some(({ mark }) => mark.value === 'line-colour')
    ? new Map(travellers.flatMap((traveller) => traveller.legs.map((leg) => [leg.id, leg])))
    : undefined
  for (const { mark, start } of timed) {
    const name = nameOf(mark.value, ownerOf(mark)?.id)
    if (mark.value === 'line-colour') append(colours, name, legs!.get(mark.leg)!.ink.colour, mark, start, mixColours)
    else append(numbers, name, INITIAL[mark.value], mark, start, mixNumbers)
  }
  return { numbers, colours }
}

function append<T>(
  tracks: Map<string, GrowingTrack<T>>,
  name: string,
  initial: T,
  { to, within, easing }: { to: T; within: number; easing: ValueMark['easing'] },
  start: number,
  mix: (a: T, b: T, u: number) => T,
): void {
  let track = tracks.get(name)
  if (!track) tracks.set(name, (track = { initial, changes: [] }))
  track.changes.push({ start, within, from: trackAt(track, start, mix), to, ease: EASINGS[easing] })
}

/** Each change begins with what the value is by then, also where the one before is under way: it is continuous, unless a change takes no time. */
function trackAt<T>({ initial, changes }: ValueTrack<T>, time: number, mix: (a: T, b: T, u: number) => T): T {
  const change = changes.findLast(({ start }) => start <= time)
  if (!change) return initial
  const { start, within, from, to, ease } = change
  const u = within > 0 ? clamp((time - start) / within, 0, 1) : 1
  return u === 1 ? to : mix(from, to, ease(u))
}

/** A value at a time. @param owner the id of what has it; none for the journey's own */
export function numberAt({ numbers }: ValueTracks, value: Numbers, time: number, owner?: string): number {
  if (numbers.size === 0) return INITIAL[value]
  const track = numbers.get(nameOf(value, owner))
  return track ? trackAt(track, time, mixNumbers) : INITIAL[value]
}

/** What the lines of a leg are at a moment, as shares of what is set. */
export interface LineValues {
  width: number
  opacity: number
  light: number
  /** The colour of the lowest; null for the one that is set. */
  colour: string | null
  /** Whether nothing of it changes from here on. */
  isLast: boolean
}

const AS_SET: LineValues = { width: 1, opacity: 1, light: 1, colour: null, isLast: true }

export function lineValuesAt(tracks: ValueTracks, leg: string, time: number): LineValues {
  if (tracks.numbers.size === 0 && tracks.colours.size === 0) return AS_SET
  const names = (['line-width', 'line-opacity', 'line-light'] as const).map((value) => nameOf(value, leg))
  const [width, opacity, light] = names.map((name) => tracks.numbers.get(name))
  const colour = tracks.colours.get(nameOf('line-colour', leg))
  const at = (track: ValueTrack<number> | undefined) => (track ? trackAt(track, time, mixNumbers) : 1)
  return {
    width: at(width),
    opacity: at(opacity),
    light: at(light),
    colour: colour ? trackAt(colour, time, mixColours) : null,
    isLast: [width, opacity, light, colour].every((track) => !track || time >= endOf(track)),
  }
}

const endOf = ({ changes }: ValueTrack<unknown>): number => {
  const { start, within } = changes.at(-1)!
  return start + within
}
