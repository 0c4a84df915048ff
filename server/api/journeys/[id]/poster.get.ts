import { readFile } from 'node:fs/promises'
import { defineEventHandler, getQuery, setResponseHeaders } from 'h3'
import { idParameter, noPoster } from '../../../http/refuse'
import { posterPath } from '../../../posters/poster-files'
import { posterRevision } from '../../../posters/posters'
import { dataFolder } from '../../../storage/database'

/** The stored picture of a finished journey, of the revision asked for or else the newest there is; never waits for one to be made. */
export default defineEventHandler(async (event) => {
  const id = idParameter(event)
  const asked = getQuery(event).revision
  const revision = typeof asked === 'string' && /^\d{1,15}$/.test(asked) ? Number(asked) : posterRevision(id)
  const picture = revision === undefined ? undefined : await readFile(posterPath(dataFolder(), id, revision)).catch(() => undefined)
  if (!picture) throw noPoster()
  setResponseHeaders(event, { 'content-type': 'image/webp', 'cache-control': 'private, max-age=86400' })
  return picture
})
