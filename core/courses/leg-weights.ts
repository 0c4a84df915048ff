import type { Course } from '../geometry/course'
import type { Leg, Share } from '../journey/schema'
import { readTimes } from '../journey/track-line'
import { sum } from '../pace/share-out'
import { speedOf } from '../dress/vehicle'

/** How much of the free time each leg of a trip gets, by how the journey shares it out. */
export function legWeights(legs: readonly Leg[], courses: readonly Course[], { by, exponent }: Share): number[] {
  switch (by) {
    case 'distance':
      return courses.map(({ length }) => length ** exponent)
    case 'speed':
      return legs.map((leg, i) => estimate(leg, courses[i]!.length))
    case 'recorded': {
      const recorded = legs.map(recordedSeconds)
      const estimates = legs.map((leg, i) => estimate(leg, courses[i]!.length))
      // What was not recorded takes as long as its vehicle would, by what the recorded legs took in comparison.
      const known = recorded.flatMap((seconds, i) => (seconds === undefined ? [] : [{ seconds, estimate: estimates[i]! }]))
      const estimated = sum(known.map((leg) => leg.estimate))
      const factor = estimated > 0 ? sum(known.map(({ seconds }) => seconds)) / estimated : 1
      return recorded.map((seconds, i) => seconds ?? estimates[i]! * factor)
    }
    default:
      return by satisfies never
  }
}

/** How long a leg's vehicles take for it in earnest, in ground units by km/h. */
function estimate({ vehicle, changes }: Leg, length: number): number {
  const rides = [{ at: 0, vehicle }, ...changes.toSorted((a, b) => a.at - b.at)]
  return sum(rides.map((ride, i) => ((rides[i + 1]?.at ?? 1) - ride.at) * length / speedOf(ride.vehicle))) // prettier-ignore
}

/** The seconds that a track took, where that is known. */
export function recordedSeconds({ course }: Pick<Leg, 'course'>): number | undefined {
  if (course.kind !== 'track' || course.times === null) return undefined
  const times = readTimes(course.times)
  const took = times.at(-1)! - times[0]!
  return took > 0 ? took : undefined
}
