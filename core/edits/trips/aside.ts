import { greatest } from '../../geometry/extremes'
import { chordHeading, nearestOnCourse, pointAt } from '../../geometry/course'
import type { Course } from '../../geometry/course'
import { turnBetween } from '../../geometry/angle'
import { inksOf } from '../../journey/lookup'
import type { Journey, Leg } from '../../journey/schema'
import { MOST_ASIDE } from '../../journey/schema'
import { clamp } from '../../geometry/clamp'
import { legCourse } from '../lines/courses'

/** Legs share their way where so much of one lies within so many reference pixels of the other. */
const NEAR = 14
const SHARED = 0.5
const SAMPLES = 40

/** The air between two lines side by side, in reference pixels. */
const AIR = 5

interface OnTheWay {
  leg: Leg
  course: Course
}

/**
 * Lays a leg and all that share its way, of whichever traveller, side by side about that way, in the order of their travellers and trips. Legs that share
 * it with none come back to their course.
 */
export function laySideBySide(journey: Journey, id: string): Journey {
  const all = journey.travellers.flatMap(({ legs }) => legs.map((leg): OnTheWay => ({ leg, course: legCourse(journey, leg.id)! })))
  const own = all.find(({ leg }) => leg.id === id)
  if (!own) return journey
  const near = NEAR / journey.camera.zoom
  const together = all.filter((other) => other === own || sharesWay(other.course, own.course, near))
  const step = greatest(together.flatMap(({ leg }) => inksOf(leg).map(({ width }) => width))) + AIR
  const asides = new Map(
    together.map(({ leg, course }, i) => {
      const right = together.length === 1 ? 0 : (i - (together.length - 1) / 2) * step
      // What is to the right of one that goes there is to the left of one that comes back.
      const aside = isAlong(course, own.course) ? right : -right
      return [leg.id, clamp(aside, -MOST_ASIDE, MOST_ASIDE)]
    }),
  )
  return {
    ...journey,
    travellers: journey.travellers.map((traveller) => ({
      ...traveller,
      legs: traveller.legs.map((leg) => (asides.has(leg.id) ? { ...leg, aside: asides.get(leg.id)! } : leg)),
    })),
  }
}

const spots = ({ length }: Course): number[] => Array.from({ length: SAMPLES }, (_, i) => ((i + 0.5) / SAMPLES) * length)

/** Whether enough of the shorter of two courses lies along the other. */
function sharesWay(a: Course, b: Course, near: number): boolean {
  const [short, long] = a.length < b.length ? [a, b] : [b, a]
  if (short.length === 0) return false
  return spots(short).filter((s) => nearestOnCourse(long, pointAt(short, s)).distance < near).length >= SHARED * SAMPLES
}

/** Whether a course leads the same way as another that it lies along, in the main. */
function isAlong(course: Course, other: Course): boolean {
  if (course === other) return true
  const same = spots(course).filter((s) => {
    const nearest = nearestOnCourse(other, pointAt(course, s))
    const [a, b] = [chordHeading(course, s, course.length / SAMPLES), chordHeading(other, nearest.s, other.length / SAMPLES)]
    return a !== undefined && b !== undefined && Math.abs(turnBetween(a, b)) < Math.PI / 2
  })
  return same.length >= SAMPLES / 2
}
