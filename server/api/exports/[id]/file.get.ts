import { createReadStream, statSync } from 'node:fs'
import { defineEventHandler, sendStream, setResponseHeaders } from 'h3'
import { exportFile, findExport } from '../../../exports/queue'
import { idParameter, noExport, refusal } from '../../../http/refuse'

/** The finished film, to be downloaded under the journey's name. */
export default defineEventHandler((event) => {
  const record = findExport(idParameter(event))
  if (!record) throw noExport()
  if (record.state !== 'done') throw refusal(409, 'This export has not finished.')
  const path = exportFile(record.id)
  const name = `${
    record.name
      .normalize('NFC')
      .replace(/[^\p{L}\p{N} _-]+/gu, '')
      .trim() || 'journey'
  }.mp4`
  setResponseHeaders(event, {
    'content-type': 'video/mp4',
    'content-length': statSync(path).size,
    'content-disposition': `attachment; filename="journey.mp4"; filename*=UTF-8''${encodeURIComponent(name)}`,
  })
  return sendStream(event, createReadStream(path))
})
