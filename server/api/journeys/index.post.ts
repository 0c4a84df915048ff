import { defineEventHandler } from 'h3'
import { checkedJourney, journeyBody, jsonBody } from '../../http/refuse'
import { orderPoster } from '../../posters/posters'
import { database, whenFree } from '../../storage/database'
import { insertJourney } from '../../storage/journeys'

export default defineEventHandler(async (event) => {
  const { journey } = await jsonBody(event, journeyBody)
  const checked = checkedJourney(journey)
  const made = await whenFree(() => insertJourney(database(), checked))
  // A new one, on which nothing is yet, is worked on at once.
  if (checked.stops.length > 0) orderPoster(made.id)
  return made
})
