import { defineEventHandler } from 'h3'
import { checkedJourney, journeyBody, jsonBody } from '../../http/refuse'
import { database, whenFree } from '../../storage/database'
import { insertJourney } from '../../storage/journeys'

export default defineEventHandler(async (event) => {
  const { journey } = await jsonBody(event, journeyBody)
  const checked = checkedJourney(journey)
  return whenFree(() => insertJourney(database(), checked))
})
