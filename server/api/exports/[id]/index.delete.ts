import { rmSync } from 'node:fs'
import { defineEventHandler, sendNoContent } from 'h3'
import { cancelExport, exportFile, findExport } from '../../../exports/queue'
import { idParameter, noExport } from '../../../http/refuse'
import { database, whenFree } from '../../../storage/database'
import { deleteExport } from '../../../storage/exports'

/** Cancels an export that waits or runs; deletes one that has ended, with its film. */
export default defineEventHandler(async (event) => {
  const id = idParameter(event)
  const record = findExport(id)
  if (!record) throw noExport()
  if (record.state === 'queued' || record.state === 'running') cancelExport(id)
  else {
    await whenFree(() => deleteExport(database(), id))
    rmSync(exportFile(record), { force: true })
  }
  return sendNoContent(event)
})
