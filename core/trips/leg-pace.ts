import { remembered } from '../remembered'
import type { Course } from '../geometry/course'
import type { Leg } from '../journey/schema'
import { readTimes } from '../journey/track-line'
import { NAMED_CURVES } from '../pace/easing'
import type { Effort, LegPace, PaceEasing } from '../pace/profile'
import { effortOf, effortOver, endSpeeds } from '../pace/profile'
import type { Visit } from '../pace/schedule'

/** What a natural pace takes to reach its speed and to lose it, in seconds: long enough to be seen, short enough for bends to count (common practice, no source). */
const NATURAL_RAMP = 0.8

/** How a leg is travelled on its course; the same object while neither has changed. */
export const paceOf = ({ easing, paceMarks, course: shape }: Leg, course: Course): LegPace => paceOn(course, easing, paceMarks, shape)

const paceOn = remembered((course: Course, easing: Leg['easing'], paceMarks: Leg['paceMarks'], shape: Leg['course']): LegPace => {
  const marks = paceMarks.toSorted((a, b) => a.at - b.at)
  const waits = marks.flatMap((mark) => (mark.kind === 'wait' ? [mark] : []))
  const speeds = marks.flatMap((mark) => (mark.kind === 'speed' ? [mark] : []))
  if (easing === 'recorded' && shape.kind === 'track' && shape.times !== null)
    return { easing: EVEN_CURVE, effort: recordedEffort(course, readTimes(shape.times), speeds), waits }
  const bends = typeof easing === 'object' && 'kind' in easing && easing.kind === 'natural' ? easing.bends : 0
  return { easing: easingOf(easing), effort: effortOver(course, bends, speeds), waits }
})

const EVEN_CURVE: PaceEasing = { kind: 'curve', x1: 0, y1: 0, x2: 1, y2: 1 }

function easingOf(easing: Leg['easing']): PaceEasing {
  if (easing === 'gentle' || easing === 'recorded') return { kind: 'gentle' }
  if (typeof easing === 'string' || Array.isArray(easing)) {
    const [x1, y1, x2, y2] = typeof easing === 'string' ? NAMED_CURVES[easing] : easing
    return { kind: 'curve', x1, y1, x2, y2 }
  }
  switch (easing.kind) {
    case 'cruise':
      return { kind: 'ramps', accelerate: easing.accelerate, brake: easing.brake }
    case 'natural':
      return { kind: 'ramps', accelerate: NATURAL_RAMP, brake: NATURAL_RAMP }
    default:
      return easing satisfies never
  }
}

/** The effort of a recorded track is the time that it took, less where it is travelled faster. @param times seconds at which each point was reached, rising */
function recordedEffort({ lengths, length }: Course, times: Float64Array, marks: readonly { at: number; factor: number }[]): Effort {
  const efforts = new Float64Array(times.length)
  for (let i = 1; i < times.length; i++) {
    const share = length > 0 ? (lengths[i - 1]! + lengths[i]!) / 2 / length : 0
    efforts[i] = efforts[i - 1]! + (times[i]! - times[i - 1]!) / (marks.findLast(({ at }) => at <= share)?.factor ?? 1)
  }
  return effortOf(lengths, efforts)
}

/**
 * Speed at each visit, in gu a second: 0 where there is a layover. Where both legs may take any speed it is the harmonic mean of theirs, with which a Hermite
 * interpolation stays monotone (F. Fritsch and J. Butland, A method for constructing local monotone piecewise cubic interpolants, 1984); where one leg has a
 * speed of its own there, it is that, as far as the other can take it.
 * @param seconds travel times of the legs
 */
export function speedsAtVisits(
  visits: readonly Visit[],
  paces: readonly LegPace[],
  courses: readonly Course[],
  seconds: readonly number[],
): number[] {
  const ends = paces.map((pace, i) => endSpeeds(pace, seconds[i]!))
  return visits.map(({ arrive, leave }, i) => {
    if (i === 0 || i === visits.length - 1 || leave > arrive) return 0
    const [before, after] = [ends[i - 1]!, ends[i]!]
    const [a, b] = [courses[i - 1]!.length, courses[i]!.length]
    const most = Math.min(
      before.end === undefined ? before.mostEnd * a : Infinity,
      after.start === undefined ? after.mostStart * b : Infinity,
    )
    const own = before.end === undefined ? (after.start === undefined ? undefined : after.start * b) : before.end * a
    if (own !== undefined) return Math.min(own, most)
    const [meanA, meanB] = [before.mean * a, after.mean * b]
    return meanA + meanB > 0 ? Math.min(most, (2 * meanA * meanB) / (meanA + meanB)) : 0
  })
}
