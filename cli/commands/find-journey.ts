import { readFileSync } from 'node:fs'
import { parseJourney } from '#core/journey/parse'
import type { Journey } from '#core/journey/schema'
import { freshDemo, isDemoId } from '#demo/seed'
import { dataFolder, openDatabase } from '../../server/storage/database'
import { readJourney } from '../../server/storage/journeys'
import { UsageError } from '../command'

/** A journey by the name of a demo, by its id in the data folder, or by the path of its file; and the folder with its images. @throws UsageError if there is none */
export async function findJourney(name: string): Promise<{ journey: Journey; folder: string }> {
  if (isDemoId(name)) return freshDemo(name)
  const folder = dataFolder()
  // Ids have neither dots nor slashes; file names have.
  if (/[./\\]/.test(name)) return { journey: parseJourney(readJson(name)), folder }
  const db = openDatabase(folder)
  const record = readJourney(db, name)
  db.close()
  if (!record)
    throw new UsageError(`There is no journey "${name}" in ${folder}: give the id from its page's address, or the path of a journey file.`)
  return { journey: record.journey, folder }
}

function readJson(path: string): unknown {
  let text: string
  try {
    text = readFileSync(path, 'utf8')
  } catch {
    throw new UsageError(`The journey file ${path} cannot be read: check the path.`)
  }
  try {
    return JSON.parse(text)
  } catch (error) {
    throw new UsageError(`The journey file ${path} is not JSON: ${(error as Error).message}.`)
  }
}
