import { defineEventHandler } from 'h3'
import { rename } from '#core/edits/journey'
import { idParameter, noJourney, orRefuse } from '../../../http/refuse'
import { copyPoster } from '../../../posters/posters'
import { database, whenFree } from '../../../storage/database'
import { insertJourney, readJourney } from '../../../storage/journeys'

export default defineEventHandler(async (event) => {
  const record = orRefuse(() => readJourney(database(), idParameter(event)))
  if (!record) throw noJourney()
  const copy = await whenFree(() => insertJourney(database(), rename(record.journey, `${record.journey.name.slice(0, 110)} (copy)`)))
  copyPoster(record, copy)
  return copy
})
