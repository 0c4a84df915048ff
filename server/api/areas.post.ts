import { defineEventHandler } from 'h3'
import { z } from 'zod'
import { lonSpan, ringsOnSheet } from '#core/maps/country-rings'
import { georeferenceSchema, LIMITS } from '#core/journey/schema'
import { jsonBody, orRefuse, refusal } from '../http/refuse'
import { findCountry } from '../maps/world'

const body = z.object({
  country: z.string().max(80),
  georeference: georeferenceSchema,
  width: z.int().positive().max(200_000),
  height: z.int().positive().max(200_000),
})

/** The outlines of a country in the pixels of a georeferenced sheet. */
export default defineEventHandler(async (event) => {
  const { country: id, georeference, width, height } = await jsonBody(event, body)
  const country = findCountry(
    id,
    orRefuse(() => lonSpan(georeference, { width, height })),
  )
  if (!country) throw refusal(404, 'This country is not in the list.')
  const { name } = country.properties
  const rings = orRefuse(() => ringsOnSheet(country, georeference, { width, height }))
  if (rings.length === 0) throw refusal(422, `${name} does not lie on this sheet.`)
  if (rings.reduce((sum, ring) => sum + ring.length, 0) > 2 * LIMITS.outline)
    throw refusal(422, `The outline of ${name} is too detailed at this scale.`)
  return { name, rings }
})
