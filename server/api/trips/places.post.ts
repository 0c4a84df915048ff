import { defineEventHandler } from 'h3'
import { z } from 'zod'
import { lonLat } from '#core/journey/values'
import { MODE_IDS } from '#core/writing/modes'
import { MOST_PLACES } from '#core/writing/written-trip'
import { jsonBody } from '../../http/refuse'
import { places } from '../../places/places'
import { resolveTrip } from '../../places/resolve'

const body = z.strictObject({
  places: z
    .array(
      z.strictObject({
        name: z.string().max(120),
        within: z.array(z.string().max(60)).max(MOST_PLACES),
        at: z.strictObject(lonLat).nullable(),
        by: z.enum(MODE_IDS).nullable(),
      }),
    )
    .max(MOST_PLACES),
})

/** Looks up the places of a written trip, chosen together. */
export default defineEventHandler(async (event) => {
  const { places: wanted } = await jsonBody(event, body)
  return resolveTrip(wanted, await places())
})
