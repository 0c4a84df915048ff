import { defineEventHandler, getQuery } from 'h3'
import { z } from 'zod'
import { lonLat } from '#core/journey/values'
import { refusal } from '../../http/refuse'
import { places } from '../../places/places'

const number = (schema: z.ZodNumber) => z.string().transform(Number).pipe(schema)
const query = z.object({ q: z.string().max(200), lon: number(lonLat.lon).optional(), lat: number(lonLat.lat).optional() })

/** The ten best matches for a place name; `lon` and `lat` are the middle of the view. */
export default defineEventHandler(async (event) => {
  const parsed = query.safeParse(getQuery(event))
  if (!parsed.success) throw refusal(400, 'A search for places needs its words in “q”, and may have “lon” and “lat” in degrees.')
  const { q, lon, lat } = parsed.data
  const search = await places()
  return search.search(q, lon !== undefined && lat !== undefined ? { lon, lat } : undefined, 10)
})
