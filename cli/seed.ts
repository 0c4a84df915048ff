/** Puts the demo into the data folder, once. */
import { seedDemo } from '#demo/seed'
import { dataFolder, openDatabase } from '../server/storage/database'

const db = openDatabase(dataFolder())
await seedDemo(db, dataFolder())
db.close()
