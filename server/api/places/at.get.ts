import { defineEventHandler, getQuery } from 'h3'
import { z } from 'zod'
import { lonLat } from '#core/journey/values'
import { refusal } from '../../http/refuse'
import { places } from '../../places/places'

const number = (schema: z.ZodNumber) => z.string().transform(Number).pipe(schema)
const query = z.object({ lon: number(lonLat.lon), lat: number(lonLat.lat), km: number(z.number().min(0).max(200)) })

/** The largest place within a number of kilometres of a spot, or null. */
export default defineEventHandler(async (event) => {
  const parsed = query.safeParse(getQuery(event))
  if (!parsed.success) throw refusal(400, 'What lies at a spot is asked with “lon” and “lat” in degrees and “km”, up to 200.')
  const { km, ...spot } = parsed.data
  return (await places()).at(spot, km) ?? null
})
