import { defineEventHandler, getQuery, sendNoContent, setResponseHeaders } from 'h3'
import { z } from 'zod'
import { PENS } from '#core/sheet/pen'
import { idParameter, refusal } from '../../../../../../http/refuse'
import { hasTiles, readTile } from '../../../../../../sheets/tiles'
import { database, dataFolder } from '../../../../../../storage/database'
import { findImage } from '../../../../../../storage/images'

const query = z.object({ pen: z.coerce.number().int().min(PENS.least).max(PENS.most).optional() })

/**
 * A tile of an image, PNG or WebP; no content where nothing lies there. Its address holds the image's content hash, so it never changes; of a generated map
 * it says for which pen it is drawn.
 */
export default defineEventHandler(async (event) => {
  const image = findImage(database(), idParameter(event, 'hash'))
  const [level, column, row] = ['level', 'column', 'row'].map((name) => Number(idParameter(event, name))) as [number, number, number]
  if (!image || !hasTiles(dataFolder(), image.hash)) throw refusal(404, 'This picture is not here.')
  const asked = query.safeParse(getQuery(event))
  if (!asked.success) throw refusal(400, `A pen is a whole number from ${PENS.least} to ${PENS.most}.`)
  const data = await readTile(dataFolder(), { ...image, image: image.hash, ...asked.data }, { level, column, row })
  setResponseHeaders(event, { 'cache-control': 'private, max-age=31536000, immutable' })
  if (!data) return sendNoContent(event)
  setResponseHeaders(event, { 'content-type': data[0] === 0x89 ? 'image/png' : 'image/webp' })
  return data
})
