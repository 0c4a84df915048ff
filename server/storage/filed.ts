import { isFileHash } from '#core/journey/values'
import { existsSync, readdirSync, rmSync, statSync } from 'node:fs'
import { join } from 'node:path'
import type { Db } from './database'

/** What is kept as files alone, each beginning with its content hash: fonts of one's own, pieces of sound, and tables of colours; and where journeys name them. */
const NAMED_IN = { fonts: '$.fonts', audio: '$.audio', luts: '$.grade' } as const
export type FiledKind = keyof typeof NAMED_IN
export const FILED_KINDS = Object.keys(NAMED_IN) as FiledKind[]

export interface Filed {
  /** SHA-256 of the file that came, in hexadecimal. */
  hash: string
  bytes: number
  /** What a journey calls it; null where none has it. */
  name: string | null
  /** Whether a journey (also one that can be restored), a version of one, a style or an export under way has it. */
  isUsed: boolean
}

const HASH_LENGTH = 64

/** The files of a kind in a data folder, without those that are still coming in. */
function filesOf(folder: string, kind: FiledKind): { hash: string; path: string }[] {
  const path = join(folder, kind)
  if (!existsSync(path)) return []
  return readdirSync(path)
    .map((file) => ({ hash: file.slice(0, HASH_LENGTH), path: join(path, file) }))
    .filter(({ hash }) => isFileHash(hash))
}

/** Tells whether anything has the file of a content hash. */
function usesOf(db: Db): (hash: string) => boolean {
  const used = db
    .prepare(
      `SELECT EXISTS (SELECT 1 FROM journeys WHERE instr(document, @hash) > 0)
           OR EXISTS (SELECT 1 FROM versions WHERE instr(document, @hash) > 0)
           OR EXISTS (SELECT 1 FROM styles WHERE instr(look, @hash) > 0)
           OR EXISTS (SELECT 1 FROM exports WHERE state IN ('queued', 'running') AND instr(document, @hash) > 0)`,
    )
    .pluck()
  return (hash) => used.get({ hash }) === 1
}

export function listFiled(db: Db, folder: string, kind: FiledKind): Filed[] {
  const isUsed = usesOf(db)
  const named = db
    .prepare(
      `SELECT entry.value ->> 'name' FROM journeys, json_each(journeys.document, @list) AS entry
         WHERE instr(journeys.document, @hash) > 0 AND entry.value ->> 'file' = @hash LIMIT 1`,
    )
    .pluck()
  return filesOf(folder, kind).map(({ hash, path }) => ({
    hash,
    bytes: statSync(path).size,
    name: (named.get({ hash, list: NAMED_IN[kind] }) as string | undefined) ?? null,
    isUsed: isUsed(hash),
  }))
}

/** Deletes a file that nothing has. @returns why not, if it is not deleted */
export function deleteFiled(db: Db, folder: string, kind: FiledKind, hash: string): 'missing' | 'used' | undefined {
  const found = filesOf(folder, kind).find((file) => file.hash === hash)
  if (!found) return 'missing'
  if (usesOf(db)(hash)) return 'used'
  rmSync(found.path, { force: true })
  return undefined
}

/** Deletes files that have been unused for an age in milliseconds, and what was left of those that never came in whole. */
export function sweepFiled(db: Db, folder: string, kind: FiledKind, age: number): void {
  const path = join(folder, kind)
  if (!existsSync(path)) return
  const isUsed = usesOf(db)
  for (const file of readdirSync(path)) {
    const isOld = statSync(join(path, file)).mtimeMs <= Date.now() - age
    if (isOld && !isUsed(file.slice(0, HASH_LENGTH))) rmSync(join(path, file), { force: true })
  }
}
