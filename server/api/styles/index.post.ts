import { defineEventHandler } from 'h3'
import { newStyleSchema } from '#core/dress/own-styles'
import { jsonBody, orRefuse } from '../../http/refuse'
import { database, whenFree } from '../../storage/database'
import { insertStyle } from '../../storage/styles'

export default defineEventHandler(async (event) => {
  const style = await jsonBody(event, newStyleSchema)
  return whenFree(() => orRefuse(() => insertStyle(database(), style)))
})
