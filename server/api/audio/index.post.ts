import { defineEventHandler } from 'h3'
import { addAudio } from '../../audio/add-audio'
import { fileNameIn, orRefuseLater } from '../../http/refuse'
import { dataFolder } from '../../storage/database'

/** Takes in a file of sound from the request's body, `name` being its file name; who hangs up cancels. */
export default defineEventHandler(async (event) => {
  const name = fileNameIn(event)
  const control = new AbortController()
  const { req, res } = event.node
  res.on('close', () => res.writableEnded || control.abort(new Error('cancelled')))
  return orRefuseLater(addAudio(dataFolder(), req, name, control.signal))
})
