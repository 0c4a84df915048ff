import { defineEventHandler, setResponseStatus } from 'h3'
import { z } from 'zod'
import { checkFilm, filmSettingsSchema } from '#core/film/settings'
import { compile } from '#core/frame/compile'
import { NO_PLACES } from '#core/labels/label-scene'
import { measureExport } from '../../../exports/queue'
import { idParameter, jsonBody, noJourney, orRefuse } from '../../../http/refuse'
import { database } from '../../../storage/database'
import { readJourney } from '../../../storage/journeys'

const body = z.strictObject({ settings: filmSettingsSchema })

/** What an export of a journey as it was last saved would take, by a few of its frames; nothing while films are being made. Ends with the request. */
export default defineEventHandler(async (event) => {
  const { settings } = await jsonBody(event, body)
  const journey = orRefuse(() => {
    const found = readJourney(database(), idParameter(event))
    if (!found) throw noJourney()
    compile(found.journey, NO_PLACES)
    checkFilm(found.journey, settings)
    return found.journey
  })
  const left = new AbortController()
  event.node.res.on('close', () => left.abort(new Error('Nobody is waiting for it.')))
  const cost = await measureExport(journey, settings, left.signal)
  if (cost) return cost
  setResponseStatus(event, 204)
  return null
})
