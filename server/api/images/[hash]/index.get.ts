import { defineEventHandler } from 'h3'
import { idParameter, refusal } from '../../../http/refuse'
import { database } from '../../../storage/database'
import { levelsOf } from '../../../storage/image-files'
import { findImage } from '../../../storage/images'

/** An image's size, and the levels it can be had in. */
export default defineEventHandler((event) => {
  const image = findImage(database(), idParameter(event, 'hash'))
  if (!image) throw refusal(404, 'This picture is not here.')
  return { width: image.width, height: image.height, levels: levelsOf(image) }
})
