import { existsSync } from 'node:fs'
import { join } from 'node:path'
import { pathToFileURL } from 'node:url'
import { Worker } from 'node:worker_threads'

/**
 * Starts a thread whose source is in server/render. It is read from Zephyrine's folder, as the server's bundle is elsewhere.
 * @param name of the file that registers tsx and imports the thread's source
 */
export function startThread(name: string, workerData?: unknown): Worker {
  const path = join(process.cwd(), 'server/render', name)
  if (!existsSync(path)) throw new Error(`The painter is not at ${path}: start Zephyrine in its own folder.`)
  return new Worker(pathToFileURL(path), { workerData, execArgv: [] })
}
