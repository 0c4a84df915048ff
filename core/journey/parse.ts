import type { z } from 'zod'
import { JourneyError } from '../error'
import { migrate } from './migrate'
import type { Journey } from './schema'
import { JOURNEY_FORMAT, JOURNEY_VERSION, journeySchema } from './schema'
import { checkWeight } from './weight'

/**
 * Reads a journey document from outside, of this or an earlier version.
 * @throws JourneyError with one sentence that names the first field at fault.
 */
export function parseJourney(data: unknown): Journey {
  if (typeof data !== 'object' || data === null || (data as { format?: unknown }).format !== JOURNEY_FORMAT) {
    throw new JourneyError(`This is not a journey: its field "format" should be "${JOURNEY_FORMAT}".`)
  }
  const { version } = data as { version?: unknown }
  const isKnown = typeof version === 'number' && Number.isInteger(version) && version >= 1 && version <= JOURNEY_VERSION
  if (!isKnown) {
    throw new JourneyError(
      `The field "version" is ${JSON.stringify(version) ?? 'missing'}, and this Zephyrine reads versions 1 to ${JOURNEY_VERSION}: open the journey with the Zephyrine that wrote it, or a newer one.`,
    )
  }
  const result = journeySchema.safeParse(version === JOURNEY_VERSION ? data : migrate(data as Record<string, unknown>, version))
  if (!result.success) throw new JourneyError(`The journey cannot be used: ${describeIssue(result.error)}.`)
  checkWeight(result.data)
  return result.data
}

/**
 * Checks the result of an edit of a valid journey. Stops, legs and long lines that it did not touch are not checked again, only what refers to them, so that
 * a step of a drag costs the same whatever else is in the journey.
 * @throws JourneyError as parseJourney does
 */
export function checkEdited(before: Journey, after: Journey): void {
  const networks = new Set(before.networks)
  const areas = new Set(before.areas)
  // Texts are set in fonts of the journey: without a change of those, what was set in them still is.
  const stops = new Set(before.fonts === after.fonts ? before.stops : [])
  const legs = new Set(before.travellers.flatMap((traveller) => traveller.legs))
  const courses = new Set([...legs].map(({ course }) => course))
  const result = journeySchema.safeParse({
    ...after,
    networks: after.networks.map((network) => (networks.has(network) ? { ...network, lines: [] } : network)),
    areas: after.areas.map((area) => (areas.has(area) ? { ...area, rings: [] } : area)),
    stops: after.stops.map((stop) => (stops.has(stop) ? { ...KNOWN_STOP, id: stop.id } : stop)),
    travellers: after.travellers.map((traveller) => ({
      ...traveller,
      legs: traveller.legs.map((leg) =>
        legs.has(leg) ? { ...KNOWN_LEG, id: leg.id } : courses.has(leg.course) ? { ...leg, course: { kind: 'straight' } } : leg,
      ),
    })),
  })
  if (!result.success) throw new JourneyError(`The journey cannot be used: ${describeIssue(result.error)}.`)
  checkWeight(after)
}

/** What stands in for a stop or a leg that has been checked before: the least that there can be of one. */
const KNOWN_STOP = { name: '', at: { x: 0, y: 0 } }
const KNOWN_LEG = {}

/** The first thing wrong, as "stops[2].pin.size: Too big: expected number to be <=400". */
export function describeIssue(error: z.ZodError): string {
  const issue = error.issues[0]!
  const path = issue.path.map((key) => (typeof key === 'number' ? `[${key}]` : `.${String(key)}`)).join('')
  return path ? `${path.replace(/^\./, '')}: ${issue.message}` : issue.message
}
