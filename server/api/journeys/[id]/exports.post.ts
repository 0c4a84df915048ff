import { defineEventHandler } from 'h3'
import { compile } from '#core/frame/compile'
import { enqueueExport } from '../../../exports/queue'
import { idParameter, noJourney, orRefuse } from '../../../http/refuse'
import { database, whenFree } from '../../../storage/database'
import { insertExport } from '../../../storage/exports'
import { readJourney } from '../../../storage/journeys'

/** Exports a journey as it was last saved. */
export default defineEventHandler(async (event) => {
  const db = database()
  const { record, frames } = orRefuse(() => {
    const found = readJourney(db, idParameter(event))
    if (!found) throw noJourney()
    return { record: found, frames: compile(found.journey).frames }
  })
  const entry = await whenFree(() =>
    insertExport(db, {
      journeyId: record.id,
      name: record.journey.name,
      document: JSON.stringify(record.journey),
      framesTotal: frames,
    }),
  )
  enqueueExport(entry.id)
  return entry
})
