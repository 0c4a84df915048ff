import { createReadStream } from 'node:fs'
import { join } from 'node:path'
import type { Journey } from '#core/journey/schema'
import { importSheetFile } from '../server/sheets/import-sheet'
import type { Db } from '../server/storage/database'
import { openDatabase } from '../server/storage/database'
import { insertJourney } from '../server/storage/journeys'
import { demoJourney, demoPhoto, demoSheet } from './journey'
import { nightJourney } from './night'
import { walkJourney } from './walk'

export const DEMO_ID = 'demo'

/** The journeys that ship with the application, by their ids. */
export const DEMO_IDS = [DEMO_ID, 'night', 'walk'] as const
export type DemoId = (typeof DEMO_IDS)[number]

export const isDemoId = (name: string): name is DemoId => (DEMO_IDS as readonly string[]).includes(name)

/** Takes the images of the Lantern Isles into a folder. @returns what makes each demo of them */
async function demosWithImages(db: Db, folder: string): Promise<(id: DemoId) => Journey> {
  const take = async (name: string) => (await importSheetFile(db, folder, name, createReadStream(join(process.cwd(), 'demo', name)))).image
  const sheet = demoSheet(await take('lantern-isles.webp'))
  const photo = demoPhoto(await take('emberlight.webp'))
  return (id) => {
    switch (id) {
      case 'demo':
        return demoJourney(sheet, photo)
      case 'night':
        return nightJourney(sheet)
      case 'walk':
        return walkJourney(sheet)
      default:
        return id satisfies never
    }
  }
}

/**
 * Seeds demos into a data folder, each unless that was done before (it may have been changed or deleted since).
 * @param ids from the one to be listed first to the last
 * @returns those that are new
 */
export async function seedDemos(db: Db, folder: string, ids: readonly DemoId[] = DEMO_IDS): Promise<DemoId[]> {
  const missing = ids.filter((id) => !db.prepare('SELECT 1 FROM journeys WHERE id = ?').get(id))
  if (missing.length === 0) return []
  const demo = await demosWithImages(db, folder)
  // The list of journeys has the newest first.
  for (const id of missing.toReversed()) insertJourney(db, demo(id), id)
  return missing
}

/** A demo as it ships, with its images in a folder outside the application's data. */
export async function freshDemo(id: DemoId = DEMO_ID): Promise<{ journey: Journey; folder: string }> {
  const folder = join(process.cwd(), 'node_modules/.cache/zephyrine')
  const db = openDatabase(folder)
  try {
    return { journey: (await demosWithImages(db, folder))(id), folder }
  } finally {
    db.close()
  }
}
