import { defineEventHandler, sendNoContent } from 'h3'
import { idParameter, noJourney } from '../../../http/refuse'
import { database } from '../../../storage/database'
import { deleteJourney } from '../../../storage/journeys'

export default defineEventHandler((event) => {
  if (!deleteJourney(database(), idParameter(event))) throw noJourney()
  return sendNoContent(event)
})
