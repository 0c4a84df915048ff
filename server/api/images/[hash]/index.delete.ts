import { defineEventHandler, sendNoContent } from 'h3'
import { idParameter, refusal } from '../../../http/refuse'
import { database, dataFolder, whenFree } from '../../../storage/database'
import { findImage, unusedImages } from '../../../storage/images'
import { removeImage } from '../../../storage/sweep'

/** Deletes a picture that no journey uses, with its tiles. */
export default defineEventHandler(async (event) => {
  const db = database()
  const hash = idParameter(event, 'hash')
  if (!findImage(db, hash)) throw refusal(404, 'This picture is not here.')
  if (!unusedImages(db, 0).includes(hash)) throw refusal(409, 'A journey uses this picture, or one that was deleted and can be restored.')
  await whenFree(() => removeImage(db, dataFolder(), hash))
  return sendNoContent(event)
})
