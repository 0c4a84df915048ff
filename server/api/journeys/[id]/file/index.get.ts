import { defineEventHandler, getQuery, sendStream, setResponseHeaders } from 'h3'
import { JOURNEY_FILE_ENDING } from '#core/formats/journey-file'
import { idParameter, orRefuseLater } from '../../../../http/refuse'
import { packableOf } from '../../../../journey-files/packable'
import { packJourney } from '../../../../journey-files/pack'
import { database, dataFolder } from '../../../../storage/database'

/** The journey as one file, as it was last saved; with `versions=1` with those that were kept. */
export default defineEventHandler(async (event) => {
  const packed = packableOf(database(), idParameter(event), getQuery(event).versions === '1')
  const { stream, bytes } = await orRefuseLater(packJourney(database(), dataFolder(), packed))
  setResponseHeaders(event, {
    'content-type': 'application/zip',
    'content-length': bytes,
    'content-disposition': `attachment; filename*=UTF-8''${encodeURIComponent(packed.journey.name)}${JOURNEY_FILE_ENDING}`,
  })
  return sendStream(event, stream)
})
