import { existsSync, readFileSync } from 'node:fs'
import { chmod, rename, writeFile } from 'node:fs/promises'
import { join } from 'node:path'
import { z } from 'zod'
import { hostOf } from '#core/tiles/template'

/**
 * Keys of services, by their hosts: in a file of their own that only this user may read, so that they are in no journey, no file that is given away, no
 * database that is copied, and no log.
 */

const keysSchema = z.record(z.string(), z.string())

const pathIn = (folder: string) => join(folder, 'service-keys.json')

function keysIn(folder: string): Record<string, string> {
  const path = pathIn(folder)
  if (!existsSync(path)) return {}
  try {
    return keysSchema.parse(JSON.parse(readFileSync(path, 'utf8')))
  } catch {
    // A damaged file costs typing the keys again, and no more.
    return {}
  }
}

/** The key for the service at an address; undefined if there is none. */
export const keyFor = (folder: string, address: string): string | undefined => keysIn(folder)[hostOf(address)]

/** Keeps the key for the service at an address. */
export async function keepKey(folder: string, address: string, key: string): Promise<void> {
  const path = pathIn(folder)
  const next = { ...keysIn(folder), [hostOf(address)]: key }
  await writeFile(`${path}.new`, JSON.stringify(next), { mode: 0o600 })
  await chmod(`${path}.new`, 0o600)
  await rename(`${path}.new`, path)
}
