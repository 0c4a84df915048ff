import { defineEventHandler } from 'h3'
import { rename } from '#core/edits/journey'
import { idParameter, noJourney, orRefuse } from '../../../http/refuse'
import { copyPoster } from '../../../posters/posters'
import { database, whenFree } from '../../../storage/database'
import { insertJourney, readJourney } from '../../../storage/journeys'
import { copyVersions } from '../../../storage/versions'

export default defineEventHandler(async (event) => {
  const record = orRefuse(() => readJourney(database(), idParameter(event)))
  if (!record) throw noJourney()
  const copy = await whenFree(() =>
    database().transaction(() => {
      const made = insertJourney(database(), rename(record.journey, `${record.journey.name.slice(0, 110)} (copy)`))
      copyVersions(database(), record.id, made.id)
      return made
    })(),
  )
  copyPoster(record, copy)
  return copy
})
