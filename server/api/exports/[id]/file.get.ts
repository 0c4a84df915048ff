import { createReadStream, statSync } from 'node:fs'
import { FILM_FORMATS } from '#core/film/formats'
import { fileNameOf } from '#core/film/settings'
import { defineEventHandler, sendStream, setResponseHeaders } from 'h3'
import { exportFile, findExport } from '../../../exports/queue'
import { idParameter, noExport, refusal } from '../../../http/refuse'

/** The finished film, to be downloaded under the journey's name. */
export default defineEventHandler((event) => {
  const record = findExport(idParameter(event))
  if (!record) throw noExport()
  if (record.state !== 'done') throw refusal(409, 'This export has not finished.')
  const path = exportFile(record)
  const { ending, type } = FILM_FORMATS[record.format]
  setResponseHeaders(event, {
    'content-type': type,
    'content-length': statSync(path).size,
    'content-disposition': `attachment; filename="journey${ending}"; filename*=UTF-8''${encodeURIComponent(fileNameOf(record.name, record.format))}`,
  })
  return sendStream(event, createReadStream(path))
})
