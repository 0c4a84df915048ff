import { defineEventHandler, sendNoContent } from 'h3'
import { idParameter, refusal } from '../../../http/refuse'
import { database, whenFree } from '../../../storage/database'
import { deleteStyle } from '../../../storage/styles'

export default defineEventHandler(async (event) => {
  const id = idParameter(event)
  if (!(await whenFree(() => deleteStyle(database(), id)))) throw refusal(404, 'This style is not here: it may have been taken away.')
  return sendNoContent(event)
})
