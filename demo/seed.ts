import { createReadStream } from 'node:fs'
import { join } from 'node:path'
import type { Journey } from '#core/journey/schema'
import { importSheetFile } from '../server/sheets/import-sheet'
import type { Db } from '../server/storage/database'
import { openDatabase } from '../server/storage/database'
import { insertJourney } from '../server/storage/journeys'
import { demoJourney, demoPhoto, demoSheet } from './journey'

export const DEMO_ID = 'demo'

async function demoWithImages(db: Db, folder: string): Promise<Journey> {
  const take = async (name: string) => (await importSheetFile(db, folder, name, createReadStream(join(process.cwd(), 'demo', name)))).image
  return demoJourney(demoSheet(await take('lantern-isles.webp')), demoPhoto(await take('emberlight.webp')))
}

/** Seeds the Lantern Isles into a data folder, unless that was done before (they may have been changed or deleted since). */
export async function seedDemo(db: Db, folder: string): Promise<void> {
  if (db.prepare('SELECT 1 FROM journeys WHERE id = ?').get(DEMO_ID)) return
  insertJourney(db, await demoWithImages(db, folder), DEMO_ID)
}

/** The demo as it ships, with its images in a folder outside the application's data. */
export async function freshDemo(): Promise<{ journey: Journey; folder: string }> {
  const folder = join(process.cwd(), 'node_modules/.cache/zephyrine')
  const db = openDatabase(folder)
  try {
    return { journey: await demoWithImages(db, folder), folder }
  } finally {
    db.close()
  }
}
