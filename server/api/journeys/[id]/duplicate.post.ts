import { defineEventHandler } from 'h3'
import { rename } from '#core/journey/edits'
import { idParameter, noJourney, orRefuse } from '../../../http/refuse'
import { database } from '../../../storage/database'
import { insertJourney, readJourney } from '../../../storage/journeys'

export default defineEventHandler((event) => {
  const record = orRefuse(() => readJourney(database(), idParameter(event)))
  if (!record) throw noJourney()
  return insertJourney(database(), rename(record.journey, `${record.journey.name.slice(0, 110)} (copy)`))
})
