import { defineEventHandler, getQuery } from 'h3'
import { z } from 'zod'
import { addFont, MOST_FONT_BYTES } from '../../fonts/add-font'
import { boundedBody, orRefuseLater, refusal } from '../../http/refuse'
import { dataFolder } from '../../storage/database'

const query = z.object({ name: z.string().min(1).max(255) })

/** Keeps a font file from the request's body, `name` being its file name; answers with what is needed to lay letters out. */
export default defineEventHandler(async (event) => {
  const parsed = query.safeParse(getQuery(event))
  if (!parsed.success) throw refusal(400, 'The file came without a name.')
  const { name } = parsed.data
  const file = await boundedBody(
    event,
    MOST_FONT_BYTES,
    `“${name}” is larger than ${MOST_FONT_BYTES / 1024 ** 2} MiB: choose a smaller font.`,
  )
  return orRefuseLater(addFont(dataFolder(), file, name))
})
