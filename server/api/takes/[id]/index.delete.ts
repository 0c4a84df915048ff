import { defineEventHandler, sendNoContent } from 'h3'
import { idParameter } from '../../../http/refuse'
import { dataFolder } from '../../../storage/database'
import { discardBrokenOff } from '../../../tiles/take-sheet'

/** Deletes what has come of a sheet whose taking was broken off. */
export default defineEventHandler((event) => {
  discardBrokenOff(dataFolder(), idParameter(event))
  return sendNoContent(event)
})
