import { defineEventHandler, sendNoContent } from 'h3'
import { cancelExport } from '../../../exports/queue'
import { idParameter, noExport } from '../../../http/refuse'
import { database } from '../../../storage/database'
import { readExport } from '../../../storage/exports'

/** Cancels an export. */
export default defineEventHandler((event) => {
  const id = idParameter(event)
  if (!readExport(database(), id)) throw noExport()
  cancelExport(id)
  return sendNoContent(event)
})
