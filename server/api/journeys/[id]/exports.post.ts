import { defineEventHandler } from 'h3'
import { z } from 'zod'
import { checkFilm, filmSettingsSchema, wholeFilm } from '#core/film/settings'
import { compile } from '#core/frame/compile'
import { lineOfText } from '#core/journey/values'
import { NO_PLACES } from '#core/labels/label-scene'
import { enqueueExport } from '../../../exports/queue'
import { idParameter, jsonBody, noJourney, orRefuse } from '../../../http/refuse'
import { database, whenFree } from '../../../storage/database'
import { insertExport } from '../../../storage/exports'
import { readJourney } from '../../../storage/journeys'

/** How the film is made, the whole of it as an MP4 if nothing is said, and the title of its file, the journey's if none is given. */
const body = z.strictObject({ settings: filmSettingsSchema.optional(), name: lineOfText(120).optional() })

/** Exports a journey as it was last saved. */
export default defineEventHandler(async (event) => {
  const db = database()
  const asked = await jsonBody(event, body)
  const { record, settings } = orRefuse(() => {
    const found = readJourney(db, idParameter(event))
    if (!found) throw noJourney()
    compile(found.journey, NO_PLACES)
    const wanted = asked.settings ?? wholeFilm(found.journey)
    checkFilm(found.journey, wanted)
    return { record: found, settings: wanted }
  })
  const entry = await whenFree(() =>
    insertExport(db, {
      journeyId: record.id,
      name: asked.name ?? record.journey.name,
      document: JSON.stringify(record.journey),
      settings,
    }),
  )
  enqueueExport(entry.id)
  return entry
})
