import { Readable } from 'node:stream'
import { defineEventHandler, setResponseStatus } from 'h3'
import { z } from 'zod'
import { drawnMapSchema } from '#core/journey/schema'
import { layoutMap } from '#core/maps/layout'
import { writeRecipe } from '#core/maps/recipe'
import { jsonBody, orRefuse } from '../../http/refuse'
import { mapDataMade } from '../../maps/data'
import { importSheetFile } from '../../sheets/import-sheet'
import { startImport } from '../../imports/queue'
import { database, dataFolder } from '../../storage/database'

const body = z.object({ map: drawnMapSchema })

/** Makes a generated map an image; answers with the id of the import. */
export default defineEventHandler(async (event) => {
  const { map } = await jsonBody(event, body)
  orRefuse(() => layoutMap(map))
  setResponseStatus(event, 202)
  return {
    id: startImport(async (onProgress, signal) => {
      await mapDataMade()
      signal.throwIfAborted()
      const recipe = Readable.from([Buffer.from(writeRecipe(map))])
      const { image } = await importSheetFile(database(), dataFolder(), 'generated map.json', recipe, { onProgress, signal })
      return image
    }),
  }
})
