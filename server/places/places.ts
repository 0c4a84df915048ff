import { existsSync } from 'node:fs'
import { join } from 'node:path'
import { startProcess } from '../programs'
import type { PlaceSearch } from './search'
import { openPlaces } from './search'

let opened: Promise<PlaceSearch> | undefined

/** The path of the list: it comes from packages and is the same for all data folders. The number is the version of its schema. */
export const placesPath = () => join(process.cwd(), 'node_modules/.cache/zephyrine/places-5.sqlite')

/** The list of places; built on the first call, in a separate process, as that takes some seconds. */
export function places(): Promise<PlaceSearch> {
  opened ??= open(placesPath()).catch((error: unknown) => {
    opened = undefined
    throw error
  })
  return opened
}

async function open(path: string): Promise<PlaceSearch> {
  if (!existsSync(path)) await makeList(path)
  const search = openPlaces(path)
  return {
    ...search,
    close() {
      opened = undefined
      search.close()
    },
  }
}

function makeList(path: string): Promise<void> {
  const child = startProcess('place-index', [path])
  return new Promise((resolve, reject) => {
    child.on('error', reject)
    child.on('exit', (code) => (code === 0 ? resolve() : reject(new Error('The list of places could not be made.'))))
  })
}
