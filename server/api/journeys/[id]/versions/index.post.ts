import { defineEventHandler } from 'h3'
import { z } from 'zod'
import { lineOfText } from '#core/journey/values'
import { checkedJourney, idParameter, jsonBody, noJourney, orRefuse } from '../../../../http/refuse'
import { database, whenFree } from '../../../../storage/database'
import { journeyDocument } from '../../../../storage/journeys'
import { insertVersion } from '../../../../storage/versions'

const body = z.object({ name: lineOfText(60), journey: z.unknown() })

/** Keeps a journey as it is under a name. */
export default defineEventHandler(async (event) => {
  const id = idParameter(event)
  const { name, journey } = await jsonBody(event, body)
  const checked = checkedJourney(journey)
  return whenFree(() =>
    orRefuse(() => {
      if (!journeyDocument(database(), id)) throw noJourney()
      return insertVersion(database(), id, name, checked)
    }),
  )
})
