import { defineEventHandler, setResponseStatus } from 'h3'
import { JourneyError } from '#core/error'
import { fileNameIn, refusal } from '../../http/refuse'
import { importReceived, receiveFile } from '../../sheets/import-sheet'
import { startImport } from '../../imports/queue'
import { database, dataFolder } from '../../storage/database'

/** Imports a map file from the request's body, `name` being its file name; answers with the id of the import. */
export default defineEventHandler(async (event) => {
  const name = fileNameIn(event)
  try {
    const file = await receiveFile(dataFolder(), name, event.node.req)
    setResponseStatus(event, 202)
    return {
      id: startImport(async (onProgress, signal) => (await importReceived(database(), dataFolder(), file, { onProgress, signal })).image),
    }
  } catch (error) {
    throw error instanceof JourneyError ? refusal(422, error.message) : error
  }
})
