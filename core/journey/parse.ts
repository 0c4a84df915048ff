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

/** Parts of a journey that have been checked before. */
let known: ReadonlySet<unknown> = new Set()

/** A schema that asks nothing of what is known. */
const unlessKnown = <S extends z.ZodType>(schema: S): S =>
  z.custom<z.output<S>>().superRefine((value, context) => {
    if (known.has(value)) return
    for (const { path, message } of schema.safeParse(value).error?.issues ?? []) context.addIssue({ code: 'custom', path, message })
  }) as unknown as S

const editedSchema = journeySchema.safeExtend({
  areas: z.array(unlessKnown(areaSchema)).max(LIMITS.areas),
  networks: z.array(unlessKnown(networkSchema)).max(LIMITS.networks),
  stops: z.array(unlessKnown(stopSchema)).max(LIMITS.stops),
  travellers: z
    .array(
      travellerSchema.safeExtend({
        visits: z.array(unlessKnown(visitSchema)).max(LIMITS.visits),
        legs: z.array(unlessKnown(legSchema.safeExtend({ course: unlessKnown(courseSchema) }))).max(LIMITS.visits),
      }),
    )
    .min(1)
    .max(LIMITS.travellers),
})

/**
 * Checks the result of an edit of a valid journey. Stops, visits, legs and long lines that it did not touch are not checked again, only what refers to them, so
 * that a step of a drag costs the same whatever else is in the journey.
 * @throws JourneyError as parseJourney does
 */
export function checkEdited(before: Journey, after: Journey): void {
  const legs = before.travellers.flatMap((traveller) => traveller.legs)
  known = new Set<unknown>([...before.networks, ...before.areas, ...before.stops, ...before.travellers.flatMap(({ visits }) => visits), ...legs, ...legs.map(({ course }) => course)]) // prettier-ignore
  const result = editedSchema.safeParse(after)
  known = new Set()
  if (!result.success) throw new JourneyError(`The journey cannot be used: ${describeIssue(result.error)}.`)
  checkWeight(after)
}

/** The first thing wrong, as "stops[2].pin.size: Too big: expected number to be <=400". */
export function describeIssue(error: z.ZodError): string {
  const issue = error.issues[0]!
  const path = issue.path.map((key) => (typeof key === 'number' ? `[${key}]` : `.${String(key)}`)).join('')
  return path ? `${path.replace(/^\./, '')}: ${issue.message}` : issue.message
}
