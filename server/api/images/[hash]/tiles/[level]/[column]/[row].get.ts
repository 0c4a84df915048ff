import { defineEventHandler, sendNoContent, setResponseHeaders } from 'h3'
import { idParameter, refusal } from '../../../../../../http/refuse'
import { hasTiles, readTile } from '../../../../../../sheets/tiles'
import { database, dataFolder } from '../../../../../../storage/database'
import { findImage } from '../../../../../../storage/images'

/** A tile of an image, PNG or WebP; no content where nothing lies there. Its address holds the image's content hash, so it never changes. */
export default defineEventHandler(async (event) => {
  const image = findImage(database(), idParameter(event, 'hash'))
  const [level, column, row] = ['level', 'column', 'row'].map((name) => Number(idParameter(event, name))) as [number, number, number]
  if (!image || !hasTiles(dataFolder(), image.hash)) throw refusal(404, 'This picture is not here.')
  const data = await readTile(dataFolder(), { ...image, image: image.hash }, { level, column, row })
  setResponseHeaders(event, { 'cache-control': 'private, max-age=31536000, immutable' })
  if (!data) return sendNoContent(event)
  setResponseHeaders(event, { 'content-type': data[0] === 0x89 ? 'image/png' : 'image/webp' })
  return data
})
