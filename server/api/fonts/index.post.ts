import { defineEventHandler } from 'h3'
import { addFont, MOST_FONT_BYTES } from '../../fonts/add-font'
import { namedFile, orRefuseLater } from '../../http/refuse'
import { dataFolder } from '../../storage/database'

/** Keeps a font file from the request's body, `name` being its file name; answers with what is needed to lay letters out. */
export default defineEventHandler(async (event) => {
  const { name, file } = await namedFile(event, MOST_FONT_BYTES, 'font')
  return orRefuseLater(addFont(dataFolder(), file, name))
})
