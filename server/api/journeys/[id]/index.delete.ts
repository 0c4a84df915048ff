import { defineEventHandler, sendNoContent } from 'h3'
import { idParameter, noJourney } from '../../../http/refuse'
import { database, whenFree } from '../../../storage/database'
import { deleteJourney } from '../../../storage/journeys'

export default defineEventHandler(async (event) => {
  const id = idParameter(event)
  if (!(await whenFree(() => deleteJourney(database(), id)))) throw noJourney()
  return sendNoContent(event)
})
