import { createReadStream } from 'node:fs'
import { defineEventHandler, sendStream, setResponseHeaders } from 'h3'
import { levelsOf } from '#core/sheet/levels'
import { idParameter, refusal } from '../../../http/refuse'
import { database, dataFolder } from '../../../storage/database'
import { levelPath } from '../../../storage/image-files'
import { findImage } from '../../../storage/images'

/** A copy of an image at half, a quarter, ... of its size. Its address holds its content's hash, so it never changes. */
export default defineEventHandler((event) => {
  const image = findImage(database(), idParameter(event, 'hash'))
  const level = Number(idParameter(event, 'level'))
  if (!image || !levelsOf(image).includes(level)) throw refusal(404, 'This picture is not here.')
  setResponseHeaders(event, { 'content-type': 'image/webp', 'cache-control': 'private, max-age=31536000, immutable' })
  return sendStream(event, createReadStream(levelPath(dataFolder(), image.hash, level)))
})
