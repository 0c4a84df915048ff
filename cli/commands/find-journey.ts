import { existsSync, mkdtempSync, readFileSync, rmSync } from 'node:fs'
import { tmpdir } from 'node:os'
import { basename, join } from 'node:path'
import { JourneyError } from '#core/error'
import { JOURNEY_FILE_ENDING } from '#core/formats/journey-file'
import { parseJourney } from '#core/journey/parse'
import type { Journey } from '#core/journey/schema'
import { freshDemo, isDemoId } from '#demo/seed'
import { unpackJourney } from '../../server/journey-files/unpack'
import { dataFolder, openDatabase } from '../../server/storage/database'
import { readJourney } from '../../server/storage/journeys'
import { UsageError } from '../command'

interface FoundJourney {
  journey: Journey
  /** The data folder with its files. */
  folder: string
  /** Its id there, if it is one of that folder. */
  id?: string
}

/** A journey by the name of a demo, by its id in the data folder, or by the path of its file. @throws UsageError if there is none */
export async function findJourney(name: string): Promise<FoundJourney> {
  if (name.endsWith(JOURNEY_FILE_ENDING)) return unpacked(name)
  if (isDemoId(name)) return freshDemo(name)
  const folder = dataFolder()
  // Ids have neither dots nor slashes; file names have.
  if (/[./\\]/.test(name)) return { journey: parseJourney(readJson(name)), folder }
  const db = openDatabase(folder)
  const record = readJourney(db, name)
  db.close()
  if (!record)
    throw new UsageError(`There is no journey "${name}" in ${folder}: give the id from its page's address, or the path of a journey file.`)
  return { journey: record.journey, folder, id: name }
}

/** A journey file, in a data folder of its own that is there as long as the command runs. @throws JourneyError if anything of it is missing */
async function unpacked(path: string): Promise<FoundJourney> {
  if (!existsSync(path)) throw new UsageError(`The journey file ${path} cannot be read: check the path.`)
  const folder = mkdtempSync(join(tmpdir(), 'zephyrine-file-'))
  process.on('exit', () => rmSync(folder, { recursive: true, force: true }))
  const db = openDatabase(folder)
  try {
    const { journey, missing } = await unpackJourney(db, folder, path, basename(path))
    if (missing.length > 0) throw new JourneyError(`${basename(path)} is not whole. ${missing.join(' ')}`)
    return { journey, folder }
  } finally {
    db.close()
  }
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
