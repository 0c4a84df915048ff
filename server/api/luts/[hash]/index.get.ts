import { isFileHash } from '#core/journey/values'
import { readFile } from 'node:fs/promises'
import { defineEventHandler, setResponseHeaders } from 'h3'
import { idParameter, refusal } from '../../../http/refuse'
import { dataFolder } from '../../../storage/database'
import { hasLut, lutPath } from '../../../storage/lut-files'

/** A .cube file as it came. Its address holds its content hash, so it never changes. */
export default defineEventHandler(async (event) => {
  const hash = idParameter(event, 'hash')
  if (!isFileHash(hash) || !hasLut(dataFolder(), hash)) throw refusal(404, 'This LUT is not here.')
  setResponseHeaders(event, { 'content-type': 'text/plain; charset=utf-8', 'cache-control': 'private, max-age=31536000, immutable' })
  return readFile(lutPath(dataFolder(), hash))
})
