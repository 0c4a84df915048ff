import { defineEventHandler, setResponseHeaders } from 'h3'
import { z } from 'zod'
import { glimpseSchema } from '#core/tiles/order'
import { jsonBody, orRefuseLater, signalOf } from '../../http/refuse'
import { dataFolder } from '../../storage/database'
import { glimpseService } from '../../tiles/services'

const body = z.object({ glimpse: glimpseSchema })

/** A small picture of a part of a service's map; the headers give the side of its tiles, their mean bytes, and the level that is shown. */
export default defineEventHandler(async (event) => {
  const { glimpse } = await jsonBody(event, body)
  const { webp, side, bytes, level } = await orRefuseLater(glimpseService(dataFolder(), glimpse, signalOf(event)))
  setResponseHeaders(event, { 'content-type': 'image/webp', 'x-tile-side': side, 'x-tile-bytes': Math.round(bytes), 'x-level': level })
  return Buffer.from(webp, 'base64')
})
