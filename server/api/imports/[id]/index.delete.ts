import { defineEventHandler, sendNoContent } from 'h3'
import { idParameter, noImport } from '../../../http/refuse'
import { cancelImport, findImport } from '../../../imports/queue'

/** Cancels an import. */
export default defineEventHandler((event) => {
  const id = idParameter(event)
  if (!findImport(id)) throw noImport()
  cancelImport(id)
  return sendNoContent(event)
})
