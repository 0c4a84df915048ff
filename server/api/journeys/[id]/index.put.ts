import { defineEventHandler } from 'h3'
import { checkedJourney, idParameter, jsonBody, noJourney, refusal, saveBody } from '../../../http/refuse'
import { database, whenFree } from '../../../storage/database'
import { orderPoster } from '../../../posters/posters'
import { saveJourney } from '../../../storage/journeys'

export default defineEventHandler(async (event) => {
  const id = idParameter(event)
  const { revision, journey, past } = await jsonBody(event, saveBody)
  const checked = checkedJourney(journey)
  const result = await whenFree(() => saveJourney(database(), id, revision, checked, past))
  if (result.saved) {
    orderPoster(id)
    return { revision: result.revision }
  }
  if (result.revision === undefined) throw noJourney()
  throw refusal(409, 'This journey was changed in another window since it was opened here.', { revision: result.revision })
})
