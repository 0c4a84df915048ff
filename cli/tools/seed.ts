/** Puts the demos into the data folder, once, with their pictures for the list. */
import { seedDemos } from '#demo/seed'
import { paintPoster } from '#render/poster'
import { posterPath } from '../../server/posters/poster-files'
import { dataFolder, openDatabase } from '../../server/storage/database'
import { FolderInUse, lockFolder } from '../../server/storage/folder-lock'
import { readJourney } from '../../server/storage/journeys'

try {
  const release = lockFolder(dataFolder(), '')
  const db = openDatabase(dataFolder())
  for (const id of await seedDemos(db, dataFolder())) {
    const { journey, revision } = readJourney(db, id)!
    await paintPoster(dataFolder(), journey, posterPath(dataFolder(), id, revision))
  }
  db.close()
  release()
} catch (error) {
  if (!(error instanceof FolderInUse)) throw error
  console.error(error.message)
  process.exitCode = 1
}
