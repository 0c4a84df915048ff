import { defineEventHandler, getQuery } from 'h3'
import { z } from 'zod'
import { JourneyError } from '#core/journey/error'
import { refusal } from '../../http/refuse'
import { database, dataFolder } from '../../storage/database'
import { importImage } from '../../storage/import-image'

const query = z.object({ name: z.string().min(1).max(255) })

/** Takes in a picture as the request's body; `name` is its file name. */
export default defineEventHandler(async (event) => {
  const parsed = query.safeParse(getQuery(event))
  if (!parsed.success) throw refusal(400, 'The picture came without a file name.')
  const { name } = parsed.data
  try {
    const { hash, width, height } = await importImage(database(), dataFolder(), name, event.node.req)
    return { hash, width, height }
  } catch (error) {
    throw error instanceof JourneyError ? refusal(422, error.message) : error
  }
})
