import { createEventStream, defineEventHandler } from 'h3'
import { idParameter, noImport } from '../../../http/refuse'
import type { ImportRecord } from '../../../imports/queue'
import { findImport, watchImport } from '../../../imports/queue'

/** An import's state as server-sent events: at once, at each change, and for the last time when it has ended. */
export default defineEventHandler((event) => {
  const id = idParameter(event)
  const record = findImport(id)
  if (!record) throw noImport()
  const stream = createEventStream(event)
  const send = async (state: ImportRecord) => {
    await stream.push(JSON.stringify(state))
    if (state.state !== 'running') await stream.close()
  }
  const stop = watchImport(id, (state) => void send(state))
  stream.onClosed(async () => {
    stop()
    await stream.close()
  })
  void send(record)
  return stream.send()
})
