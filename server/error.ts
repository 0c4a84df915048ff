import type { NitroErrorHandler } from 'nitropack'
import { send, setResponseHeader, setResponseStatus } from 'h3'
import { troubleOf } from './http/trouble'

/** Errors as JSON with a sentence for the user. What went wrong inside is only logged: it may tell paths of the machine. */
const answerError: NitroErrorHandler = (error, event) => {
  const trouble = troubleOf(error)
  const isOurs = !(error.unhandled || error.fatal)
  const statusCode = trouble?.status ?? (isOurs ? error.statusCode : 500)
  const message = trouble?.message ?? (isOurs ? error.message : 'Something went wrong inside Zephyrine: try again.')
  if (!trouble && !isOurs) console.error(error)
  setResponseStatus(event, statusCode)
  setResponseHeader(event, 'content-type', 'application/json')
  setResponseHeader(event, 'cache-control', 'no-cache')
  return send(event, JSON.stringify({ error: true, statusCode, message, data: isOurs ? error.data : undefined }))
}

export default answerError
