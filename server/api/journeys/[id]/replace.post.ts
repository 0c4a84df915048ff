import { defineEventHandler, sendNoContent } from 'h3'
import { z } from 'zod'
import { idParameter, jsonBody, noJourney, orRefuse } from '../../../http/refuse'
import { putInPlaceOf } from '../../../journey-files/open-file'
import { forgetPoster, orderPoster } from '../../../posters/posters'
import { database, whenFree } from '../../../storage/database'

const body = z.strictObject({ by: z.string().regex(/^[\w-]{1,64}$/) })

/** Puts another journey, which was opened from a file, in this one's place; what was here is kept as a version. */
export default defineEventHandler(async (event) => {
  const id = idParameter(event)
  const { by } = await jsonBody(event, body)
  if (!(await whenFree(() => orRefuse(() => putInPlaceOf(database(), id, by))))) throw noJourney()
  forgetPoster(by)
  orderPoster(id)
  return sendNoContent(event)
})
