import { defineEventHandler, getQuery, setResponseStatus } from 'h3'
import { z } from 'zod'
import { JourneyError } from '#core/error'
import { refusal } from '../../http/refuse'
import { importReceived, receiveFile } from '../../sheets/import-sheet'
import { startImport } from '../../sheets/imports'
import { database, dataFolder } from '../../storage/database'

const query = z.object({ name: z.string().min(1).max(255) })

/** Imports a map file from the request's body, `name` being its file name; answers with the id of the import. */
export default defineEventHandler(async (event) => {
  const parsed = query.safeParse(getQuery(event))
  if (!parsed.success) throw refusal(400, 'The file came without a name.')
  try {
    const file = await receiveFile(dataFolder(), parsed.data.name, event.node.req)
    setResponseStatus(event, 202)
    return {
      id: startImport(async (onProgress, signal) => (await importReceived(database(), dataFolder(), file, { onProgress, signal })).image),
    }
  } catch (error) {
    throw error instanceof JourneyError ? refusal(422, error.message) : error
  }
})
