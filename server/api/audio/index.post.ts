import { defineEventHandler, getQuery } from 'h3'
import { z } from 'zod'
import { addAudio } from '../../audio/add-audio'
import { orRefuseLater, refusal } from '../../http/refuse'
import { dataFolder } from '../../storage/database'

const query = z.object({ name: z.string().min(1).max(255) })

/** Takes in a file of sound from the request's body, `name` being its file name; who hangs up cancels. */
export default defineEventHandler(async (event) => {
  const parsed = query.safeParse(getQuery(event))
  if (!parsed.success) throw refusal(400, 'The file came without a name.')
  const control = new AbortController()
  const { req, res } = event.node
  res.on('close', () => res.writableEnded || control.abort(new Error('cancelled')))
  return orRefuseLater(addAudio(dataFolder(), req, parsed.data.name, control.signal))
})
