import { createReadStream } from 'node:fs'
import { mkdir, rm } from 'node:fs/promises'
import { join } from 'node:path'
import { defineEventHandler, setResponseStatus } from 'h3'
import { nanoid } from 'nanoid'
import { z } from 'zod'
import { drawnMapSchema } from '#core/journey/schema'
import { layoutMap } from '#core/maps/drawn-map'
import { jsonBody, orRefuse } from '../../http/refuse'
import { drawMapTo } from '../../maps/mapper'
import { importSheetFile } from '../../sheets/import-sheet'
import { startImport } from '../../sheets/imports'
import { database, dataFolder } from '../../storage/database'

const body = z.object({ map: drawnMapSchema })

/** Draws a map and imports it as a vector image; answers with the id of the import. */
export default defineEventHandler(async (event) => {
  const { map } = await jsonBody(event, body)
  orRefuse(() => layoutMap(map))
  setResponseStatus(event, 202)
  return {
    id: startImport(async (onProgress, signal) => {
      const folder = join(dataFolder(), 'images')
      const drawn = join(folder, `incoming-${nanoid(10)}.svg`)
      try {
        await mkdir(folder, { recursive: true })
        const georeference = await drawMapTo(map, drawn, signal)
        onProgress(0.3)
        const { image } = await importSheetFile(database(), dataFolder(), 'drawn map.svg', createReadStream(drawn), {
          onProgress: (share) => onProgress(0.3 + 0.7 * share),
          signal,
        })
        return { ...image, georeference }
      } finally {
        await rm(drawn, { force: true })
      }
    }),
  }
})
