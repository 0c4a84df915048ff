import { database, dataFolder } from '../storage/database'
import { failInterruptedExports, finishedExportIds } from '../storage/exports'
import { journeyIds, sweepJourneys } from '../storage/journeys'
import { places } from '../places/places'
import { cutMissingTiles } from '../sheets/import-sheet'
import { listImages } from '../storage/images'
import { sweepPosters } from '../posters/poster-files'
import { sweepFiles, sweepImages } from '../storage/sweep'

/** Deleted journeys can be restored for a week. */
const KEPT_DELETED = 7 * 24 * 3600 * 1000

/** How long unused images are kept: undo can bring a removed map back while the window is open. */
const KEPT_UNUSED = 2 * 24 * 3600 * 1000

export default defineNitroPlugin(() => {
  // By default the server can be reached only from this machine.
  process.env.NITRO_HOST ??= process.env.HOST ?? '127.0.0.1'
  const db = database()
  failInterruptedExports(db)
  sweepJourneys(db, KEPT_DELETED)
  sweepImages(db, dataFolder(), KEPT_UNUSED)
  sweepFiles(dataFolder(), finishedExportIds(db))
  sweepPosters(dataFolder(), new Set(journeyIds(db)))
  void places().catch((error: unknown) => console.error(error))
  void cutMissingTiles(dataFolder(), listImages(db))
})
