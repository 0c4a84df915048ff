import { copyFileSync, existsSync, mkdirSync, readdirSync, readFileSync, renameSync, statSync, writeFileSync } from 'node:fs'
import { dirname, join, relative, resolve } from 'node:path'
import Database from 'better-sqlite3'
import { z } from 'zod'
import { JourneyError } from '#core/error'
import { openDatabase } from './database'
import { lockFolder } from './folder-lock'

/** A copy of a data folder, made while a server works on it. It is a data folder itself. */

const DATABASE = 'zephyrine.sqlite'
/** Says that a folder is a backup, and when it was last made. */
const NOTE = 'backup.json'
/**
 * What is copied beside the database. Posters are painted again, answers of tile services are asked for again, and the keys of services are not given away:
 * whoever has the copy could use them.
 */
const FOLDERS = ['images', 'fonts', 'audio', 'luts', 'exports'] as const

const noteSchema = z.object({ format: z.literal('zephyrine-backup'), madeAt: z.string() })

/** What was done: journeys in the copy, and files that were copied or were there already. */
export interface BackedUp {
  journeys: number
  copied: number
  kept: number
  bytes: number
}

/**
 * Copies a data folder, or brings an earlier copy up to date: files are named by their content, so those that are there already stay.
 * @throws JourneyError if the copy would lie in the data folder, or in a folder with something else in it
 */
export async function backUp(folder: string, out: string): Promise<BackedUp> {
  if (!existsSync(join(folder, DATABASE)))
    throw new JourneyError(`There is no data in ${folder}: say which folder it is with ZEPHYRINE_DATA.`)
  const within = relative(resolve(folder), resolve(out))
  if (within === '' || !within.startsWith('..'))
    throw new JourneyError(`${out} is in the data folder itself: choose one elsewhere, best on another disk.`)
  if (existsSync(out) && readdirSync(out).length > 0 && !isBackup(out))
    throw new JourneyError(`${out} has other files in it: choose an empty folder, or an earlier backup.`)
  mkdirSync(out, { recursive: true })
  // The note comes first: a copy that breaks off is gone on with at the next time.
  const note = () => writeFileSync(join(out, NOTE), JSON.stringify({ format: 'zephyrine-backup', madeAt: new Date().toISOString() }))
  if (!isBackup(out)) note()
  const db = openDatabase(folder)
  try {
    // The database before the files: what it names is there then, but for what is deleted meanwhile, which nothing uses.
    const journeys = db.prepare('SELECT count(*) FROM journeys WHERE deleted_at IS NULL').pluck().get() as number
    const snapshot = join(out, `${DATABASE}.part`)
    await db.backup(snapshot)
    renameSync(snapshot, join(out, DATABASE))
    const done = await copyFiles(folder, out)
    note()
    return { journeys, ...done }
  } finally {
    db.close()
  }
}

function isBackup(folder: string): boolean {
  try {
    return noteSchema.safeParse(JSON.parse(readFileSync(join(folder, NOTE), 'utf8'))).success
  } catch {
    return false
  }
}

/**
 * Copies a backup into a data folder in which there are no journeys yet.
 * @throws JourneyError if there are some, or it is no backup; FolderInUse if a server works on the folder
 */
export async function restore(from: string, folder: string): Promise<BackedUp> {
  if (!isBackup(from) || !existsSync(join(from, DATABASE)))
    throw new JourneyError(`${from} is no backup: choose the folder that was made by one.`)
  const release = lockFolder(folder, '')
  try {
    if (existsSync(join(folder, DATABASE))) {
      const db = openDatabase(folder)
      const count = db.prepare('SELECT count(*) FROM journeys').pluck().get() as number
      db.close()
      if (count > 0)
        throw new JourneyError(`There are journeys in ${folder} already, which would be lost: choose an empty folder with ZEPHYRINE_DATA.`)
    }
    const done = await copyFiles(from, folder)
    const source = new Database(join(from, DATABASE))
    try {
      const journeys = source.prepare('SELECT count(*) FROM journeys WHERE deleted_at IS NULL').pluck().get() as number
      // Last of all: what is broken off has no journeys, and is begun again.
      await source.backup(join(folder, DATABASE))
      return { journeys, ...done }
    } finally {
      source.close()
    }
  } finally {
    release()
  }
}

async function copyFiles(from: string, to: string): Promise<Omit<BackedUp, 'journeys'>> {
  const done = { copied: 0, kept: 0, bytes: 0 }
  for (const path of FOLDERS.flatMap((name) => filesIn(from, name))) {
    const [source, target] = [join(from, path), join(to, path)]
    // It may have been deleted since it was listed.
    const bytes = statSync(source, { throwIfNoEntry: false })?.size
    if (bytes === undefined) continue
    if (statSync(target, { throwIfNoEntry: false })?.size === bytes) done.kept++
    else {
      mkdirSync(dirname(target), { recursive: true })
      await copyWhole(source, target)
      done.copied++
    }
    done.bytes += bytes
  }
  return done
}

/** Those that are whole: what comes in, or is being written, has another name than it will have. */
const filesIn = (folder: string, name: string): string[] => {
  const path = join(folder, name)
  if (!existsSync(path)) return []
  return readdirSync(path, { recursive: true, encoding: 'utf8' })
    .filter(
      (file) =>
        !/incoming-|\.part$|\.log$|\.sound$|-journal$/.test(file) && statSync(join(path, file), { throwIfNoEntry: false })?.isFile(),
    )
    .map((file) => join(name, file))
}

/** A file has its name only when it is whole. Tiles of drawings are a database to which tiles are added while they are looked at. */
async function copyWhole(source: string, target: string): Promise<void> {
  const part = `${target}.part`
  if (source.endsWith('.tiles')) {
    const db = new Database(source, { readonly: true })
    try {
      await db.backup(part)
    } finally {
      db.close()
    }
  } else copyFileSync(source, part)
  renameSync(part, target)
}
