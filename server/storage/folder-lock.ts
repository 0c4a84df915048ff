import { mkdirSync, readFileSync, writeFileSync } from 'node:fs'
import { join } from 'node:path'
import Database from 'better-sqlite3'

/** Another process works on the data folder; the message is one sentence for the user. */
export class FolderInUse extends Error {}

/** Locks that are held: one that nothing refers to would be closed with the garbage, and so given up. */
const held = new Set<Database.Database>()

/**
 * Locks a data folder for this process, so that two servers never work on one. The lock is SQLite's lock on an empty database file: the system
 * releases it when the process ends, however it ends.
 * @param address where this process can be reached, for the message in other ones; '' if it cannot
 * @returns releases the lock
 * @throws FolderInUse if another process holds the lock
 */
export function lockFolder(folder: string, address: string): () => void {
  mkdirSync(folder, { recursive: true })
  const note = join(folder, 'server.address')
  const lock = new Database(join(folder, 'server.lock'), { timeout: 0 })
  try {
    lock.exec('BEGIN EXCLUSIVE')
  } catch (error) {
    lock.close()
    if ((error as { code?: string }).code !== 'SQLITE_BUSY') throw error
    throw new FolderInUse(messageFor(folder, note))
  }
  held.add(lock)
  writeFileSync(note, address)
  return () => {
    held.delete(lock)
    lock.close()
  }
}

function messageFor(folder: string, note: string): string {
  let address = ''
  try {
    address = readFileSync(note, 'utf8').trim()
  } catch {
    // It has not been written yet.
  }
  const where = address === '' ? '' : `, at ${address}`
  return `Zephyrine is running on the data folder ${folder} already${where}: use that one, stop it, or choose another folder with ZEPHYRINE_DATA.`
}
