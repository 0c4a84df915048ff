import { createEventStream, defineEventHandler } from 'h3'
import { findExport, watchExport } from '../../../exports/queue'
import { idParameter, noExport } from '../../../http/refuse'
import type { ExportRecord } from '../../../storage/exports'

/** An export's record as server-sent events: at once, at each change, and for the last time when it has ended. */
export default defineEventHandler(async (event) => {
  const id = idParameter(event)
  const record = findExport(id)
  if (!record) throw noExport()
  const stream = createEventStream(event)
  const send = async (state: ExportRecord) => {
    await stream.push(JSON.stringify(state))
    if (state.state !== 'queued' && state.state !== 'running') await stream.close()
  }
  const stop = watchExport(id, (state) => void send(state))
  stream.onClosed(async () => {
    stop()
    await stream.close()
  })
  void send(record)
  return stream.send()
})
