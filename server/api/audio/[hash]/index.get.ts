import { isFileHash } from '#core/journey/values'
import { createReadStream, statSync } from 'node:fs'
import { defineEventHandler, sendStream, setResponseHeaders } from 'h3'
import { idParameter, refusal } from '../../../http/refuse'
import { audioPath, hasAudio } from '../../../storage/audio-files'
import { dataFolder } from '../../../storage/database'

/** A piece of sound, decoded: see `audioPath`. Its address holds its content hash, so it never changes. */
export default defineEventHandler((event) => {
  const hash = idParameter(event, 'hash')
  if (!isFileHash(hash) || !hasAudio(dataFolder(), hash)) throw refusal(404, 'This sound is not here.')
  const path = audioPath(dataFolder(), hash)
  setResponseHeaders(event, {
    'content-type': 'application/octet-stream',
    'content-length': statSync(path).size,
    'cache-control': 'private, max-age=31536000, immutable',
  })
  return sendStream(event, createReadStream(path))
})
