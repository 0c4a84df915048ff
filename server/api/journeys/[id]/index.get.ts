import { defineEventHandler } from 'h3'
import { idParameter, noJourney, orRefuse } from '../../../http/refuse'
import { database } from '../../../storage/database'
import { readJourney } from '../../../storage/journeys'

export default defineEventHandler((event) => {
  const record = orRefuse(() => readJourney(database(), idParameter(event)))
  if (!record) throw noJourney()
  return record
})
