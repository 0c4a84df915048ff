import { defineEventHandler, setResponseHeaders } from 'h3'
import { z } from 'zod'
import { JourneyError } from '#core/error'
import { drawnMapSchema } from '#core/journey/schema'
import { jsonBody, refusal } from '../../http/refuse'
import { Overtaken, previewMap } from '../../maps/mapper'

const body = z.object({ map: drawnMapSchema })

/** A small preview of a map; a header tells how far apart the points of its coasts are in metres, where it has any. */
export default defineEventHandler(async (event) => {
  const { map } = await jsonBody(event, body)
  const left = new AbortController()
  event.node.res.on('close', () => left.abort(new Overtaken()))
  try {
    const { webp, coasts } = await previewMap(map, left.signal)
    setResponseHeaders(event, {
      'content-type': 'image/webp',
      ...(coasts !== null && { 'x-coast-metres': coasts.toFixed(1) }),
    })
    return Buffer.from(webp, 'base64')
  } catch (error) {
    if (error instanceof Overtaken) throw refusal(409, 'A newer preview was asked for.')
    throw refusal(422, error instanceof JourneyError ? error.message : 'This map takes too long to draw: choose a smaller region.')
  }
})
