import { defineEventHandler, getQuery } from 'h3'
import { z } from 'zod'
import { MOST_CUBE_BYTES } from '#core/colour/cube'
import { boundedBody, orRefuseLater, refusal } from '../../http/refuse'
import { dataFolder } from '../../storage/database'
import { lutPath } from '../../storage/lut-files'
import { takeIn } from '../../storage/take-in'

const query = z.object({ name: z.string().min(1).max(255) })

/** Keeps a .cube file from the request's body, `name` being its file name. */
export default defineEventHandler(async (event) => {
  const parsed = query.safeParse(getQuery(event))
  if (!parsed.success) throw refusal(400, 'The file came without a name.')
  const { name } = parsed.data
  const file = await boundedBody(
    event,
    MOST_CUBE_BYTES,
    `“${name}” is larger than ${MOST_CUBE_BYTES / 1024 ** 2} MiB: choose a smaller table.`,
  )
  const { hash } = await orRefuseLater(takeIn((of) => lutPath(dataFolder(), of), file, name, 'lut'))
  return {
    file: hash,
    name:
      name
        .replace(/\.cube$/i, '')
        .trim()
        .slice(0, 80) || 'Table',
  }
})
