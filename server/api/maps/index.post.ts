import { Readable } from 'node:stream'
import { defineEventHandler, setResponseStatus } from 'h3'
import { z } from 'zod'
import { drawnMapSchema } from '#core/journey/schema'
import { drawMap } from '#core/sheet/drawn-map'
import { jsonBody, orRefuse } from '../../http/refuse'
import { shapesFor } from '../../maps/world'
import { importSheetFile } from '../../sheets/import-sheet'
import { startImport } from '../../sheets/imports'
import { database, dataFolder } from '../../storage/database'

const body = z.object({ map: drawnMapSchema })

/** Draws a map and imports it as a vector image; answers with the id of the import. */
export default defineEventHandler(async (event) => {
  const { map } = await jsonBody(event, body)
  const { svg, layout } = orRefuse(() => drawMap(map, shapesFor(map)))
  setResponseStatus(event, 202)
  return {
    id: startImport(async (onProgress, signal) => {
      const { image } = await importSheetFile(database(), dataFolder(), 'drawn map.svg', Readable.from([Buffer.from(svg)]), {
        onProgress,
        signal,
      })
      return { ...image, georeference: layout.georeference }
    }),
  }
})
