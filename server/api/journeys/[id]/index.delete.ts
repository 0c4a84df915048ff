import { defineEventHandler, sendNoContent } from 'h3'
import { cancelExport, exportsOf } from '../../../exports/queue'
import { idParameter, noJourney } from '../../../http/refuse'
import { forgetPoster } from '../../../posters/posters'
import { database, whenFree } from '../../../storage/database'
import { deleteJourney } from '../../../storage/journeys'

export default defineEventHandler(async (event) => {
  const id = idParameter(event)
  if (!(await whenFree(() => deleteJourney(database(), id)))) throw noJourney()
  // What would still be made of it is not wanted any more.
  for (const film of exportsOf(id)) cancelExport(film.id)
  forgetPoster(id)
  return sendNoContent(event)
})
