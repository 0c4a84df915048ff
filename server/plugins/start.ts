import { mapDataMade } from '../maps/data'
import { sweepPosters } from '../posters/poster-files'
import { cutMissingTiles } from '../sheets/import-sheet'
import { sweepBrokenOff } from '../tiles/take-sheet'
import { database, dataFolder } from '../storage/database'
import { failInterruptedExports, finishedExports } from '../storage/exports'
import { FILED_KINDS, sweepFiled } from '../storage/filed'
import { FolderInUse, lockFolder } from '../storage/folder-lock'
import { listImages } from '../storage/images'
import { journeyIds, sweepJourneys } from '../storage/journeys'
import { sweepFiles, sweepImages } from '../storage/sweep'

/** Deleted journeys can be restored for a week. */
const KEPT_DELETED = 7 * 24 * 3600 * 1000

/** How long unused images are kept: undo can bring a removed map back while the window is open. */
const KEPT_UNUSED = 2 * 24 * 3600 * 1000

export default defineNitroPlugin(() => {
  // By default the server can be reached only from this machine. An empty name would mean all addresses.
  const host = (process.env.NITRO_HOST ||= process.env.HOST || '127.0.0.1')
  const port = process.env.NITRO_PORT || process.env.PORT || '3000'
  const address = `http://${host}:${port}/`
  endWhereThePortIsTaken(address)
  lockOrEnd(address)
  const db = database()
  failInterruptedExports(db)
  // What cannot be swept now is swept at another start.
  attempt(() => sweepJourneys(db, KEPT_DELETED))
  attempt(() => sweepImages(db, dataFolder(), KEPT_UNUSED))
  for (const kind of FILED_KINDS) attempt(() => sweepFiled(db, dataFolder(), kind, KEPT_UNUSED))
  attempt(() => sweepFiles(dataFolder(), finishedExports(db)))
  attempt(() => sweepBrokenOff(dataFolder()))
  attempt(() => sweepPosters(dataFolder(), new Set(journeyIds(db))))
  void mapDataMade().catch((error: unknown) => console.error(error))
  void cutMissingTiles(dataFolder(), listImages(db))
})

function attempt(sweep: () => void): void {
  try {
    sweep()
  } catch (error) {
    console.error('The data folder could not be tidied up:', error)
  }
}

/** Before anything in the folder is touched: one server to a data folder. */
function lockOrEnd(address: string): void {
  try {
    lockFolder(dataFolder(), address)
  } catch (error) {
    if (!(error instanceof FolderInUse)) throw error
    console.error(error.message)
    process.exit(1)
  }
}

/** Nitro would only log the error, and go on without listening. */
function endWhereThePortIsTaken(address: string): void {
  process.on('uncaughtException', (error: NodeJS.ErrnoException) => {
    if (error.syscall !== 'listen') return
    console.error(
      error.code === 'EADDRINUSE'
        ? `Another program uses the address ${address}: choose another port with PORT=3456.`
        : `The address ${address} cannot be used: ${error.message}.`,
    )
    process.exit(1)
  })
}
