import { defineEventHandler, sendNoContent } from 'h3'
import { idParameter, noVersion } from '../../../../http/refuse'
import { database, whenFree } from '../../../../storage/database'
import { deleteVersion } from '../../../../storage/versions'

export default defineEventHandler(async (event) => {
  const [id, version] = [idParameter(event), idParameter(event, 'version')]
  if (!(await whenFree(() => deleteVersion(database(), id, version)))) throw noVersion()
  return sendNoContent(event)
})
