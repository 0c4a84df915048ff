import { defineEventHandler, setResponseStatus } from 'h3'
import { z } from 'zod'
import { fileHash } from '#core/journey/values'
import { tileOrderSchema } from '#core/tiles/order'
import { serviceTilesOf, wholeSheet } from '#core/tiles/sheet-plan'
import { jsonBody, orRefuse } from '../../http/refuse'
import { startImport } from '../../imports/queue'
import { database, dataFolder } from '../../storage/database'
import { takeSheet } from '../../tiles/take-sheet'

/** `from` is the image of a sheet whose tiles need not be asked for again. */
const body = z.object({ order: tileOrderSchema, from: fileHash.optional() })

/** Takes the tiles of a sheet; answers with the id of the import. */
export default defineEventHandler(async (event) => {
  const { order, from } = await jsonBody(event, body)
  orRefuse(() => serviceTilesOf(order.service.grid, order.plan, order.wanted ?? wholeSheet(order.plan)))
  setResponseStatus(event, 202)
  return {
    id: startImport(async (onProgress, signal) => {
      const { image, missing } = await takeSheet(database(), dataFolder(), order, from, { onProgress, signal })
      return { ...image, missing }
    }),
  }
})
