import { z } from 'zod'
import { JourneyError } from '../error'
import { migrate } from './migrate'
import type { Journey } from './schema'
import {
  areaSchema,
  courseSchema,
  JOURNEY_FORMAT,
  JOURNEY_VERSION,
  journeySchema,
  legSchema,
  LIMITS,
  networkSchema,
  stopSchema,
  travellerSchema,
  visitSchema,
} from './schema'
import { remembered } from '../remembered'
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

/** A schema whose judgement of an object is remembered, as parts of a journey never change. */
function judgedOnce<S extends z.ZodType>(schema: S): S {
  const faults = remembered((value: object) => schema.safeParse(value).error?.issues ?? [])
  return z.custom<z.output<S>>().superRefine((value, context) => {
    const found = typeof value === 'object' && value !== null ? faults(value) : schema.safeParse(value).error!.issues
    for (const { path, message } of found) context.addIssue({ code: 'custom', path, message })
  }) as unknown as S
}

const editedSchema = journeySchema.safeExtend({
  areas: z.array(judgedOnce(areaSchema)).max(LIMITS.areas),
  networks: z.array(judgedOnce(networkSchema)).max(LIMITS.networks),
  stops: z.array(judgedOnce(stopSchema)).max(LIMITS.stops),
  travellers: z
    .array(
      travellerSchema.safeExtend({
        visits: z.array(judgedOnce(visitSchema)).max(LIMITS.visits),
        legs: z.array(judgedOnce(legSchema.safeExtend({ course: judgedOnce(courseSchema) }))).max(LIMITS.visits),
      }),
    )
    .min(1)
    .max(LIMITS.travellers),
})

/**
 * Checks the result of an edit. Stops, visits, legs and long lines that were checked before are not checked again, only what refers to them, so that a step
 * of a drag costs the same whatever else is in the journey.
 * @throws JourneyError as parseJourney does
 */
export function checkEdited(after: Journey): void {
  const result = editedSchema.safeParse(after)
  if (!result.success) throw new JourneyError(`The journey cannot be used: ${describeIssue(result.error)}.`)
  checkWeight(after)
}

/** The first thing wrong, as "stops[2].pin.size: Too big: expected number to be <=400". */
export function describeIssue(error: z.ZodError): string {
  const issue = error.issues[0]!
  const path = issue.path.map((key) => (typeof key === 'number' ? `[${key}]` : `.${String(key)}`)).join('')
  return path ? `${path.replace(/^\./, '')}: ${issue.message}` : issue.message
}
