/** Puts the demos into the data folder, once. */
import { seedDemos } from '#demo/seed'
import { dataFolder, openDatabase } from '../../server/storage/database'
import { FolderInUse, lockFolder } from '../../server/storage/folder-lock'

try {
  const release = lockFolder(dataFolder(), '')
  const db = openDatabase(dataFolder())
  await seedDemos(db, dataFolder())
  db.close()
  release()
} catch (error) {
  if (!(error instanceof FolderInUse)) throw error
  console.error(error.message)
  process.exitCode = 1
}
