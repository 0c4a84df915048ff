import { defineEventHandler, setResponseStatus } from 'h3'
import { JOURNEY_FILE_LIMITS } from '#core/formats/journey-file'
import { fileNameIn, orRefuseLater } from '../../../http/refuse'
import { startImport } from '../../../imports/queue'
import { openJourneyFile } from '../../../journey-files/open-file'
import { orderPoster } from '../../../posters/posters'
import { database, dataFolder } from '../../../storage/database'
import { receive } from '../../../storage/receive'

/** Opens a journey file from the request's body, `name` being its file name, as a new journey; answers with the id of the import. */
export default defineEventHandler(async (event) => {
  const name = fileNameIn(event)
  const most = {
    bytes: JOURNEY_FILE_LIMITS.file,
    tooMany: `“${name}” is larger than ${JOURNEY_FILE_LIMITS.file / 1024 ** 3} GiB: no journey file is.`,
  }
  const { path } = await orRefuseLater(receive(dataFolder(), name, event.node.req, most))
  setResponseStatus(event, 202)
  return {
    id: startImport(async (onProgress, signal) => {
      const opened = await openJourneyFile(database(), dataFolder(), { path, name }, { onProgress, signal })
      orderPoster(opened.id)
      return opened
    }),
  }
})
