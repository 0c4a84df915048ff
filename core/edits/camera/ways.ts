import { JourneyError } from '../../error'
import type { Journey, Shot } from '../../journey/schema'
import type { CompiledShot } from '../../trips/compiled'
import { putShot } from './shots'

/**
 * Changes to a way of the camera: shots in a row that it passes without a stop, and the one in which it comes to rest. Its times are when it leaves for the first,
 * and when it is at each. Pure functions, journey in, journey out, as in journey.ts.
 */

/** The least time between two of them, in seconds. */
const LEAST = 0.1
/** The longest that a shot may take. */
const MOST = 60

const milliseconds = (seconds: number): number => Math.round(seconds * 1000) / 1000

/** Has the camera be at each shot of a way at another time; it leaves for the first when it did. @throws JourneyError if two come too close, or too far apart */
function timedAnew(journey: Journey, way: readonly CompiledShot[], ends: readonly number[]): Journey {
  let [before, moved] = [way[0]!.start, 0]
  return way.reduce((changed, { shot, start, end }, i) => {
    // A shot begins as long after the one before as it did, but before it is over.
    const begins = Math.min(start + moved, ends[i]! - LEAST)
    const transition = milliseconds(ends[i]! - begins)
    if (ends[i]! - before < LEAST - 1e-9 || transition > MOST)
      throw new JourneyError(`The shots of a way are at least ${LEAST} s apart, and each takes at most ${MOST} s.`)
    ;[before, moved] = [ends[i]!, ends[i]! - end]
    return putShot(changed, { ...shot, transition, at: { ...shot.at, offset: milliseconds(shot.at.offset + begins - start) } })
  }, journey)
}

/** Has the camera be at a shot of a way at another time, between those before and after it; what it looks at there stays. */
export function retimeShot(journey: Journey, way: readonly CompiledShot[], index: number, time: number): Journey {
  const earliest = (way[index - 1]?.end ?? way[0]!.start) + LEAST
  const latest = (way[index + 1]?.end ?? Infinity) - LEAST
  const held = milliseconds(Math.max(earliest, Math.min(time, latest)))
  return timedAnew(journey, way, way.map(({ end }, i) => (i === index ? held : end))) // prettier-ignore
}

/** Has a whole way take so many seconds, each part of it in proportion. */
export function stretchWay(journey: Journey, way: readonly CompiledShot[], seconds: number): Journey {
  const { start } = way[0]!
  const factor = seconds / (way.at(-1)!.end - start)
  return timedAnew(journey, way, way.map(({ end }) => milliseconds(start + (end - start) * factor))) // prettier-ignore
}

/** Whether a way can be travelled the other way round: only views of one's own can be passed. */
export const canReverse = (way: readonly CompiledShot[]): boolean => way.every(({ shot }) => shot.kind === 'free')

/** Has the camera pass the shots of a way in the opposite order, each part in the time that it took. */
export function reverseWay(journey: Journey, way: readonly CompiledShot[]): Journey {
  const times = [way[0]!.start, ...way.map(({ end }) => end)]
  const parts = way.map((_, i) => times[i + 1]! - times[i]!)
  // From where it was before the way to its last view it takes as long as it took to the first.
  const [first, ...between] = parts
  let time = times[0]!
  const ends = [first!, ...between.reverse()].map((part) => (time = milliseconds(time + part)))
  const views = way.map(({ shot }) => shot).reverse()
  const turned = way.map((entry, i): CompiledShot => ({ ...entry, shot: filming(entry.shot, views[i]!) }))
  return timedAnew(journey, turned, ends)
}

/** A shot that films what another one does, when it did. */
const filming = (shot: Shot, other: Shot): Shot =>
  shot.kind === 'free' && other.kind === 'free' ? { ...shot, view: other.view, orbit: other.orbit, dolly: other.dolly } : shot
