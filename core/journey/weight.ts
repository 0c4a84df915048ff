import { JourneyError } from '../error'
import type { Journey } from './schema'

/**
 * The most that a journey's lines may take when it is stored, in bytes. It is checked at each edit and by the server, so that nothing can be edited that
 * cannot be saved.
 */
export const MOST_WEIGHT = 32 * 1024 ** 2

/** About what a node of a drawn course and a number of an outline take as JSON, in bytes. */
const NODE = 200
const NUMBER = 12

type Course = Journey['travellers'][number]['legs'][number]['course']

function weightOfCourse(course: Course): number {
  if (course.kind === 'track') return course.points.length + (course.times?.length ?? 0) + (course.heights?.length ?? 0)
  return course.kind === 'drawn' ? NODE * course.nodes.length : 0
}

/** About how many bytes the lines of a journey take when it is stored: courses, networks and outlines. All else is small. */
export function weightOf({ travellers, networks, areas }: Journey): number {
  let weight = 0
  for (const { legs } of travellers) for (const { course } of legs) weight += weightOfCourse(course)
  for (const { lines } of networks) for (const { points } of lines) weight += points.length
  for (const { rings } of areas) for (const ring of rings) weight += NUMBER * ring.length
  return weight
}

/** @throws JourneyError if a journey is too large to be stored */
export function checkWeight(journey: Journey): void {
  const weight = weightOf(journey)
  if (weight <= MOST_WEIGHT) return
  const [is, most] = [weight, MOST_WEIGHT].map((bytes) => Math.ceil(bytes / 1024 ** 2))
  throw new JourneyError(
    `The lines of this journey would take ${is} MiB, and ${most} MiB can be stored: simplify its tracks, or make two journeys of it.`,
  )
}
