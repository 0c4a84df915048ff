import { isFileHash } from '#core/journey/values'
import { readFile } from 'node:fs/promises'
import { defineEventHandler, setResponseHeaders } from 'h3'
import { idParameter, refusal } from '../../../http/refuse'
import { dataFolder } from '../../../storage/database'
import { fontPath, hasFont } from '../../../storage/font-files'

/** A font file of one's own. Its address holds its content hash, so it never changes. */
export default defineEventHandler(async (event) => {
  const hash = idParameter(event, 'hash')
  if (!isFileHash(hash) || !hasFont(dataFolder(), hash)) throw refusal(404, 'This font is not here.')
  setResponseHeaders(event, { 'content-type': 'font/sfnt', 'cache-control': 'private, max-age=31536000, immutable' })
  return readFile(fontPath(dataFolder(), hash))
})
