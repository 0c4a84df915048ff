import { defineEventHandler } from 'h3'
import { z } from 'zod'
import { jsonBody, orRefuseLater, signalOf } from '../../http/refuse'
import { dataFolder } from '../../storage/database'
import { describeService } from '../../tiles/services'

const body = z.object({ address: z.string().max(2000), key: z.string().max(500).optional() })

/** Finds out what tiles there are at an address. A key in it, or beside it, is kept for the service and not given back. */
export default defineEventHandler(async (event) => {
  const { address, key } = await jsonBody(event, body)
  return orRefuseLater(describeService(dataFolder(), address, key, signalOf(event)))
})
