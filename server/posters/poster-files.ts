import { existsSync, mkdirSync, readdirSync, rmSync, statSync } from 'node:fs'
import { join } from 'node:path'

/** Posters lie in a folder of their own, named after the journey and the revision they show. */

const folderOf = (data: string): string => join(data, 'posters')

export const posterPath = (data: string, id: string, revision: number): string => join(folderOf(data), `${id}.${revision}.webp`)

/** The revision of each journey's newest poster. */
export function storedPosters(data: string): Map<string, number> {
  const newest = new Map<string, number>()
  if (!existsSync(folderOf(data))) return newest
  for (const file of readdirSync(folderOf(data))) {
    const [, id, revision] = /^([\w-]+)\.(\d+)\.webp$/.exec(file) ?? []
    if (!id || statSync(join(folderOf(data), file)).size === 0) continue
    if (Number(revision) > (newest.get(id) ?? 0)) newest.set(id, Number(revision))
  }
  return newest
}

/** Deletes what a journey's newest poster has replaced. */
export function deleteOlderPosters(data: string, id: string, newest: number): void {
  for (const file of readdirSync(folderOf(data))) {
    const [, of, revision] = /^([\w-]+)\.(\d+)\.webp$/.exec(file) ?? []
    if (of === id && Number(revision) < newest) rmSync(join(folderOf(data), file), { force: true })
  }
}

/** Deletes posters of journeys that no longer exist, and unfinished files. */
export function sweepPosters(data: string, journeys: ReadonlySet<string>): void {
  mkdirSync(folderOf(data), { recursive: true })
  for (const file of readdirSync(folderOf(data))) {
    const [, id] = /^([\w-]+)\.\d+\.webp$/.exec(file) ?? []
    if (!id || !journeys.has(id)) rmSync(join(folderOf(data), file), { force: true })
  }
}
